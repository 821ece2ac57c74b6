import { mkdir, writeFile } from 'node:fs/promises';
import { projectSchema } from '@lantern/motion';
import { z } from 'zod';

// Writes the JSON Schema of the project file, from the schema that the program itself checks with.
await mkdir('docs', { recursive: true });
const schema = z.toJSONSchema(projectSchema, { io: 'input' });
await writeFile('docs/project.schema.json', `${JSON.stringify({ title: 'Old Lantern project, version 1', ...schema }, null, 2)}\n`);
