import { strideTable, type PlayClip } from '@lantern/drive';
import { NOT_A_PERSON } from '../anatomy/body';
import { bodyOf } from '../anatomy/body-of';
import { InputError } from '../error';
import type { Clip } from '../model/clip';
import { playableSet } from '../graph/play-set';
import { readyGraph } from '../graph/ready';
import { clipTraits } from '../set/clip-traits';
import type { Coverage, SetClip } from '../set/coverage';
import type { BlendField } from '../set/field-schema';
import { onHips, playClip, playSkeleton } from '../set/play-clip';
import { playableField } from '../set/play-field';
import type { LocomotionSet } from '../set/schema';
import type { Manifest } from './manifest-schema';

/** A clip as it ships. */
export interface ShippedClip {
  readonly name: string;
  readonly clip: Clip;
}

/**
 * The manifest of a set, of its clips as they ship.
 *
 * @param file that the clips are in, beside the manifest
 * @param root the joint of the file that carries the travel
 * @throws InputError when the clips are no person's
 */
export function setManifest(
  set: LocomotionSet,
  shipped: readonly ShippedClip[],
  fields: readonly BlendField[],
  { file, root, coverage }: { readonly file: string; readonly root: string; readonly coverage: Coverage | null },
): Manifest {
  const clips = shipped.flatMap(({ name, clip }): SetClip[] => {
    const traits = clipTraits(clip);
    return traits ? [{ id: name, name, clip, traits }] : [];
  });
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
  const slotOf = new Map(coverage?.slots.flatMap(({ id, clip, state }) => (clip && state !== 'mirror' ? [[clip, id] as const] : [])));
  return {
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
    home: set.home ? { clip: set.home.clip, frame: set.home.frame } : null,
    clips: clips.map(({ name, clip, traits }) => {
      const play = playClip(clip, name);
      const seconds = (play.frames - 1) / play.fps;
      return {
        name,
        animation: name,
        seconds: tidy(seconds),
        frames: play.frames,
        loop: play.loop,
        slot: slotOf.get(name) ?? null,
        gait: traits.gait,
        direction: traits.direction,
        speedMps: tidy(traits.speedMps),
        turnDegS: tidy(traits.turnDegS),
        distanceM: tidy(traits.distanceM),
        contacts: { left: play.contacts.left.map(tidied), right: play.contacts.right.map(tidied) },
        events: footfalls(play, seconds),
        phase: phaseOf(play),
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

/** To a tenth of a millimetre, or of a millisecond. */
const tidy = (value: number): number => Number(value.toFixed(4)) + 0;
const tidied = ([from, to]: readonly [number, number]): [number, number] => [tidy(from), tidy(to)];

function footfalls({ contacts, loop }: PlayClip, seconds: number): Manifest['clips'][number]['events'] {
  return (['left', 'right'] as const)
    .flatMap((foot) =>
      contacts[foot]
        // What is on the floor at the first key, and stays, has not come down.
        .filter(([from, to]) => (loop ? to - from < seconds - 1e-6 : from > 1e-6))
        .map(([from]) => ({ at: tidy(loop ? from % seconds : from), kind: 'footfall' as const, foot })),
    )
    .sort((a, b) => a.at - b.at);
}

function phaseOf(clip: PlayClip): [number, number][] {
  const table = clip.loop ? strideTable(clip) : null;
  if (!table || 'why' in table) return [];
  const last = table.starts.length - 1;
  return [
    ...[...table.starts].map((at, k): [number, number] => [tidy(at), k / 2]),
    [tidy(table.starts[last] + table.lengths[last]), (last + 1) / 2],
  ];
}
