import { openGltf } from '../src/formats/gltf-container';
import { compose, multiplyAffine, restOf } from '../src/formats/gltf-affine';
import { nodeParents } from '../src/formats/gltf-joints';
import { readTracks, sampleTrack } from '../src/formats/gltf-track';

function opened(bytes: Uint8Array, animation: string) {
  const gltf = openGltf(bytes);
  const own = gltf.json.animations.find(({ name }) => name === animation);
  if (!own) throw new Error(`there is no ${animation}`);
  return { json: gltf.json, tracks: readTracks(gltf, own, animation) };
}

/** Where nodes of a file are at an instant of an animation, in the file's world, by their names. */
export function readShippedPlaces(bytes: Uint8Array, animation: string, seconds: number): (node: string) => number[] {
  const { json, tracks } = opened(bytes, animation);
  const parentOf = nodeParents(json);
  const worldOf = (n: number): Float64Array => {
    const rest = restOf(json, n);
    const own = tracks.get(n);
    const [t, q] = [[...rest.translation], [...rest.rotation]];
    if (own?.translation) sampleTrack(t, 0, own.translation, seconds);
    if (own?.rotation) sampleTrack(q, 0, own.rotation, seconds);
    const local = new Float64Array(12);
    compose(local, t, q, rest.scale);
    if (parentOf[n] < 0) return local;
    const out = new Float64Array(12);
    multiplyAffine(out, 0, worldOf(parentOf[n]), 0, local);
    return out;
  };
  return (node) => {
    const n = json.nodes.findIndex(({ name }) => name === node);
    if (n < 0) throw new Error(`there is no ${node}`);
    return Array.from(worldOf(n).subarray(9, 12));
  };
}

/** How nodes are turned against their parents at an instant of an animation. */
export function readShippedTurns(bytes: Uint8Array, animation: string, seconds: number): Map<number, number[]> {
  const { tracks } = opened(bytes, animation);
  return new Map(
    [...tracks].flatMap(([node, { rotation }]) => {
      if (!rotation) return [];
      const q = [0, 0, 0, 1];
      sampleTrack(q, 0, rotation, seconds);
      return [[node, q] as const];
    }),
  );
}
