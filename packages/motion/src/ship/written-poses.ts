import { compose, multiplyAffine, restOf, rotationOf } from '../formats/gltf-affine';
import type { GltfJson } from '../formats/gltf-container';
import { sampleTrack, type Tracks } from '../formats/gltf-track';
import { angleBetween, multiply, rotate, type Quat } from '../math/quat';
import { worldMotion, type Clip } from '../model/clip';
import { forwardKinematics, type Globals } from '../model/kinematics';
import { atTwiceTheRate } from '../character/half-frames';
import { BESIDE, offAt } from '../character/key-bounds';

/** Where the joints of a clip are in a file. */
export interface JointsInFile {
  /** The node of each joint. */
  readonly nodes: readonly number[];
  /** What turns the file's axes to those of the core, and metres to a unit of the file. */
  readonly turn: Quat;
  readonly metresPerUnit: number;
}

/** The pose that is furthest from where it was. */
export interface WorstPose {
  readonly mm: number;
  readonly joint: number;
  readonly frame: number;
  /**
   * How much further off the file is half-way between frames, against the smooth motion through them, than a key on every frame would be there; 0 where keys
   * are joined straight.
   */
  readonly betweenMm: number;
}

/**
 * How far an animation of a written file is from the clip that it was written from, played by the rules of glTF alone.
 *
 * @param clip all of it, at the rate of the file, with a pose on every frame
 * @param frames keys that the file has, where its last one was left out one fewer than the clip
 * @param between whether what lies half-way between frames is compared too
 */
export function worstPose(
  json: GltfJson,
  parentOf: Int32Array,
  tracks: Tracks,
  clip: Clip,
  { nodes, turn, metresPerUnit }: JointsInFile,
  frames: number,
  between: boolean,
): WorstPose {
  const { fps, skeleton } = clip.motion;
  const J = skeleton.joints.length;
  const player = filePlayer(json, parentOf, tracks, nodes);
  const [first, now, q] = [new Float64Array(J * 4), new Float64Array(J * 4), [0, 0, 0, 1]];
  const [here, there] = [
    [0, 0, 0, 1],
    [0, 0, 0, 1],
  ];
  const place = [0, 0, 0];
  const back: Quat = [-turn[0], -turn[1], -turn[2], turn[3]];
  let worst = { mm: -1, joint: 0, frame: 0 };
  /** The greatest distance at an instant, metres, and the joint that has it. @param straight what may be off by itself */
  const compare = (seconds: number, truth: Globals, frame: number, straight?: Globals): { metres: number; joint: number } => {
    const world = player(seconds);
    let far = { metres: -1, joint: 0 };
    for (let j = 0; j < J; j++) {
      const at = nodes[j] * 12;
      rotate(place, 0, turn, 0, [world[at + 9], world[at + 10], world[at + 11]], 0);
      const i = frame * J + j;
      const p = truth.positions;
      const off = Math.hypot(
        place[0] * metresPerUnit - p[i * 3],
        place[1] * metresPerUnit - p[i * 3 + 1],
        place[2] * metresPerUnit - p[i * 3 + 2],
      );
      // Axes of joints need not be the core's: what is compared is how far each is turned since the first frame.
      rotationOf(q, 0, world, at);
      multiply(now, j * 4, turn, 0, q, 0);
      multiply(now, j * 4, now.slice(j * 4, j * 4 + 4), 0, back, 0);
      if (first[j * 4] === 0 && first[j * 4 + 3] === 0) first.set(now.subarray(j * 4, j * 4 + 4), j * 4);
      turnSince(here, now, first, j * 4);
      turnSince(there, truth.rotations, start.rotations, i * 4, j * 4);
      const metres = off + BESIDE * angleBetween(here, 0, there, 0) - (straight ? offAt(truth, straight, i) : 0);
      if (metres > far.metres) far = { metres, joint: j };
    }
    return far;
  };
  const whole = worldMotion(clip);
  const start = forwardKinematics(whole);
  for (let f = 0; f < frames; f++) {
    const { metres, joint } = compare(f / fps, start, f);
    if (metres * 1000 > worst.mm) worst = { mm: metres * 1000, joint, frame: f };
  }
  let betweenMm = 0;
  if (between) {
    const [fine, straight] = (['cubic', 'straight'] as const).map((way) => forwardKinematics(worldMotion(atTwiceTheRate(clip, way))));
    for (let f = 0; f < frames - 1; f++) betweenMm = Math.max(betweenMm, compare((f + 0.5) / fps, fine, f * 2 + 1, straight).metres * 1000);
  }
  return { ...worst, betweenMm };
}

/** How far something is turned from how it was, in the world. */
function turnSince(out: number[], now: ArrayLike<number>, then: ArrayLike<number>, i: number, k = i): void {
  const before = [-then[k], -then[k + 1], -then[k + 2], then[k + 3]];
  multiply(out, 0, now, i, before, 0);
}

/** Plays an animation of a file: the world transforms of the nodes that joints hang on, twelve numbers each. */
function filePlayer(json: GltfJson, parentOf: Int32Array, tracks: Tracks, wanted: readonly number[]): (seconds: number) => Float64Array {
  const world = new Float64Array(json.nodes.length * 12);
  const order: number[] = [];
  const known = new Set<number>();
  const visit = (n: number): void => {
    if (n < 0 || known.has(n)) return;
    known.add(n);
    visit(parentOf[n]);
    order.push(n);
  };
  wanted.forEach(visit);
  const rests = new Map(order.map((n) => [n, restOf(json, n)]));
  const local = new Float64Array(12);
  const [t, q, s] = [
    [0, 0, 0],
    [0, 0, 0, 1],
    [1, 1, 1],
  ];
  return (seconds) => {
    for (const n of order) {
      const rest = rests.get(n);
      const own = tracks.get(n);
      if (!rest) continue;
      if (rest.matrix && !own) local.set(rest.matrix);
      else {
        if (own?.translation) sampleTrack(t, 0, own.translation, seconds);
        else for (let k = 0; k < 3; k++) t[k] = rest.translation[k];
        if (own?.rotation) sampleTrack(q, 0, own.rotation, seconds);
        else for (let k = 0; k < 4; k++) q[k] = rest.rotation[k];
        if (own?.scale) sampleTrack(s, 0, own.scale, seconds);
        else for (let k = 0; k < 3; k++) s[k] = rest.scale[k];
        compose(local, t, q, s);
      }
      if (parentOf[n] < 0) world.set(local, n * 12);
      else multiplyAffine(world, n * 12, world, parentOf[n] * 12, local);
    }
    return world;
  };
}
