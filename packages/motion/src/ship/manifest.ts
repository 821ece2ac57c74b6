import { readShipped, shippedGltf, type GltfJson, type PlayClip, type PlayGraph, type PlaySkeleton } from '@lantern/drive';
import { NOT_A_PERSON } from '../anatomy/body';
import { bodyOf } from '../anatomy/body-of';
import { InputError } from '../error';
import { multiply, rotate } from '../math/quat';
import type { ClipFigures } from '../measure/clip-figures';
import { clipContacts } from '../measure/clip-slides';
import type { Clip } from '../model/clip';
import { playableSet } from '../graph/play-set';
import { readyGraph } from '../graph/ready';
import { mirrorMap } from '../anatomy/mirror-map';
import { coverage, type SetClip } from '../set/coverage';
import type { BlendField } from '../set/field-schema';
import { homeFrom } from '../set/home';
import { onHips, playClip, playSkeleton } from '../set/play-clip';
import { playableField } from '../set/play-field';
import type { LocomotionSet } from '../set/schema';
import { clipCurves } from './curves';
import { clipEvents } from './events';
import type { Manifest } from './manifest-schema';
import type { NamedShipped } from './named-clip';
import type { ShipOptions } from './options';
import { phaseTable } from './phase';
import { tidy } from './tidy';
import { writtenClip } from './written-clip';

/** A file that clips were written to. */
export interface FiledIn {
  /** Its name, beside the manifest. */
  readonly file: string;
  readonly bytes: Uint8Array;
  /** The joint that carries the travel. */
  readonly root: string;
}

/**
 * The manifest of a set, of its clips as they ship.
 *
 * @param filed the file that the clips are in, or the first of several: what is fixed to joints is told in the axes that they have there
 * @param nameOf what the animation of a clip is called, and which file it is in
 * @throws InputError when the clips are no person's
 */
