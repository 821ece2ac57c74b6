import { build } from 'esbuild';

// Migrations and demo data, run before the server starts.
await build({
  entryPoints: [new URL('src/server/setup.ts', import.meta.url).pathname],
  outfile: new URL('dist/setup.mjs', import.meta.url).pathname,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  external: ['pg-native'],
  banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
});
