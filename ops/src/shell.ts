import { spawn, spawnSync } from 'node:child_process';

export const root = process.env.CALQUE_ROOT ?? process.cwd();

/** Runs a program to its end; its output is shown unless `quiet`, then only when it fails. */
export function mustRun(program: string, args: string[], options: { env?: NodeJS.ProcessEnv; quiet?: boolean; cwd?: string } = {}): string {
  const done = spawnSync(program, args, {
    cwd: options.cwd ?? root, env: options.env ?? process.env, encoding: 'utf8', stdio: options.quiet ? 'pipe' : 'inherit', maxBuffer: 64 << 20,
  });
  if (done.status !== 0) {
    throw new Error(`${program} ${args.join(' ')} failed${done.error ? `: ${done.error.message}` : ''}\n${done.stdout ?? ''}${done.stderr ?? ''}`);
  }
  return done.stdout ?? '';
}

export function succeeds(program: string, args: string[]): boolean {
  return spawnSync(program, args, { stdio: 'ignore' }).status === 0;
}

/** Runs a program, passes its output on, and gives both its status and what it printed. */
export function runTee(program: string, args: string[], env: NodeJS.ProcessEnv = process.env): Promise<{ status: number; output: string }> {
  return new Promise((resolve) => {
    const child = spawn(program, args, { cwd: root, env, stdio: ['ignore', 'pipe', 'pipe'] });
    let output = '';
    const take = (to: NodeJS.WriteStream) => (data: Buffer) => {
      output += data.toString();
      to.write(data);
    };
    child.stdout.on('data', take(process.stdout));
    child.stderr.on('data', take(process.stderr));
    child.on('close', (code) => resolve({ status: code ?? 1, output }));
    child.on('error', (error) => resolve({ status: 1, output: error.message }));
  });
}

/** Installs Debian packages that are missing; says what to do where it may not. */
export function ensureDebian(packages: Record<string, () => boolean>): void {
  const missing = Object.entries(packages).filter(([, present]) => !present()).map(([name]) => name);
  if (missing.length === 0) return;
  const asRoot = process.getuid?.() === 0;
  if (!asRoot && !succeeds('sudo', ['-n', 'true'])) {
    throw new Error(`Missing from this machine: ${missing.join(', ')}. Run: sudo apt-get install ${missing.join(' ')}`);
  }
  console.log(`Installing ${missing.join(', ')} from Debian's packages (once) …`);
  const apt = (...args: string[]) => (asRoot ? mustRun('apt-get', args, { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }, quiet: true })
    : mustRun('sudo', ['-n', 'DEBIAN_FRONTEND=noninteractive', 'apt-get', ...args], { quiet: true }));
  apt('update', '-q');
  apt('install', '-y', '-q', '--no-install-recommends', ...missing);
}
