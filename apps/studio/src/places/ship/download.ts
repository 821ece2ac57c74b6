import type { MadeFile } from '@lantern/motion';
import { zipSync } from 'fflate';

/** Gives files to the browser to keep: one as it is, several as one zip. */
export function download(files: readonly MadeFile[], archive: string): { name: string; bytes: number } {
  const [only] = files;
  const single = files.length === 1;
  const name = single ? only.path : archive;
  // Stored, not packed: float keys hardly shrink. A fixed date keeps the bytes the same for the same clips.
  const bytes = single
    ? only.bytes
    : zipSync(Object.fromEntries(files.map(({ path, bytes: content }) => [path, [content, { mtime: new Date(1980, 0, 2), level: 1 }]])));
  const url = URL.createObjectURL(new Blob([new Uint8Array(bytes)], { type: single ? 'model/gltf-binary' : 'application/zip' }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
  return { name, bytes: bytes.length };
}
