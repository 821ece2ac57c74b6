import { defineConfig } from 'drizzle-kit';

export default defineConfig({ dialect: 'postgresql', schema: ['./src/server/schema.ts', './src/server/ship/tables.ts'], out: './drizzle' });
