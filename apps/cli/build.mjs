import { build } from 'esbuild';

// One file that starts quickly; node's own modules stay outside.
await build({
  entryPoints: [new URL('src/main.ts', import.meta.url).pathname],
  outfile: new URL('dist/lantern.mjs', import.meta.url).pathname,
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
