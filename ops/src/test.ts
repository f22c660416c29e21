import { join } from 'node:path';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { buildWeb } from './build-web.ts';
import { CHECKS } from './checks.ts';
import { atEnd, endAll } from './ending.ts';
import { dataFolder } from './identity.ts';
import { serve } from './serve.ts';
import { root, runTee } from './shell.ts';

const TEST_PORT = 4499;

/** Mutated files that each run reads; `npm run attacks` reads more. */
const MUTATIONS = 200;

interface Tally {
  passed: number;
  failed: number;
}

/** Everything: lint, types, import rules, unit tests, build, interface tests. Ends with a plain line of counts. */
export async function test(): Promise<void> {
  // Whatever a test leaves lying goes with it.
  const temporary = mkdtempSync(join(tmpdir(), 'calque-test-'));
  chmodSync(temporary, 0o755);
  process.env.TMPDIR = temporary;
  // When all that writes there has ended.
  process.on('exit', () => rmSync(temporary, { recursive: true, force: true, maxRetries: 3 }));
  const tally: Tally = { passed: 0, failed: 0 },
    failures: string[] = [];
  const bin = (name: string) => join(root, 'node_modules/.bin', name);
  const step = async (
    name: string,
    program: string,
    args: string[],
    count: (output: string) => Tally | null = () => null,
    env?: NodeJS.ProcessEnv,
  ) => {
    console.log(`\n== ${name}`);
    const { status, output } = await runTee(program, args, env);
    const counted = count(output);
    if (status !== 0) failures.push(`== ${name}\n${whatFailed(output)}`);
    // A step that failed without a failed test of its own (a crash, a lint error) counts as one.
    tally.passed += counted ? counted.passed : status === 0 ? 1 : 0;
    tally.failed += counted ? Math.max(counted.failed, status === 0 ? 0 : 1) : status === 0 ? 0 : 1;
  };
  for (const { name, program, args } of CHECKS) await step(name, bin(program), [...args]);
  await step('unit tests', bin('vitest'), ['run'], countVitest);
  console.log('\n== build');
  let built = true;
  try {
    await buildWeb();
    tally.passed++;
  } catch (error) {
    built = false;
    tally.failed++;
    console.error(error instanceof Error ? error.message : error);
    failures.push('== build');
  }
  if (built) await interfaceTests(step, bin);
  // A log is often read from its end.
  if (failures.length > 0) console.log(`\nWhat failed:\n${failures.join('\n')}`);
  console.log(`\n${tally.passed} passed, ${tally.failed} failed`);
  await endAll(tally.failed === 0 ? 0 : 1);
}

/** The checks that need no more than packages, for a look before a commit. */
export async function check(): Promise<void> {
  let failed = 0;
  for (const { name, program, args } of CHECKS) {
    console.log(`\n== ${name}`);
    const { status } = await runTee(join(root, 'node_modules/.bin', program), [...args]);
    if (status !== 0) failed++;
  }
  console.log(`\n${CHECKS.length - failed} passed, ${failed} failed`);
  await endAll(failed === 0 ? 0 : 1);
}

async function interfaceTests(
  step: (
    name: string,
    program: string,
    args: string[],
    count: (output: string) => Tally | null,
    env: NodeJS.ProcessEnv,
  ) => Promise<void>,
  bin: (name: string) => string,
): Promise<void> {
  const folder = dataFolder('test');
  rmSync(folder, { recursive: true, force: true });
  const serving = await serve('test', TEST_PORT, true);
  const clean = () => serving.stop().then(() => rmSync(folder, { recursive: true, force: true }));
  const off = atEnd(clean);
  await step(
    'interface tests',
    bin('playwright'),
    ['test', '-c', 'e2e/playwright.config.ts'],
    countPlaywright,
    {
      ...process.env,
      CALQUE_URL: serving.url,
      DATABASE_URL: serving.databaseUrl,
    },
  );
  await step(
    'attacks',
    process.execPath,
    [join(root, '.build/attacks.mjs'), String(MUTATIONS)],
    countAttacks,
    { ...process.env, ATTACKS_URL: serving.url },
  );
  off();
  await clean();
}

const SHOWN_LINES = 40;

/** The lines that name failed tests and say why; the last lines where none does. */
function whatFailed(output: string): string {
  const lines = plain(output).split('\n'),
    named = lines.filter((line) =>
      /^\s*(FAIL |\[?\w*Error|✘|Counterexample|\{ seed:|Test timeout)/.test(line),
    );
  return (named.length > 0 ? [...new Set(named)].slice(0, SHOWN_LINES) : lines.slice(-SHOWN_LINES))
    .map((line) => line.slice(0, 400))
    .join('\n');
}

const plain = (output: string) => output.replace(/\u001b\[[0-9;]*m/g, '');

function numberBefore(output: string, word: RegExp): number {
  return [...output.matchAll(word)].reduce((sum, m) => sum + Number(m[1]), 0);
}

/** "Tests  2 failed | 40 passed (42)", with the colours taken out. */
function countVitest(output: string): Tally | null {
  const line = /^\s*Tests\s+(.*)$/m.exec(plain(output))?.[1];
  return line === undefined
    ? null
    : { passed: numberBefore(line, /(\d+) passed/g), failed: numberBefore(line, /(\d+) failed/g) };
}

function countPlaywright(output: string): Tally | null {
  const text = plain(output),
    passed = /^\s+(\d+) passed/m.exec(text),
    failed = /^\s+(\d+) failed/m.exec(text);
  return passed || failed ? { passed: Number(passed?.[1] ?? 0), failed: Number(failed?.[1] ?? 0) } : null;
}

function countAttacks(output: string): Tally | null {
  const line = /^attacks: (\d+) passed, (\d+) failed$/m.exec(output);
  return line && { passed: Number(line[1]), failed: Number(line[2]) };
}