export function setManifest(
  set: LocomotionSet,
  shipped: readonly NamedShipped[],
  fields: readonly BlendField[],
  { file, bytes, root }: FiledIn,
  options: ShipOptions,
  placeOf: (name: string) => { readonly animation: string; readonly file: string },
): Manifest {
  const byName = new Map(shipped.map((own) => [own.name, own]));
  const clips = shipped.flatMap(({ name, shipped: { clip, traits } }): SetClip[] => (traits ? [{ id: name, name, clip, traits }] : []));
  const first = clips[0];
  const body = first && bodyOf(onHips(first.clip.motion));
  if (!first || !body) throw new InputError('body', NOT_A_PERSON);
  const { joints } = onHips(first.clip.motion).skeleton;
  const nameOf = (joint: number): string | null => (joint >= 0 ? joints[joint].name : null);
  const sure = (joint: number): string => joints[joint].name;
  const { soles } = playSkeleton(first.clip);
  const side = (own: 'left' | 'right'): Manifest['joints']['left'] => {
    const { hip, knee, ankle, toe } = body.legs[own];
    return {
      hip: sure(hip),
      knee: sure(knee),
      foot: sure(ankle),
      toe: nameOf(toe),
      hand: nameOf(body.arms[own].wrist),
      sole: soles[own].map(({ joint, x, y, z }) => ({ joint: sure(joint), at: [x, y, z] })),
    };
  };
  const used = fields.filter((own) => own.clips.every((name) => clips.some(({ id }) => id === name)) && own.clips.length > 0);
  const keyed = used.map((field) => ({ key: field.name, field }));
  const graph = set.graph ?? readyGraph(clips, keyed);
  const playable = playableSet(graph, clips, keyed);
  const home = homeOf(set, byName);
  const { slots } = coverage(set, clips, home && homeFrom(home.of.clip, home.frame));
  const slotOf = new Map(slots.flatMap(({ id, clip, state }) => (clip && state !== 'mirror' ? [[clip, id] as const] : [])));
  const manifest: Manifest = {
    oldLantern: 1,
    kind: 'set',
    set: set.name,
    character: set.character,
    file,
    fps: first.clip.motion.fps,
    up: '+y',
    forward: '+z',
    metresPerUnit: 1,
    joints: { root, hips: sure(0), left: side('left'), right: side('right') },
    mirror: mirrorMap(first.clip.motion.skeleton, bodyOf(first.clip.motion)).pairs.flatMap(({ joint, partner }): [string, string][] =>
      partner > joint ? [[first.clip.motion.skeleton.joints[joint].name, first.clip.motion.skeleton.joints[partner].name]] : [],
    ),
    rootMotion: options.rootMotion,
    home: home && { clip: home.clip, frame: home.frame },
    clips: clips.map(({ name, clip, traits }) => {
      const play = playClip(clip, name);
      const seconds = (play.frames - 1) / play.fps;
      const placed = placeOf(name);
      const own = byName.get(name);
      const events = clipEvents(play, own?.shipped.marks ?? []);
      const falls = events.flatMap((event) => (event.kind === 'footfall' ? [event] : []));
      const { cycle } = writtenClip(clip, options);
      return {
        name,
        animation: placed.animation,
        ...(placed.file !== file && { file: placed.file }),
        seconds: tidy(seconds),
        frames: play.frames,
        loop: play.loop,
        floorM: Number((clipContacts(clip)?.floorM ?? 0).toFixed(6)),
        slot: slotOf.get(name) ?? null,
        gait: traits.gait,
        direction: traits.direction,
        speedMps: tidy(traits.speedMps),
        turnDegS: tidy(traits.turnDegS),
        distanceM: tidy(traits.distanceM),
        startsOn: falls.length > 0 ? falls[0].foot : null,
        endsOn: falls.length > 0 ? falls[falls.length - 1].foot : null,
        contacts: { left: play.contacts.left.map(tidied), right: play.contacts.right.map(tidied) },
        events,
        phase: phaseTable(clip).map(tidied),
        ...(options.curves && {
          curves: clipCurves(
            play,
            falls.map(({ at }) => at),
          ),
        }),
        mirrorOf: own?.mirrorOf ?? null,
        ...(cycle && { lastKey: 'left out' as const, cycle: { x: tidy(cycle[0]), z: tidy(cycle[1]), heading: tidy(cycle[2]) } }),
        figures: figuresOf(traits.figures),
      };
    }),
    fields: used.flatMap((own) => {
      const made = playableField(own, clips);
      if (!made) return [];
      const { points, field } = made;
      return [
        {
          name: own.name,
          inputs: [...own.inputs],
          points: points.map(({ name, at, place }) => ({ clip: name, at: at.map(tidy), place: [place[0], place[1]] as [number, number] })),
          triangles: Array.from(field.triangles),
          scale: [field.scale[0], field.scale[1]] as [number, number],
          holdFeet: own.holdFeet,
          pace: own.pace,
          polar: field.isPolar ?? false,
        },
      ];
    }),
    graph: playable && {
      ...graph,
      initial: playable.set.graph.initial,
      states: graph.states.filter(({ name }) => !playable.left.some(({ state }) => state === name)),
      transitions: playable.transitions.map((i) => graph.transitions[i]),
    },
    contract: set.contract,
  };
  return withSolesOf(manifest, bytes, first);
}

/**
 * The manifest with its soles in the axes of the written file's joints, which need not be those of the clip's: both stand in the same places in the clip's
 * first frame.
 */
