import type { BodyMesh } from '@lantern/motion';
import { MeshoptEncoder, MeshoptSimplifier } from 'meshoptimizer';

/** How far the lighter surface may lie off the first, in sizes of the body: 2 mm of somebody of 1.8 m, less than a pixel of the stage. */
const OFF = 0.0011;
/** What a whole change of the normal and of the colour counts as, the same: folds, and where two tones of wood meet, keep their corners. */
const NORMAL = 0.055;
const COLOUR = 0.165;

/**
 * The same body with as few triangles as look the same, about a quarter of those of a lay figure. Drawing is most of what a stage costs where a
 * machine has no graphics card. What is left of its corners keeps their normals, weights and colours.
 *
 * @param mesh one without a skin stays as it is
 */
export async function lighter(mesh: BodyMesh): Promise<BodyMesh> {
  const { skin } = mesh;
  if (!skin || !(await canSimplify())) return mesh;
  const [faces] = MeshoptSimplifier.simplifyWithAttributes(
    Uint32Array.from(mesh.indices),
    mesh.positions,
    3,
    sideBySide(mesh.normals, skin.colours),
    6,
    [NORMAL, NORMAL, NORMAL, COLOUR, COLOUR, COLOUR],
    null,
    0,
    OFF,
  );
  // Neighbouring triangles one after the other: a corner that they share is worked out once.
  const [remap, count] = MeshoptEncoder.reorderMesh(faces, true, false);
  const kept = new Uint32Array(count);
  remap.forEach((to, from) => {
    if (to < count) kept[to] = from;
  });
  const pick = <T extends Float32Array | Uint16Array>(values: T, width: number, out: T): T => {
    kept.forEach((from, to) => out.set(values.subarray(from * width, (from + 1) * width), to * width));
    return out;
  };
  return {
    positions: pick(mesh.positions, 3, new Float32Array(count * 3)),
    normals: pick(mesh.normals, 3, new Float32Array(count * 3)),
    indices: count > 65535 ? faces : Uint16Array.from(faces),
    joints: pick(mesh.joints, 1, new Uint16Array(count)),
    skin: {
      ...skin,
      joints: pick(skin.joints, 4, new Uint16Array(count * 4)),
      weights: pick(skin.weights, 4, new Float32Array(count * 4)),
      colours: pick(skin.colours, 3, new Float32Array(count * 3)),
    },
  };
}

/** Where WebAssembly is not allowed the body stays as fine as it is. */
const canSimplify = (): Promise<boolean> =>
  Promise.all([MeshoptSimplifier.ready, MeshoptEncoder.ready]).then(
    () => true,
    () => false,
  );

/** Three numbers of each, corner by corner. */
function sideBySide(a: Float32Array, b: Float32Array): Float32Array {
  const out = new Float32Array(a.length * 2);
  for (let v = 0; v < a.length; v += 3) {
    out.set(a.subarray(v, v + 3), v * 2);
    out.set(b.subarray(v, v + 3), v * 2 + 3);
  }
  return out;
}
