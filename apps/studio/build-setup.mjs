import { build } from 'esbuild';

// Migrations and demo data, run before the server starts, and the worker that runs beside it.
await build({
  entryPoints: ['setup', 'worker'].map((name) => new URL(`src/server/${name}.ts`, import.meta.url).pathname),
  outdir: new URL('dist', import.meta.url).pathname,
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  external: ['pg-native', 'draco3dgltf', 'sharp', 'ndarray-pixels'],
  banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
});