function withSolesOf(manifest: Manifest, bytes: Uint8Array, { clip, name }: SetClip): Manifest {
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  const length = view.getUint32(12, true);
  const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length))) as GltfJson;
  const { nodes, animations } = shippedGltf(json, bytes.slice(28 + length).buffer);
  const one = { ...manifest, clips: manifest.clips.filter((own) => own.name === name), fields: [], graph: NO_STATES };
  const written = readShipped(one, nodes, animations);
  const there = posed(written.skeleton, written.clips[0]);
  const skeleton = playSkeleton(clip);
  const here = posed(skeleton, playClip(clip, name));
  const side = (own: 'left' | 'right'): Manifest['joints']['left'] => ({
    ...manifest.joints[own],
    sole: manifest.joints[own].sole.map(({ joint, at: [x, y, z] }) => {
      const [a, b] = [skeleton.names.indexOf(joint), written.skeleton.names.indexOf(joint)];
      const at = [0, 0, 0];
      rotate(at, 0, here.turns, a * 4, [x, y, z], 0);
      for (let k = 0; k < 3; k++) at[k] += here.places[a * 3 + k] - there.places[b * 3 + k];
      const back = [-there.turns[b * 4], -there.turns[b * 4 + 1], -there.turns[b * 4 + 2], there.turns[b * 4 + 3]];
      rotate(at, 0, back, 0, at, 0);
      return { joint, at: [tidy(at[0]), tidy(at[1]), tidy(at[2])] };
    }),
  });
  return { ...manifest, joints: { ...manifest.joints, left: side('left'), right: side('right') } };
}

const NO_STATES: PlayGraph = { inputs: [], initial: '', states: [], transitions: [] };

/** Places and turns of joints against the root in a clip's first frame. */
function posed({ names, parents, offsets }: PlaySkeleton, { rotations, hips }: PlayClip): { places: Float64Array; turns: Float64Array } {
  const [places, turns] = [new Float64Array(names.length * 3), new Float64Array(names.length * 4)];
  for (let j = 0; j < names.length; j++) {
    const p = parents[j];
    if (p < 0) {
      turns.set(rotations.subarray(j * 4, j * 4 + 4), j * 4);
      places.set(hips.subarray(0, 3), j * 3);
      continue;
    }
    multiply(turns, j * 4, turns, p * 4, rotations, j * 4);
    rotate(places, j * 3, turns, p * 4, offsets, j * 3);
    for (let k = 0; k < 3; k++) places[j * 3 + k] += places[p * 3 + k];
  }
  return { places, turns };
}

/** The node of a written file that carries the travel: the topmost one over the hips that moves; null where the hips carry it themselves. */
export function rootOfGlb(bytes: Uint8Array, hips: string): string | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + view.getUint32(12, true)))) as {
    nodes: { name?: string; children?: number[] }[];
    animations?: { channels: { target: { node?: number } }[] }[];
  };
  const moves = new Set(json.animations?.flatMap(({ channels }) => channels.map(({ target }) => target.node)));
  let found: string | null = null;
  for (let node = json.nodes.findIndex(({ name }) => name === hips); node >= 0;) {
    const parent = json.nodes.findIndex(({ children }) => children?.includes(node));
    if (parent >= 0 && moves.has(parent)) found = json.nodes[parent].name ?? null;
    node = parent;
  }
  return found;
}

const tidied = ([from, to]: readonly [number, number]): [number, number] => [tidy(from), tidy(to)];

/** The home pose's clip among those that ship, and its frame there. */
function homeOf(
  { home }: LocomotionSet,
  shipped: ReadonlyMap<string, NamedShipped>,
): { readonly clip: string; readonly frame: number; readonly of: { readonly clip: Clip } } | null {
  const of = home && shipped.get(home.clip)?.shipped;
  return home && of ? { clip: home.clip, frame: Math.min(of.clip.motion.frames - 1, Math.round(home.frame * of.scale)), of } : null;
}

/** Figures with no more digits than they are good for. */
function figuresOf({ seam, ...figures }: ClipFigures): Manifest['clips'][number]['figures'] {
  const short = (own: object) =>
    Object.fromEntries(Object.entries(own).map(([name, value]) => [name, typeof value === 'number' ? tidy(value) : (value as unknown)]));
  return { ...short(figures), seam: short(seam) };
}
