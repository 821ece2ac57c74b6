import type { NextConfig } from 'next';

const config: NextConfig = {
  transpilePackages: ['@lantern/motion', '@lantern/capture', '@lantern/cast', '@lantern/unpack', '@lantern/drive'],
  serverExternalPackages: ['draco3dgltf', 'gltf-validator', 'piscina'],
  poweredByHeader: false,
  reactStrictMode: true,
  // What a component draws is drawn again only when what it is drawn from changed: React's own compiler sees to it.
  reactCompiler: true,
  // Types are checked by the project's own test command.
  typescript: { ignoreBuildErrors: true },
  devIndicators: false,
  // Browsers ask for it by themselves before they have read the page that names the icon.
  rewrites: async () => [{ source: '/favicon.ico', destination: '/icon.svg' }],
};

export default config;
