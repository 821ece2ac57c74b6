// What the page needs of the core, and of the shapes of what the server says, whatever place is open. See late.ts.
export { clipInputSchema, mappingOf, stepSchema, stepsAtRate, withFits } from '@lantern/motion';
export { savedClipSchema } from '@/http/clip';
export { joinDocumentSchema, savedJoinSchema } from '@/http/join';
export { keptSchema, revisedSchema } from '@/http/kept';
export { arrivedSchema, projectDataSchema, takeInfoSchema } from '@/http/project';
export { savedSetSchema, setDocumentSchema } from '@/http/set';
