import { AppendedGltf } from './gltf-append';
import { glbChunks, joinGlb } from './gltf-container';

/** An animation of a document as it stands in its JSON. */
export interface GlbAnimation {
  name?: string;
  channels: { sampler: number; target: { node?: number; path: string } }[];
  samplers: { input: number; output: number; interpolation?: string }[];
  extras?: unknown;
}

/** A document that is changed. */
export interface GlbDocument extends Record<string, unknown> {
  nodes: { name?: string; children?: number[]; [part: string]: unknown }[];
  animations?: GlbAnimation[];
}

/** A GLB with more in it: `change` puts nodes and animations into the document, and their numbers behind its binary. */
export function editedGlb(bytes: Uint8Array, change: (document: GlbDocument, binary: AppendedGltf) => void): Uint8Array {
  const { json, binary } = glbChunks(bytes);
  const document = JSON.parse(new TextDecoder().decode(json)) as GlbDocument;
  const appended = new AppendedGltf(document, binary ?? new Uint8Array(0));
  change(document, appended);
  const whole = appended.bytes();
  return joinGlb(new TextEncoder().encode(JSON.stringify(document)), whole);
}
