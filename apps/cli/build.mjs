import { rm } from 'node:fs/promises';
import { build } from 'esbuild';

// A small file that starts quickly, and beside it the parts that commands ask for; node's own modules stay outside.
const dist = new URL('dist', import.meta.url).pathname;
await rm(`${dist}/parts`, { recursive: true, force: true });
await build({
  entryPoints: { lantern: new URL('src/main.ts', import.meta.url).pathname },
  outdir: dist,
  outExtension: { '.js': '.mjs' },
  chunkNames: 'parts/[name]-[hash]',
  splitting: true,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  minify: true,
  legalComments: 'none',
  // Loaded only for files that are packed with it; it reads a file of its own beside it.
  external: ['draco3dgltf', 'gltf-validator', 'sharp', 'ndarray-pixels'],
  // Commander is CommonJS inside and asks for node's modules by require.
  banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
});
