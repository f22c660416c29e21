import next from 'eslint-config-next';
import tseslint from 'typescript-eslint';

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
  { files: ['ops/**', 'bench/**', 'attacks/**'], rules: { 'no-console': 'off' } },
];

export default config;
