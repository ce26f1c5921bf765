import js from '@eslint/js';
import regexp from 'eslint-plugin-regexp';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';

/** What the core may not touch: it has no clock, no chance, no process, no locale of its own. */
const OUTSIDE_CORE = [
  'process',
  'fetch',
  'console',
  'setTimeout',
  'setInterval',
  'setImmediate',
  'Date',
  'Intl'
];
const UNIT_OF_WORK = {
  selector: "CallExpression[callee.property.name='transaction']",
  message: 'Everything is written in a unit of work: src/lib/server/db/unit-of-work.ts.'
};
const forbid = (names) =>
  names.map((name) => ({ name, message: 'The core gets everything as an argument.' }));

export default ts.config(
  { ignores: ['build/', '.svelte-kit/', 'node_modules/', 'data/', 'test-results/'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...svelte.configs.recommended,
  {
    languageOptions: { globals: { ...globals.node, ...globals.browser } },
    rules: {
      'no-empty': 'error',
      'no-undef': 'off',
      'max-lines-per-function': ['error', { max: 80, skipBlankLines: true, skipComments: true }],
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', destructuredArrayIgnorePattern: '^_' }
      ],
      // Paths are local; the application is always served from the root.
      'svelte/no-navigation-without-resolve': 'off'
    }
  },
  {
    files: [
      '**/*.test.ts',
      'tests/**',
      'scripts/bench/**',
      '**/*.config.*',
      '**/*.cjs',
      'src/lib/server/in-out/imports.ts'
    ],
    rules: { 'max-lines-per-function': 'off' }
  },
  {
    // An expression whose time grows with the square of what it is given lets one field hold everybody.
    files: ['src/**/*.ts', 'src/**/*.svelte', 'standin/**/*.ts'],
    ignores: ['**/*.test.ts'],
    plugins: { regexp },
    rules: {
      'regexp/no-super-linear-backtracking': ['error', { report: 'potential' }],
      'regexp/no-super-linear-move': ['error', { report: 'potential' }]
    }
  },
  {
    // What many have to agree on is said in one value, and not in a row of arguments.
    files: ['src/lib/core/forecast/**/*.ts', 'src/lib/server/engine/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: { 'max-params': ['error', 5] }
  },
  {
    files: ['src/lib/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', ...forbid(OUTSIDE_CORE)],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'The core leaves nothing to chance.' }
      ]
    }
  },
  {
    files: ['src/lib/core/time/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: { 'no-restricted-globals': ['error', ...forbid(OUTSIDE_CORE.filter((name) => name !== 'Intl'))] }
  },
  {
    // One unit of work: nothing else begins, commits or takes back.
    files: ['src/**/*.ts', 'demo/**/*.ts'],
    ignores: ['src/lib/server/db/unit-of-work.ts', 'src/lib/server/db/migrate.ts', '**/*.test.ts'],
    rules: {
      'no-restricted-syntax': ['error', UNIT_OF_WORK]
    }
  },
  {
    // What is stored is asked of services and views: a route says who asks what, and in which form it answers.
    files: ['src/routes/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        UNIT_OF_WORK,
        {
          selector: "MemberExpression[property.name='stores'], ObjectPattern > Property[key.name='stores']",
          message: 'A route asks services and views, not what is stored.'
        },
        {
          selector: "MemberExpression[property.name='work'], ObjectPattern > Property[key.name='work']",
          message: 'A route begins no unit of work: a service does.'
        }
      ]
    }
  },
  {
    // A promise that nobody waits for fails unheard: it is awaited, given back, or marked as meant with `void`.
    files: ['src/**/*.ts', 'demo/**/*.ts', 'standin/**/*.ts', 'scripts/**/*.ts', 'tests/**/*.ts'],
    ignores: ['**/*.svelte.ts'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { arguments: false } }],
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/no-unnecessary-type-assertion': 'error'
    }
  },
  { files: ['**/*.svelte', '**/*.svelte.ts'], languageOptions: { parserOptions: { parser: ts.parser } } },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } }
);
