import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

/** Imports that a folder must not make. The arrows point one way: web → core, server → core. */
const forbid = (group, message, paths = []) => ({
  'no-restricted-imports': ['error', { patterns: [{ group, message }], paths }],
});

/** Numbers are typed in one kind of field, which takes a comma as well. */
const oneNumberField = {
  name: 'react-aria-components',
  importNames: ['NumberField'],
  message: 'A number is typed in NumberBox or TypedNumber.',
};

const platform = [
  'node:*',
  'react',
  'react-*',
  'react/*',
  'styled-components',
  'sharp',
  'express',
  'sequelize',
  'pg',
  'pg-*',
];

export default ts.config(
  {
    ignores: [
      'core/kernels/assembly/**',
      'dist/**',
      '.builds/**',
      'data/**',
      'node_modules/**',
      'test-results/**',
      'playwright-report/**',
    ],
  },
  { linterOptions: { reportUnusedDisableDirectives: 'error' } },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      eqeqeq: 'error',
      // A cast past the types is allowed where it says why.
      'no-restricted-syntax': [
        'error',
        {
          selector: 'TSAsExpression[typeAnnotation.type="TSNeverKeyword"]',
          message: 'Say why, or do without.',
        },
        {
          selector: 'TSAsExpression > TSAsExpression[typeAnnotation.type="TSUnknownKeyword"]',
          message: 'Say why, or do without.',
        },
      ],
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['core/**/*.test.ts'],
    rules: forbid(
      [...platform, '**/server/**', '**/web/**'],
      'core computes and knows no platform: it imports neither web nor server.',
    ),
  },
  {
    files: ['words/**/*.ts'],
    rules: forbid(
      [...platform, '**/server/**', '**/web/**'],
      'words says what things are called, wherever they are shown.',
    ),
  },
  {
    files: ['server/**/*.ts'],
    rules: forbid(
      ['**/web/**', 'react', 'react-*', 'styled-components'],
      'server does not import the interface.',
    ),
  },
  {
    files: ['web/**/*.{ts,tsx}'],
    ignores: ['web/**/*.test.ts'],
    rules: forbid(
      ['**/server/**', 'node:*', 'sharp', 'express', 'sequelize', 'pg'],
      'web talks to the server over HTTP only.',
      [oneNumberField],
    ),
  },
  {
    files: ['web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    // All that React recommends, each as an error.
    rules: Object.fromEntries(Object.keys(hooks.configs.recommended.rules).map(rule => [rule, 'error'])),
  },
  {
    files: ['**/*.cjs'],
    languageOptions: { globals: { module: 'readonly' } },
  },
  {
    files: ['**/*.mjs', '*.js'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        URL: 'readonly',
        fetch: 'readonly',
        setTimeout: 'readonly',
        clearTimeout: 'readonly',
        setInterval: 'readonly',
        clearInterval: 'readonly',
        AbortSignal: 'readonly',
        Buffer: 'readonly',
        performance: 'readonly',
        // In functions that a script hands to a page.
        document: 'readonly',
        window: 'readonly',
        requestAnimationFrame: 'readonly',
        addEventListener: 'readonly',
        MutationObserver: 'readonly',
        PerformanceObserver: 'readonly',
        FormData: 'readonly',
        Blob: 'readonly',
        Worker: 'readonly',
      },
    },
  },
);
