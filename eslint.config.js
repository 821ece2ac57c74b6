import boundaries from 'eslint-plugin-boundaries';
import hooks from 'eslint-plugin-react-hooks';
import prettier from 'eslint-config-prettier';
import tseslint from 'typescript-eslint';

const from = (type, allow) => ({ from: { element: { type } }, allow: { to: { element: { type: allow } } } });

/** The folders of the core from the top down: each may import from itself and from what stands below it. */
const CORE = [
  'draft',
  'project',
  'ship',
  'graph',
  'set',
  'join',
  'recipe',
  'steps',
  'fit',
  'passport',
  'edit',
  'find',
  'measure',
  'character',
  'formats',
  'anatomy',
  'model',
  'math',
];

export default tseslint.config(
  { ignores: ['**/node_modules/', '**/.next/', '**/dist/', '.lantern/', '**/next-env.d.ts', 'apps/studio/drizzle/'] },
  ...tseslint.configs.recommended,
  {
    files: ['**/*.{ts,tsx,js,mjs}'],
    plugins: { boundaries, 'react-hooks': hooks },
    settings: {
      'import/resolver': { typescript: { project: ['packages/*/tsconfig.json', 'apps/*/tsconfig.json'] } },
      'boundaries/include': ['packages/**', 'apps/**'],
      'boundaries/elements': [
        ...CORE.map((folder) => ({ type: `motion-${folder}`, pattern: `packages/motion/src/${folder}/**`, partialMatch: false })),
        { type: 'motion', pattern: 'packages/motion/src', partialMatch: false },
        { type: 'drive', pattern: 'packages/drive/src/**', partialMatch: false },
        { type: 'capture', pattern: 'packages/capture/src/**', partialMatch: false },
        { type: 'cast', pattern: 'packages/cast/src/**', partialMatch: false },
        { type: 'unpack', pattern: 'packages/unpack/src/**', partialMatch: false },
        { type: 'cli', pattern: 'apps/cli/src/**', partialMatch: false },
        { type: 'http', pattern: 'apps/studio/src/http/**', partialMatch: false },
        { type: 'server', pattern: 'apps/studio/src/server/**', partialMatch: false },
        { type: 'worker', pattern: 'apps/studio/src/worker/**', partialMatch: false },
        { type: 'stage', pattern: 'apps/studio/src/stage/**', partialMatch: false },
        { type: 'timeline', pattern: 'apps/studio/src/timeline/**', partialMatch: false },
        { type: 'data', pattern: 'apps/studio/src/data/**', partialMatch: false },
        { type: 'controls', pattern: 'apps/studio/src/controls/**', partialMatch: false },
        { type: 'shell', pattern: 'apps/studio/src/shell/**', partialMatch: false },
        { type: 'places', pattern: 'apps/studio/src/places/**', partialMatch: false },
        { type: 'app', pattern: 'apps/studio/src/app/**', partialMatch: false },
      ],
    },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
  {
    // Data flows one way: the core knows nobody, places show what the worker and the server give them.
    files: ['packages/**/*.ts', 'apps/**/*.{ts,tsx}'],
    rules: {
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          policies: [
            from('drive', ['drive']),
            from('motion', ['motion', 'drive', ...CORE.map((folder) => `motion-${folder}`)]),
            ...CORE.map((folder, i) => from(`motion-${folder}`, ['motion', 'drive', ...CORE.slice(i).map((below) => `motion-${below}`)])),
            from('capture', ['capture', 'motion']),
            from('cast', ['cast', 'motion']),
            from('unpack', ['unpack', 'motion']),
            from('cli', ['cli', 'motion', 'capture', 'cast', 'unpack']),
            from('http', ['http', 'motion', 'capture']),
            from('server', ['server', 'http', 'motion', 'capture', 'cast', 'unpack']),
            from('worker', ['worker', 'drive', 'motion']),
            from('data', ['data', 'drive', 'worker', 'http', 'motion']),
            from('controls', ['controls', 'data', 'worker', 'motion']),
            from('timeline', ['timeline', 'controls', 'data', 'worker', 'motion']),
            from('stage', ['stage', 'drive', 'controls', 'data', 'worker', 'motion']),
            from('shell', ['shell', 'controls', 'data', 'worker', 'motion']),
            from('places', ['places', 'drive', 'shell', 'stage', 'timeline', 'controls', 'data', 'http', 'worker', 'motion', 'capture']),
            from('app', ['app', 'places', 'shell', 'server', 'http', 'motion']),
          ],
        },
      ],
    },
  },
  {
    files: ['packages/motion/src/**/*.ts', 'packages/drive/src/**/*.ts', 'packages/capture/src/**/*.ts', 'packages/cast/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: ['node:*', 'react', 'react-dom', 'next', 'next/*', 'three', 'three/*', '@mui/*', 'pg', 'drizzle-orm'] },
      ],
      'no-restricted-globals': ['error', 'window', 'document', 'process', 'Buffer', 'fetch'],
    },
  },
  prettier,
);
