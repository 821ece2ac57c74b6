import { InputError } from '@lantern/motion';

/** What packs the vertices or keys of a glTF file, by the names of its extensions. */
const PACKED = ['EXT_meshopt_compression', 'KHR_meshopt_compression', 'KHR_draco_mesh_compression', 'KHR_mesh_quantization'];
const JSON_CHUNK = 0x4e4f534a;

/**
 * A GLB with its meshes and animations unpacked: meshopt, Draco and quantised values become plain numbers; nodes, skins, materials, textures
 * and morph targets stay. A file that packs nothing comes back as the very bytes it was, and so does whatever is no GLB.
 *
 * @throws InputError `gltf` when what is packed is damaged
 *
 * @example
 * const plain = await unpackGlb(await readFile('packed.glb'));
 */
export async function unpackGlb(bytes: Uint8Array): Promise<Uint8Array> {
  const used = extensionsOf(bytes).filter((name) => PACKED.includes(name));
  if (used.length === 0) return bytes;
  try {
    // What unpacks is read with the first file that is packed.
    const [{ Logger, WebIO }, { ALL_EXTENSIONS }, { dequantize }] = await Promise.all([
      import('@gltf-transform/core'),
      import('@gltf-transform/extensions'),
      import('@gltf-transform/functions'),
    ]);
    const io = new WebIO().registerExtensions(ALL_EXTENSIONS).registerDependencies(await decoders(used));
    const document = await io.readBinary(bytes);
    document.setLogger(new Logger(Logger.Verbosity.SILENT));
    await document.transform(dequantize());
    for (const extension of document.getRoot().listExtensionsUsed()) if (PACKED.includes(extension.extensionName)) extension.dispose();
    return await io.writeBinary(document);
  } catch (error) {
    const why = error instanceof Error ? error.message : 'unknown reason';
    throw new InputError('gltf', `The file is packed with ${used.join(' and ')}, and what is packed cannot be read (${why}).`, { line: 1 });
  }
}

async function decoders(used: readonly string[]): Promise<Record<string, unknown>> {
  const found: Record<string, unknown> = {};
  if (used.some((name) => name.endsWith('meshopt_compression'))) {
    const { MeshoptDecoder } = await import('meshoptimizer');
    await MeshoptDecoder.ready;
    found['meshopt.decoder'] = MeshoptDecoder;
  }
  if (used.includes('KHR_draco_mesh_compression')) {
    const { default: draco } = await import('draco3dgltf');
    found['draco3d.decoder'] = await draco.createDecoderModule();
  }
  return found;
}

/** The extensions that a GLB's JSON says it uses; none for anything else. */
function extensionsOf(bytes: Uint8Array): string[] {
  if (bytes.length < 20 || String.fromCharCode(...bytes.subarray(0, 4)) !== 'glTF') return [];
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const length = view.getUint32(12, true);
  if (view.getUint32(16, true) !== JSON_CHUNK || 20 + length > bytes.length) return [];
  // Only the list itself is looked for: the whole document is read by whoever reads the file.
  const text = new TextDecoder().decode(bytes.subarray(20, 20 + length));
  const list = /"extensionsUsed"\s*:\s*\[([^\]]*)\]/.exec(text)?.[1] ?? '';
  return [...list.matchAll(/"([^"]+)"/g)].map(([, name]) => name);
}
