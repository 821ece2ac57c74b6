/**
 * A .gltf with the buffers that were dropped along with it put inside, so that one file travels; anything else as it is. Buffers that
 * are not there stay named, and the reader says which.
 */
export async function packGltf(file: File, besides: ReadonlyMap<string, File>): Promise<File> {
  if (!/\.gltf$/i.test(file.name)) return file;
  let json: unknown;
  try {
    json = JSON.parse(await file.text());
  } catch {
    return file;
  }
  const buffers = typeof json === 'object' && json !== null && 'buffers' in json && Array.isArray(json.buffers) ? json.buffers : [];
  for (const buffer of buffers) {
    const uri: unknown = buffer?.uri;
    if (typeof uri !== 'string' || uri.startsWith('data:')) continue;
    const beside = besides.get(decodeURIComponent(uri).replace(/^.*\//, ''));
    if (beside) buffer.uri = await dataUri(beside);
  }
  return new File([JSON.stringify(json)], file.name);
}

function dataUri(file: File): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result).replace(/^data:[^,]*,/, 'data:application/octet-stream;base64,'));
    reader.onerror = () => reject(reader.error ?? new Error('unreadable'));
    reader.readAsDataURL(file);
  });
}
