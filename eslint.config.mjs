import next from 'eslint-config-next';
import tseslint from 'typescript-eslint';

/** Loops over pixels and segments, which lie as deep as their rows, columns and neighbours do. */
const DEEP_LOOPS = [
  'core/src/ink/**',
  'core/src/linework/{arcs-round,stroked-twins}.ts',
  'core/src/conversion/runs.ts',
  'core/src/model/chains.ts',
  'core/src/registration/register.ts',
  'core/src/snapping/query.ts',
  'web/src/table/strokes.ts',
];
/** One table of cases each, or a reader of a language: longer than others, and read from top to bottom. */
const MANY_CASES = [
  'core/src/calibration/printed/{read-printed,report,scale-bar,unit-evidence}.ts',
  'core/src/exchange/svg/{path-data,read-svg}.ts',
  'core/src/ink/{fit/fit-at,lines/faint-lines}.ts',
  'core/src/linework/{arcs-round,interpret}.ts',
  'core/src/units/figures.ts',
  'bench/src/faults/three-tabs.ts',
  'web/src/stages/calibrate/found-card.tsx',
  'web/src/stages/sheets/lay-form.tsx',
  'web/src/table/{input,snapping,trace-cache}.ts',
];
/** Inner loops that are called for every segment or tile, and take their numbers one by one. */
const MANY_NUMBERS = [
  'core/src/linework/collector.ts',
  'core/src/exchange/svg/path-data.ts',
  'store/src/steps.ts',
  'web/src/stages/calibrate/straighten.ts',
  'web/src/table/{snapping,tile-cache}.ts',
];

/** Habits that the code keeps; types do the rest. */
const config = [
  {
    ignores: [
      '**/node_modules/**',
      '.build/**',
      '.data/**',
      'web/.next/**',
      'web/public/**',
      '**/next-env.d.ts',
      'test-results/**',
    ],
  },
  ...next.map((c) => ({ ...c, settings: { ...c.settings, next: { rootDir: 'web' } } })),
  ...tseslint.configs.recommended.map((c) => ({ ...c, files: ['**/*.ts', '**/*.tsx'] })),
  {
    files: ['**/*.ts', '**/*.tsx'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      eqeqeq: 'error',
      'no-console': ['error', { allow: ['error', 'warn'] }],
      'no-param-reassign': 'error',
      'prefer-const': 'error',
    },
  },
  {
    files: ['**/*.ts', '**/*.tsx'],
    ignores: ['**/test/**', 'e2e/**'],
    rules: {
      complexity: ['error', 20],
      'max-params': ['error', 7],
      'max-depth': ['error', 4],
      // A chain of conditions, each with its answer, reads like a table; one within another's question or answer does not.
      'no-restricted-syntax': [
        'error',
        {
          selector: 'ConditionalExpression > ConditionalExpression.test',
          message: 'A condition within the question of another: give it a name.',
        },
        {
          selector: 'ConditionalExpression > ConditionalExpression.consequent',
          message: 'A condition within the answer of another: turn it round, or give it a name.',
        },
      ],
    },
  },
  { files: DEEP_LOOPS, rules: { 'max-depth': 'off' } },
  { files: MANY_CASES, rules: { complexity: 'off' } },
  { files: MANY_NUMBERS, rules: { 'max-params': 'off' } },
  { files: ['ops/**', 'bench/**', 'attacks/**'], rules: { 'no-console': 'off' } },
];

export default config;
