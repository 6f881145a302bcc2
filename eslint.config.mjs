import js from '@eslint/js';
import tseslint from 'typescript-eslint';
import reactHooks from 'eslint-plugin-react-hooks';

const DISK = ['fs', 'fs/promises', 'node:fs', 'node:fs/promises'];
const noDisk = {
  paths: DISK.map((name) => ({ name, message: 'Only apps/server/src/disk touches the file system.' })),
};

// The layers: web -> core, server -> core, core -> nothing. docs/architecture.md tells why.
export default tseslint.config(
  {
    ignores: [
      '**/dist/**',
      '**/node_modules/**',
      'data/**',
      '.data*/**',
      'apps/web/src/data/api.d.ts',
      'e2e/results/**',
      'apps/server/test/together/**',
    ],
  },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', ignoreRestSiblings: true }],
      '@typescript-eslint/consistent-type-imports': 'off',
    },
  },
  {
    files: ['packages/core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: '^node:|^(fs|path|os|crypto|child_process)(/|$)',
              message: 'core is pure: no platform modules.',
            },
            {
              regex: '^@nestjs|^typeorm|^react|^@mui|@arkiv/(server|web)',
              message: 'core imports no framework and no other layer.',
            },
          ],
        },
      ],
      'no-restricted-globals': [
        'error',
        'process',
        'window',
        'document',
        'fetch',
        'setTimeout',
        'setInterval',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'core has no clock: take the time as an argument.' },
        { object: 'Math', property: 'random', message: 'core has no randomness: take it as an argument.' },
      ],
      'no-restricted-syntax': [
        'error',
        {
          selector: "NewExpression[callee.name='Date'][arguments.length=0]",
          message: 'core has no clock: take the time as an argument.',
        },
      ],
    },
  },
  {
    files: ['apps/server/src/**/*.ts'],
    ignores: ['apps/server/src/disk/**', '**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          ...noDisk,
          patterns: [
            { regex: '@arkiv/web|^react|^@mui', message: 'The server does not know the interface.' },
          ],
        },
      ],
      'no-restricted-syntax': [
        'error',
        { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: 'Inject Clock.' },
        {
          selector: "CallExpression[callee.object.name='Date'][callee.property.name='now']",
          message: 'Inject Clock.',
        },
        {
          selector: "CallExpression[callee.object.name='Math'][callee.property.name='random']",
          message: 'Inject Ids.',
        },
      ],
    },
  },
  {
    files: ['apps/web/src/**/*.{ts,tsx}'],
    // Holds texts that lie beside the program to the program's own.
    ignores: ['apps/web/src/screens/guide/guide.test.ts'],
    plugins: { 'react-hooks': reactHooks },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: '^node:|@arkiv/server|apps/server|^@nestjs|^typeorm',
              message: 'The web knows only core and the API.',
            },
          ],
        },
      ],
    },
  },
  {
    files: ['**/*.cjs'],
    languageOptions: {
      globals: {
        module: 'writable',
        require: 'readonly',
        __dirname: 'readonly',
        process: 'readonly',
        console: 'readonly',
        Buffer: 'readonly',
      },
    },
    rules: { '@typescript-eslint/no-require-imports': 'off' },
  },
  {
    files: ['**/*.mjs', 'tools/demo/scene/*.js'],
    languageOptions: {
      globals: Object.fromEntries(
        [
          'process',
          'console',
          'Buffer',
          'URL',
          'AbortController',
          'setTimeout',
          'clearTimeout',
          'setInterval',
          'clearInterval',
          'fetch',
          'performance',
          'document',
          'window',
          'AbortSignal',
        ].map((n) => [n, 'readonly']),
      ),
    },
  },
);
