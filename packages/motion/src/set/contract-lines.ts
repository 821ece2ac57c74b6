import { speedChange } from '../steps/speed';
import { groundwork } from '../measure/groundwork';
import { played } from '../measure/played';
import { wayOf } from '../measure/way';
import { worldMotion, type Clip } from '../model/clip';
import type { Coverage, SetClip, SlotReport } from './coverage';
import { askedSpeed, type Contract } from './contract';
import { speedCourse } from './speed-course';
import type { Gait, SlotKind } from './slot';

/** What is asked of a clip's time, of its strides and of its path; 1 is nothing. */
export interface Warp {
  readonly time: number;
  readonly stride: number;
  readonly path: number;
}

/** As far as a clip may be warped and still look like somebody. */
export const WARP_BOUNDS: { readonly [K in keyof Warp]: readonly [number, number] } = {
  time: [0.85, 1.2],
  stride: [0.8, 1.25],
  path: [0.7, 1.4],
};

/** A number of the game beside what a clip of the set can do. */
export interface ContractLine {
  /** The number's place in the contract, such as `speedMps/walk/forward`. */
  readonly id: string;
  readonly title: string;
  readonly unit: string;
  readonly digits: number;
  readonly asked: number | null;
  readonly slot: string | null;
  readonly clip: string | null;
  /** What the clip does as it stands; null where no clip of the set tells. */
  readonly measured: number | null;
  readonly warp: Warp | null;
  /** What is out of bounds of it, in words; null when the clip can do it. */
  readonly breaks: string | null;
  /** The least and the most that the clip can do within bounds, where that is known. */
  readonly reach: readonly [number, number] | null;
}

const NO_WARP: Warp = { time: 1, stride: 1, path: 1 };

/** The game's numbers, each beside what the set can do. */
export function contractLines(contract: Contract, { slots }: Coverage, clips: readonly SetClip[]): ContractLine[] {
  const byId = new Map(clips.map((own) => [own.id, own]));
  const filled = (kind: SlotKind) =>
    slots.flatMap((report) => {
      const own = report.state === 'filled' || report.state === 'doubted' ? byId.get(report.clip ?? '') : undefined;
      return report.slot.kind === kind && own ? [{ report, own }] : [];
    });
  const lines: ContractLine[] = [];
  const add = (
    line: Partial<ContractLine> & Pick<ContractLine, 'id' | 'title' | 'unit' | 'digits' | 'asked' | 'measured'>,
    at?: { report: SlotReport; own: SetClip },
  ) => lines.push({ slot: at?.report.id ?? null, clip: at?.own.id ?? null, warp: null, breaks: null, reach: null, ...line });
  const gaitOf = ({ slot }: SlotReport): Gait => ('gait' in slot ? slot.gait : 'walk');

  for (const report of slots) {
    if (report.slot.kind !== 'loop') continue;
    const { gait, direction } = report.slot;
    const at = filled('loop').find((own) => own.report === report);
    const asked = report.slot.speedMps ?? askedSpeed(contract, gait, direction);
    const title = `${gait} ${direction === 'forward' ? 'ahead' : direction}`;
    add(
      {
        id: `speedMps/${gait}/${direction}`,
        title,
        unit: 'm/s',
        digits: 2,
        asked,
        measured: at?.own.traits.speedMps ?? null,
        ...(at && speedLine(at.own.clip, asked)),
      },
      at,
    );
  }
  for (const [kind, rate, seconds] of [
    ['start', 'accelerationMps2', 'from standing'],
    ['stop', 'decelerationMps2', 'to standing'],
  ] as const) {
    for (const at of filled(kind)) {
      const gait = gaitOf(at.report);
      const measured = speedCourse(at.own.clip)?.ratePerS2 ?? null;
      const asked = contract[rate][gait] ?? null;
      // With the speed at its end kept, quicker means a shorter time and a shorter way in the same measure.
      const time = asked && measured ? asked / measured : 1;
      add(
        {
          id: `${rate}/${gait}`,
          title: `${gait}, ${seconds}`,
          unit: 'm/s²',
          digits: 1,
          asked,
          measured,
          ...warped(asked && measured ? { ...NO_WARP, time, stride: 1 / time } : null),
        },
        at,
      );
      if (kind === 'start') continue;
      const metres = at.own.traits.distanceM;
      const stop = contract.stoppingM[gait] ?? null;
      add(
        {
          id: `stoppingM/${gait}`,
          title: `${gait}, way to stop`,
          unit: 'm',
          digits: 2,
          asked: stop,
          measured: metres,
          ...ratioLine(stop, metres, 'stride'),
        },
        at,
      );
    }
  }
  for (const at of filled('arc')) {
    const gait = gaitOf(at.report);
    const measured = Math.abs(at.own.traits.turnDegS);
    const asked = contract.turnRateDegS[gait] ?? null;
    add(
      {
        id: `turnRateDegS/${gait}`,
        title: `${gait}, arc to the ${at.own.traits.turnDegS > 0 ? 'left' : 'right'}`,
        unit: '°/s',
        digits: 0,
        asked,
        measured,
        ...ratioLine(asked, measured, 'path'),
      },
      at,
    );
  }
  for (const angle of contract.turnAnglesDeg)
    for (const side of ['left', 'right'] as const) {
      const at = filled('turn').find(({ report: { slot } }) => slot.kind === 'turn' && slot.angle === angle && slot.side === side);
      const measured = at ? Math.abs(at.own.traits.turnDeg) : null;
      add(
        {
          id: `turnAnglesDeg/${side}/${angle}`,
          title: `turn ${side} by ${angle}°`,
          unit: '°',
          digits: 1,
          asked: angle,
          measured,
          ...ratioLine(angle, measured, 'path'),
        },
        at,
      );
    }
  if (contract.turnAnglesDeg.length === 0)
    for (const at of filled('turn')) {
      const { slot } = at.report;
      if (slot.kind !== 'turn') continue;
      add(
        {
          id: `turnAnglesDeg/${slot.side}/${slot.angle}`,
          title: `turn ${slot.side} by ${slot.angle}°`,
          unit: '°',
          digits: 1,
          asked: null,
          measured: Math.abs(at.own.traits.turnDeg),
        },
        at,
      );
    }
  for (const at of filled('flight')) {
    const height = hopHeight(at.own.clip);
    add(
      { id: 'hopHeightM', title: 'hop, height of the hips', unit: 'm', digits: 2, asked: contract.hopHeightM ?? null, measured: height },
      at,
    );
    add(
      {
        id: 'hopLengthM',
        title: 'hops, way in all',
        unit: 'm',
        digits: 2,
        asked: contract.hopLengthM ?? null,
        measured: at.own.traits.distanceM,
        ...ratioLine(contract.hopLengthM ?? null, at.own.traits.distanceM, 'stride'),
      },
      at,
    );
  }
  for (const at of filled('step'))
    add(
      {
        id: 'stepHeightM',
        title: 'step, height',
        unit: 'm',
        digits: 2,
        asked: contract.stepHeightM ?? null,
        measured: Math.abs(at.own.traits.riseM),
      },
      at,
    );
  const widest = clips.reduce<SetClip | null>(
    (best, own) => (own.traits.figures.rootToHipsCm > (best?.traits.figures.rootToHipsCm ?? -1) ? own : best),
    null,
  );
  if (widest) {
    const measured = widest.traits.figures.rootToHipsCm / 100;
    const asked = contract.capsuleRadiusM ?? null;
    add({
      id: 'capsuleRadiusM',
      title: 'capsule, farthest the hips leave the root',
      unit: 'm',
      digits: 2,
      asked,
      measured,
      clip: widest.id,
      breaks: asked !== null && measured > asked ? `the hips leave the capsule by ${((measured - asked) * 100).toFixed(0)} cm` : null,
    });
  }
  return lines;
}

