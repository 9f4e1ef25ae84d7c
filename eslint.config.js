import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** Arrows point one way only: web and server -> contracts -> core. See docs/architecture.md. */
function mayNotImport(files, patterns, why) {
  return {
    files,
    rules: { 'no-restricted-imports': ['error', { patterns: [{ group: patterns, message: why }] }] },
  };
}

export default tseslint.config(
  {
    ignores: ['**/dist/**', '**/node_modules/**', 'data/**', '.mutation/**', 'test-results/**', 'playwright-report/**'],
  },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    languageOptions: { parserOptions: { emitDecoratorMetadata: true, experimentalDecorators: true } },
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: 'error',
      'no-console': 'error',
      'max-lines': ['error', 400],
      // RTK Query says "no argument" with void
      '@typescript-eslint/no-invalid-void-type': 'off',
    },
  },
  {
    files: ['**/*.mjs', 'scripts/**', 'eslint.config.js'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        setTimeout: 'readonly',
        clearTimeout: 'readonly',
        URL: 'readonly',
        fetch: 'readonly',
        Buffer: 'readonly',
        performance: 'readonly',
        localStorage: 'readonly',
        setInterval: 'readonly',
        clearInterval: 'readonly',
        AbortController: 'readonly',
        TextDecoder: 'readonly',
        AbortSignal: 'readonly',
      },
    },
    rules: { 'no-console': 'off' },
  },
  {
    files: ['apps/server/src/**/*.ts'],
    rules: {
      '@typescript-eslint/no-extraneous-class': 'off',
      // inside a transaction (or a reading over one connection) only its own connection is used; the pool refuses a second one too
      'no-restricted-syntax': [
        'error',
        {
          selector:
            'CallExpression[callee.property.name=/^(run|change|transaction|reading|notice)$/] > :function MemberExpression[property.name=/^(tables|pool|database)$/]',
          message: 'Inside a transaction only its own connection is used: ask with `tx` (or `reader`).',
        },
        {
          selector:
            'CallExpression[callee.property.name=/^(run|change|transaction|reading|notice)$/] > :function CallExpression[callee.property.name=/^(detail|sheet|bill|do|layOut)$/]',
          message: 'This asks for a connection of its own, or renders: not inside a transaction.',
        },
      ],
    },
  },
  { files: ['apps/web/src/**/*.{ts,tsx}'], ...hooks.configs.flat['recommended-latest'] },
  mayNotImport(
    ['packages/core/src/**/*.ts'],
    ['@norther/*', 'node:*', 'fs', 'path', 'react*', '@nestjs/*', 'drizzle-orm*'],
    'core is pure: it imports nothing of the others, no I/O, no framework (Zod is its one dependency).',
  ),
  mayNotImport(
    ['packages/contracts/src/**/*.ts'],
    ['@norther/server*', '@norther/web*', 'node:*', 'react*', '@nestjs/*', 'drizzle-orm*'],
    'contracts imports core only.',
  ),
  mayNotImport(['apps/server/src/**/*.ts'], ['@norther/web*', 'react*', '**/apps/web/**'], 'server never imports web.'),
  {
    // repositories own all SQL: they, and statements they share with the backfills
    files: ['apps/server/src/**/*.ts'],
    ignores: ['**/*Repository.ts', '**/*Statements.ts', 'apps/server/src/database/**', '**/*.test.ts', '**/testing/**'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { group: ['@norther/web*', 'react*', '**/apps/web/**'], message: 'server never imports web.' },
            {
              group: ['drizzle-orm*', '**/database/schema.ts', '**/schema/*.ts'],
              message: 'Repositories own all SQL: ask one of them.',
            },
          ],
        },
      ],
    },
  },
  mayNotImport(
    ['apps/web/src/**/!(*.test).{ts,tsx}'],
    ['@norther/server*', '@nestjs/*', 'drizzle-orm*', 'node:*', '**/apps/server/**'],
    'web never imports server.',
  ),
);
