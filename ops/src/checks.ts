/** A check that needs no more than packages: what it is called, and the program with its arguments. */
export interface Check {
  name: string;
  program: string;
  args: readonly string[];
}

/** Rooms with rules about whom they may enter. */
const ROOMS = [
  'limits',
  'journal',
  'core',
  'store',
  'reader',
  'cli',
  'demo',
  'ops',
  'attacks',
  'bench',
  'web',
].map((name) => `${name}/src`);

/** The one list of checks, for `npm run check` and for every test run. */
export const CHECKS: readonly Check[] = [
  { name: 'layout of the code', program: 'prettier', args: ['--check', '--log-level', 'warn', '.'] },
  { name: 'lint', program: 'eslint', args: ['.', '--max-warnings', '0'] },
  { name: 'types of the core', program: 'tsc', args: ['-p', 'core'] },
  { name: 'types of the programs', program: 'tsc', args: ['-p', '.'] },
  { name: 'types of the web', program: 'tsc', args: ['-p', 'web'] },
  {
    name: 'import rules',
    program: 'depcruise',
    args: ['--config', '.dependency-cruiser.cjs', ...ROOMS],
  },
];