/** What a number asks of one thing that goes with it. */
function ratioLine(asked: number | null, measured: number | null, by: keyof Warp): Partial<ContractLine> {
  if (asked === null || !measured) return {};
  const [least, most] = WARP_BOUNDS[by];
  return { ...warped({ ...NO_WARP, [by]: asked / measured }), reach: [measured * least, measured * most] };
}

const WORDS: { readonly [K in keyof Warp]: string } = { time: 'time', stride: 'strides', path: 'path' };

function warped(warp: Warp | null): Pick<ContractLine, 'warp' | 'breaks'> {
  if (!warp) return { warp: null, breaks: null };
  const out = (Object.keys(WARP_BOUNDS) as (keyof Warp)[]).filter((key) => {
    const [least, most] = WARP_BOUNDS[key];
    return warp[key] < least - 1e-9 || warp[key] > most + 1e-9;
  });
  const say = (key: keyof Warp) => {
    const [least, most] = WARP_BOUNDS[key];
    return `${WORDS[key]} × ${warp[key].toFixed(2)}, from ${least} to ${most} looks right`;
  };
  return { warp, breaks: out.length > 0 ? out.map(say).join('; ') : null };
}

/** What a speed asks of a loop's strides and time, and how slow and how fast it can be brought to go. */
function speedLine(clip: Clip, asked: number | null): Partial<ContractLine> {
  const motion = worldMotion(clip);
  const going: Clip = { ...clip, motion, travel: null, way: wayOf(motion, clip.loop) };
  const change = (mps: number) => speedChange(going, { mps, by: 'mix' });
  const now = change(1)?.mps;
  if (!now) return {};
  const can = (mps: number) => {
    const found = change(mps);
    const inBounds = (key: 'time' | 'stride', value: number) => value >= WARP_BOUNDS[key][0] && value <= WARP_BOUNDS[key][1];
    return found !== null && inBounds('time', found.cadence) && inBounds('stride', found.stride);
  };
  const reachTo = (step: number) => {
    let mps = now;
    while (can(mps * step) && mps > 0.05 && mps < 15) mps *= step;
    return mps;
  };
  const found = asked === null ? null : change(asked);
  return { ...warped(found && { time: found.cadence, stride: found.stride, path: 1 }), reach: [reachTo(1 / 1.01), reachTo(1.01)] };
}

/** How far the hips rise over where they stand at first, metres. */
function hopHeight(clip: Clip): number | null {
  const ground = groundwork(played(clip).motion);
  if (!ground) return null;
  const { globals, body } = ground;
  const y = (f: number) => globals.positions[(f * globals.joints + body.hips) * 3 + 1];
  let most = y(0);
  for (let f = 0; f < globals.frames; f++) most = Math.max(most, y(f));
  return most - y(0);
}
