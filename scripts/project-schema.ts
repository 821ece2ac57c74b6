import { mkdir, writeFile } from 'node:fs/promises';
import { manifestSchema, projectSchema } from '@lantern/motion';
import { z } from 'zod';

// Writes the JSON Schemas of the project file and of the manifest, from the schemas that the program itself checks with.
await mkdir('docs', { recursive: true });
const schema = z.toJSONSchema(projectSchema, { io: 'input' });
await writeFile('docs/project.schema.json', `${JSON.stringify({ title: 'Old Lantern project, version 1', ...schema }, null, 2)}\n`);
const manifest = z.toJSONSchema(manifestSchema, { io: 'output' });
await writeFile('docs/manifest.schema.json', `${JSON.stringify({ title: 'Old Lantern set, version 1', ...manifest }, null, 2)}\n`);
