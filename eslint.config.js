import js from '@eslint/js';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['build/', '.react-router/', 'node_modules/', 'server/db/migrations/', '.data/', '.cache/', 'test-results/', 'playwright-report/'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: 'error',
    },
  },
  {
    files: ['**/*.mjs'],
    languageOptions: {
      globals: {
        console: 'readonly',
        process: 'readonly',
        fetch: 'readonly',
        setTimeout: 'readonly',
        URL: 'readonly',
        URLSearchParams: 'readonly',
        Buffer: 'readonly',
        document: 'readonly',
        performance: 'readonly',
      },
    },
  },
  { files: ['app/**/*.{ts,tsx}'], ...reactHooks.configs.flat.recommended },
  {
    files: ['app/**/*.tsx'],
    // What is longer still than it may be; nothing is added here.
    ignores: [
      'app/bench/{TapArea,ladder,lamp,substitute,trials}.tsx',
      'app/bench/ladder/Readings.tsx',
      'app/cases/TestCard.tsx',
      'app/intake/new.tsx',
      'app/keys/key.tsx',
      'app/library/profile.tsx',
      'app/run/Step.tsx',
    ],
    // The lines within, and the one that opens it: no component over 120 lines.
    rules: { 'max-lines-per-function': ['error', { max: 121 }] },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: '^(react|@mui|@emotion|drizzle|express|node:|fs$|path$|crypto$|pg$|@electric)',
              message: 'core is pure: no interface, database or Node.',
            },
          ],
        },
      ],
      'no-restricted-globals': ['error', 'Date', 'performance', 'process', 'setTimeout', 'setInterval', 'window', 'document', 'fetch', 'crypto'],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random', message: 'Randomness comes in as an argument.' }],
      'no-restricted-syntax': ['error', { selector: 'ImportExpression', message: 'core has no dynamic imports.' }],
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.ts', '**/*.testing.ts', '**/schema.ts', '**/parseWith.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: '^(joi|react|@mui|@emotion|drizzle|express|node:|fs$|path$|crypto$|pg$|@electric)|(^|/)(schema|parseWith)$',
              message: 'Schemas stay out of what reaches the browser; core is pure.',
            },
          ],
        },
      ],
    },
  },
  {
    files: ['app/**/*.{ts,tsx}'],
    ignores: ['**/*.server.ts', '**/*.test.{ts,tsx}'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: '^joi$|core/.*/(schema|parseWith)$|/content/|^(drizzle-orm|pg|@electric-sql)',
              message: 'The browser gets validated data from loaders.',
            },
          ],
        },
      ],
    },
  },
);
