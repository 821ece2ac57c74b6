import type { Warning } from '../error';
import { NOT_A_PERSON } from '../anatomy/body';
import { DEGREES } from '../math/angles';
import type { FreeFall } from '../measure/free-fall';
import type { Stature } from '../measure/stature';
import type { Units } from '../measure/units';
import type { Body } from '../model/body';
import type { Take, UpAxis } from '../model/take';
import type { TakeOverrides, TakeReading } from './overrides';

/** A warning, and what would mend it at a click. */
export interface TakeWarning extends Warning {
  readonly repair?: { readonly label: string; readonly overrides: TakeOverrides };
  /** Of something that is asked: that it is right as it was found. */
  readonly keep?: { readonly label: string; readonly overrides: TakeOverrides };
}

const AXIS_WORDS: Readonly<Record<UpAxis, string>> = { '+x': 'X', '-x': '−X', '+y': 'Y', '-y': '−Y', '+z': 'Z', '-z': '−Z' };

/** What a passport rests on. */
export interface Findings {
  readonly units: Units;
  readonly up: UpAxis;
  readonly stature: Stature;
  readonly fall: FreeFall;
  readonly reading: TakeReading;
  /** Null when there were no legs to tell headings and the floor by. */
  readonly body: Body | null;
}

/** Why each line of a passport says what it says. */
export type Reasons = Readonly<Record<'fps' | 'up' | 'facing' | 'origin' | 'floor', string>> & { readonly stature?: string };

/** The reasons of a passport, in sentences. */
export function reasonsOf(take: Take, overrides: TakeOverrides, { stature, fall, up, reading, body }: Findings): Reasons {
  return {
    stature: statureReason(stature),
    fps: rateReason(take, overrides, fall),
    up: overrides.up
      ? 'Set by hand.'
      : take.format === 'gltf'
        ? 'glTF is Y up by its specification.'
        : `The body is tallest along ${AXIS_WORDS[up]}, and its lowest points keep their level along it.`,
    facing: body
      ? `Hips and shoulders of the first frame face ${Math.round(reading.facing * DEGREES)}° from ahead.`
      : 'No two legs were found to tell it by.',
    origin: `The hips start at ${reading.origin.map((v) => v.toFixed(2)).join(', ')} m on the floor.`,
    floor: body
      ? `The level of the soles in the frames in which a foot is flat and low: ${(reading.floorM * 100).toFixed(1)} cm.`
      : 'No feet were found to tell it by.',
  };
}

const statureReason = ({ from }: Stature): string =>
  from === 'crown'
    ? 'From the crown of the head to the soles.'
    : 'From legs and shoulders by the proportions of people: the head’s last joint is not its crown.';

function rateReason(take: Take, overrides: TakeOverrides, fall: FreeFall): string {
  const source =
    overrides.fps !== undefined ? 'Set by hand' : take.format === 'asf-amc' ? 'Assumed: AMC files do not say' : 'As the file says';
  const checked =
    fall.verdict === 'consistent' ? ', and flights agree with it' : fall.verdict === 'rate' ? ', but flights speak against it' : '';
  const conformed =
    overrides.conform === undefined
      ? ''
      : ` Resampled from ${Number((overrides.fps ?? take.motion.fps).toFixed(3))} to ${overrides.conform}.`;
  return `${source}${checked}.${conformed}`;
}

/** What is doubtful about a take, and what would mend it. */
export function findWarnings(take: Take, overrides: TakeOverrides, { units, up, fall, reading, body }: Findings): TakeWarning[] {
  const out: TakeWarning[] = [];
  if (units.confidence < 0.5) out.push({ code: 'units', message: units.reason });
  if (up !== '+y' && overrides.up === undefined) {
    out.push({ code: 'up-axis', message: `The file has ${AXIS_WORDS[up]} up; it is turned to Y up.` });
  }
  for (const { part, sentence, other } of body?.doubts ?? []) {
    const answer = (is: 'found' | 'other') => ({ body: { ...overrides.body, [part]: is } });
    out.push({
      code: `doubt-${part}`,
      message: sentence,
      repair: { label: other.label, overrides: answer('other') },
      keep: { label: 'it is right', overrides: answer('found') },
    });
  }
  if (!body) {
    out.push({ code: 'no-legs', message: `${NOT_A_PERSON} There are no contacts, and loops are matched on all joints alike.` });
  }
  if (fall.suggestion) {
    const { fps, metresPerUnit } = fall.suggestion;
    const label = [
      fps && `read it at ${fps} a second`,
      metresPerUnit && `take a unit as ${Number((metresPerUnit * 100).toPrecision(4))} cm`,
    ]
      .filter(Boolean)
      .join(' and ');
    out.push({ code: `free-fall-${fall.verdict}`, message: fall.sentence, repair: { label, overrides: fall.suggestion } });
  }
  if (Math.abs(reading.floorM) > 0.01 && !overrides.floorToZero) {
    out.push({
      code: 'floor',
      message: `The floor lies at ${(reading.floorM * 100).toFixed(1).replace('-', '−')} cm.`,
      repair: { label: 'put the feet at zero', overrides: { floorToZero: true } },
    });
  }
  if (take.motion.frames === 1) out.push({ code: 'one-frame', message: 'The take is a single pose.' });
  return out;
}
