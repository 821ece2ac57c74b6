import boundaries from 'eslint-plugin-boundaries';
import hooks from 'eslint-plugin-react-hooks';
import prettier from 'eslint-config-prettier';
import tseslint from 'typescript-eslint';

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

/** Where each part is, and of which others it may import. Data flows one way: the core knows nobody, places show what the worker and the server give them. */
const PARTS = [
  { type: 'drive', folder: 'packages/drive/src/**', allow: [] },
  ...CORE.map((folder, i) => ({
    type: `motion-${folder}`,
    folder: `packages/motion/src/${folder}/**`,
    allow: ['motion', 'drive', ...CORE.slice(i + 1).map((below) => `motion-${below}`)],
  })),
  // After its folders, for the first that fits a file is its part.
  { type: 'motion', folder: 'packages/motion/src', allow: ['drive', ...CORE.map((folder) => `motion-${folder}`)] },
  { type: 'capture', folder: 'packages/capture/src/**', allow: ['motion'] },
  { type: 'cast', folder: 'packages/cast/src/**', allow: ['motion'] },
  { type: 'unpack', folder: 'packages/unpack/src/**', allow: ['motion'] },
  { type: 'cli', folder: 'apps/cli/src/**', allow: ['motion', 'capture', 'cast', 'unpack'] },
  ...[
    ['http', ['motion', 'capture']],
    ['server', ['http', 'motion', 'capture', 'cast', 'unpack']],
    ['worker', ['drive', 'motion']],
    ['data', ['drive', 'worker', 'http', 'motion']],
    ['controls', ['data', 'worker', 'motion']],
    ['timeline', ['controls', 'data', 'worker', 'motion']],
    ['stage', ['drive', 'controls', 'data', 'worker', 'motion']],
    ['shell', ['controls', 'data', 'worker', 'motion']],
    ['places', ['drive', 'shell', 'stage', 'timeline', 'controls', 'data', 'http', 'worker', 'motion', 'capture']],
    ['app', ['places', 'shell', 'server', 'http', 'motion']],
  ].map(([type, allow]) => ({ type, folder: `apps/studio/src/${type}/**`, allow })),
];

/** Each part by a rule of its own: one for all asks of every import about every part. */
const withinItsPart = ({ type, folder, allow }) => ({
  files: [folder.endsWith('**') ? `${folder}/*.{ts,tsx}` : `${folder}/*.ts`],
  rules: {
    'boundaries/dependencies': [
      'error',
      { default: 'disallow', policies: [{ from: { element: { type } }, allow: { to: { element: { type: [type, ...allow] } } } }] },
    ],
  },
});

export default tseslint.config(
  { ignores: ['**/node_modules/', '**/.next/', '**/dist/', '.lantern/', '**/next-env.d.ts', 'apps/studio/drizzle/'] },
  ...tseslint.configs.recommended,
  {
    files: ['**/*.{ts,tsx,js,mjs}'],
    plugins: { boundaries, 'react-hooks': hooks },
    settings: {
      'import/resolver': { typescript: { project: ['packages/*/tsconfig.json', 'apps/*/tsconfig.json'] } },
      'boundaries/include': ['packages/**', 'apps/**'],
      'boundaries/elements': PARTS.map(({ type, folder }) => ({ type, pattern: folder, partialMatch: false })),
    },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
  ...PARTS.map(withinItsPart),
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
