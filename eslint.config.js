import js from '@eslint/js';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['**/dist/', '**/node_modules/', '.data/', '.cache/', 'test-results/'] },
  js.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    extends: [tseslint.configs.strict],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      // What is left out of a copy is named to be left out.
      '@typescript-eslint/no-unused-vars': ['error', { ignoreRestSiblings: true, argsIgnorePattern: '^_+$' }],
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/consistent-type-imports': ['error', { disallowTypeAnnotations: false }],
      '@typescript-eslint/no-invalid-void-type': 'off',
      '@typescript-eslint/no-extraneous-class': 'off',
    },
  },
  {
    // What must not be forgotten: a promise that nobody waits for, and a case that nobody handles.
    files: ['packages/*/src/**/*.ts', 'apps/*/src/**/*.{ts,tsx}'],
    ignores: ['**/*.test.ts', '**/*.test.tsx', '**/src/test/**'],
    languageOptions: {
      parserOptions: {
        project: [
          'packages/core/tsconfig.json',
          'packages/families/tsconfig.json',
          'packages/cli/tsconfig.json',
          'packages/tables/tsconfig.json',
          'apps/server/tsconfig.json',
          'apps/web/tsconfig.json',
        ],
        tsconfigRootDir: import.meta.dirname,
      },
    },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': [
        'error',
        { considerDefaultExhaustiveForUnions: true },
      ],
    },
  },
  {
    // Injected classes and body DTOs need their imports as values.
    files: ['apps/server/**/*.ts'],
    rules: { '@typescript-eslint/consistent-type-imports': 'off' },
  },
  {
    files: ['packages/core/src/**/*.ts', 'packages/families/src/**/*.ts'],
    ignores: ['**/*.test.ts', '**/src/test/**'],
    rules: {
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'process',
        'Buffer',
        'fetch',
        'localStorage',
        'performance',
        'setTimeout',
        'setInterval',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'The core has no clock: take the time as an argument.' },
        {
          object: 'Math',
          property: 'random',
          message: 'The core has no chance: take a seeded stream as an argument.',
        },
      ],
    },
  },
  {
    files: ['apps/web/src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'warn' },
  },
  {
    files: ['**/*.{mjs,cjs,js}'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        setTimeout: 'readonly',
        clearTimeout: 'readonly',
        fetch: 'readonly',
        URL: 'readonly',
        module: 'readonly',
        performance: 'readonly',
        Buffer: 'readonly',
      },
    },
  },
  // Parts of these run inside the page.
  {
    files: ['e2e/*.mjs'],
    languageOptions: {
      globals: Object.fromEntries(
        [
          'document',
          'DOMException',
          'IDBObjectStore',
          'indexedDB',
          'localStorage',
          'location',
          'navigator',
          'window',
        ].map((name) => [name, 'readonly']),
      ),
    },
  },
  { files: ['e2e/**/*.ts'], rules: { 'no-empty-pattern': 'off' } },
);
