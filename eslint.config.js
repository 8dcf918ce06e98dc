import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** Who may import from whom: core from nobody; contract from core; web and cli never reach into each other. */
const forbid = (files, folders) => ({
  files,
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            group: folders.map((folder) => `**/${folder}/**`),
            message: 'See docs/architecture.md for who may import from whom.',
          },
        ],
      },
    ],
  },
});

export default tseslint.config(
  { ignores: ['dist/', 'node_modules/', 'test-results/', '.data*/', 'core/kernels/assembly/'] },
  ...tseslint.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    languageOptions: {
      parserOptions: {
        project: ['core', 'contract', 'web', 'server'].map((folder) => `${folder}/tsconfig.json`),
        tsconfigRootDir: import.meta.dirname,
      },
    },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: 'error',
      'no-console': 'off',
    },
  },
  {
    files: ['web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  forbid(['core/**/*.ts'], ['server', 'web', 'cli', 'contract', 'bench', 'e2e']),
  {
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', 'Date', 'process', 'fetch', 'window', 'document', 'setTimeout'],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random', message: 'Core takes a seed.' }],
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { regex: '^(?!\\.{1,2}/)', message: 'Core imports nothing but core.' },
            {
              group: ['**/server/**', '**/web/**', '**/cli/**', '**/contract/**', '**/bench/**', '**/e2e/**'],
              message: 'Core imports nothing but core.',
            },
          ],
        },
      ],
    },
  },
  // The sun's place needs a date and its library; the date comes from the plan, never from the clock.
  {
    files: ['core/plan/sun.ts'],
    rules: {
      'no-restricted-globals': 'off',
      'no-restricted-imports': [
        'error',
        { patterns: [{ regex: '^(?!\\.{1,2}/|suncalc$)', message: 'Core imports nothing but core.' }] },
      ],
    },
  },
  forbid(['contract/**/*.ts'], ['server', 'web', 'cli']),
  forbid(['web/**/*.{ts,tsx}'], ['server', 'cli', 'bench']),
  forbid(['server/**/*.ts'], ['web', 'cli', 'bench']),
);
