import { build } from 'esbuild';

// Migrations and demo data, run before the server starts, the worker that runs beside it, and the threads in which it reads.
await build({
  entryPoints: ['setup', 'worker', 'reader'].map((name) => new URL(`src/server/${name}.ts`, import.meta.url).pathname),
  outdir: new URL('dist', import.meta.url).pathname,
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  external: ['pg-native', 'draco3dgltf', 'gltf-validator', 'sharp', 'ndarray-pixels'],
  banner: { js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);" },
});
