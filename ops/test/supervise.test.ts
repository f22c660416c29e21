import { fileURLToPath } from 'node:url';
import { afterEach, describe, expect, it } from 'vitest';
import { StandIn } from '../src/stand-in.ts';
import { supervise, type PartState, type Supervised } from '../src/supervise.ts';

const parts: Supervised[] = [];
afterEach(() => Promise.all(parts.splice(0).map((p) => p.stop())));

function part(program: string): { states: PartState[]; part: Supervised } {
  const states: PartState[] = [];
  const made = supervise('part', {
    command: [process.execPath, '-e', program],
    env: process.env,
    cwd: '/',
    onState: (s) => void states.push(s),
    say: () => {},
  });
  parts.push(made);
  return { states, part: made };
}
const RUNS = 'setInterval(() => {}, 1000)';

describe('a part that is supervised', () => {
  it('comes back within seconds when it is killed, and not when it is stopped', async () => {
    const { states, part: p } = part(RUNS);
    const first = p.process!.pid!;
    p.process!.kill('SIGKILL');
    await expect.poll(() => p.process?.pid ?? first, { timeout: 5000 }).not.toBe(first);
    expect(states.map((s) => s.state)).toContain('restarting');
    await p.stop();
    await new Promise((resolve) => setTimeout(resolve, 600));
    expect(p.process).toBeNull();
  });

  it('one that ends again and again is failing, with its last words as the reason', async () => {
    const { states } = part('console.error("the disk is full"); process.exit(3)');
    await expect.poll(() => states.at(-1)?.state, { timeout: 15000 }).toBe('failing');
    expect(states.at(-1)!.why).toBe('ended with 3: the disk is full');
  });

  it('ends when the one that started it is killed', async () => {
    const { spawn } = await import('node:child_process');
    const source = new URL('../src/supervise.ts', import.meta.url).href,
      bundle = await import('esbuild');
    const { outputFiles } = await bundle.build({
      stdin: {
        contents: `import { supervise } from ${JSON.stringify(fileURLToPath(source))};
      const p = supervise('part', { command: [process.execPath, '-e', 'process.once("disconnect", () => process.exit()); ${RUNS}'], env: process.env, cwd: '/', onState: () => {} });
      console.log(p.process.pid); setInterval(() => {}, 1000);`,
        resolveDir: '/',
      },
      bundle: true,
      platform: 'node',
      format: 'esm',
      write: false,
    });
    const parent = spawn(process.execPath, ['--input-type=module', '-e', outputFiles[0].text], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    const pid = await new Promise<number>((resolve) =>
      parent.stdout.once('data', (d: Buffer) => resolve(Number(d.toString()))),
    );
    const alive = () => {
      try {
        return process.kill(pid, 0);
      } catch {
        return false;
      }
    };
    expect(alive()).toBe(true);
    // Its program is loaded by then: what is not there yet hears of no end.
    await new Promise((resolve) => setTimeout(resolve, 500));
    parent.kill('SIGKILL');
    await expect.poll(alive, { timeout: 5000 }).toBe(false);
  });
});

it('whoever looks while the web server does not come up hears why, as text', async () => {
  const port = 45871;
  const standIn = new StandIn(port);
  standIn.show('ended with 1: <script>no</script>');
  const answer = await fetch(`http://127.0.0.1:${port}/`);
  const page = await answer.text();
  expect([answer.status, page.includes('<script>no'), page.includes('&#60;script&#62;no')]).toEqual([
    503,
    false,
    true,
  ]);
  standIn.hide();
  await expect(fetch(`http://127.0.0.1:${port}/`)).rejects.toThrow();
});
