import { fieldPlayer, strideTable, type FieldPlayer, type PlayField, type PlaySkeleton } from '@lantern/drive';
import { Delaunay } from 'd3-delaunay';
import { DEGREES } from '../math/angles';
import type { SetClip } from './coverage';
import type { BlendField } from './field-schema';
import { playClip, playSkeleton } from './play-clip';

/** A clip of a field, where it stands. */
export interface FieldPoint {
  readonly id: string;
  readonly name: string;
  /** What it measures, input by input: m/s, °/s, and ° of direction to the left. */
  readonly at: readonly number[];
  /** Where it stands on the chart of the field: of speed and direction to the left and ahead, m/s; else the same as `at`. */
  readonly place: readonly [number, number];
  readonly strides: number;
}

/** A field that can be played. */
export interface PlayableField {
  readonly points: readonly FieldPoint[];
  /** Clips that are left out, and why. */
  readonly left: readonly { readonly id: string; readonly why: string }[];
  readonly skeleton: PlaySkeleton;
  readonly field: PlayField;
  player(): FieldPlayer;
  /** The place on the chart of values of the inputs. */
  placeOf(at: readonly number[]): readonly [number, number];
}

/** So many degrees a second count like a metre a second where distances on the chart are compared. */
const DEG_PER_MPS = 60;

/**
 * A field made ready to be played, of those of its clips that come into step.
 *
 * @returns null when none does
 */
export function playableField(field: BlendField, clips: readonly SetClip[]): PlayableField | null {
  const left: { id: string; why: string }[] = [];
  const inField: { own: SetClip; play: ReturnType<typeof playClip>; strides: number }[] = [];
  for (const id of field.clips) {
    const own = clips.find((clip) => clip.id === id);
    if (!own) {
      left.push({ id, why: 'There is no such clip in the set.' });
      continue;
    }
    const play = playClip(own.clip, own.name);
    const table = strideTable(play);
    const alike = inField[0]?.own.clip.motion.skeleton.joints.length ?? own.clip.motion.skeleton.joints.length;
    if ('why' in table) left.push({ id, why: table.why });
    else if (own.clip.motion.skeleton.joints.length !== alike) left.push({ id, why: `“${own.name}” is on another skeleton.` });
    else inField.push({ own, play, strides: table.strides });
  }
  if (inField.length === 0) return null;
  const points = inField.map(({ own, strides }): FieldPoint => {
    const at = valuesOf(field, own);
    return { id: own.id, name: own.name, at, place: placeOf(field, at), strides };
  });
  const scale: readonly [number, number] = field.inputs[1] === 'turn' ? [1, 1 / DEG_PER_MPS] : [1, 1];
  const flat = Float64Array.from(points.flatMap(({ place: [x, y] }) => [x, y]));
  const scaled = flat.map((v, i) => v * scale[i % 2]);
  const isFlat = field.inputs.length === 1 || points.length < 3;
  const triangles = isFlat ? [] : [...new Delaunay(scaled).triangles];
  const skeleton = playSkeleton(inField[0].own.clip);
  const playField: PlayField = {
    name: field.name,
    clips: inField.map(({ play }) => play),
    holdFeet: field.holdFeet,
    pace: field.pace,
    points: flat,
    triangles,
    scale,
    isPolar: field.inputs[1] === 'direction',
  };
  return { points, left, skeleton, field: playField, player: () => fieldPlayer(skeleton, playField), placeOf: (at) => placeOf(field, at) };
}

function valuesOf({ inputs }: BlendField, { traits, clip }: SetClip): number[] {
  if (inputs.length === 1) return [traits.speedMps];
  if (inputs[1] === 'turn') return [traits.speedMps, traits.turnDegS];
  return [traits.speedMps, directionOf(clip)];
}

/** Where a clip goes against where its root faces, degrees to the left. */
function directionOf({ travel }: SetClip['clip']): number {
  if (!travel) return 0;
  const last = travel.x.length - 1;
  const facing = (travel.heading[0] + travel.heading[last]) / 2;
  const course = Math.atan2(travel.x[last] - travel.x[0], travel.z[last] - travel.z[0]) - facing;
  return (course - 2 * Math.PI * Math.round(course / (2 * Math.PI))) * DEGREES;
}

function placeOf({ inputs }: BlendField, [speed, second = 0]: readonly number[]): readonly [number, number] {
  if (inputs[1] !== 'direction') return [speed, inputs.length > 1 ? second : 0];
  const turn = second / DEGREES;
  return [speed * Math.sin(turn), speed * Math.cos(turn)];
}
