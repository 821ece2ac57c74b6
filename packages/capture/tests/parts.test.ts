import fc from 'fast-check';
import { figure } from '../src/figure';
import { footInStance } from '../src/foot';
import { gaitAt, JOG, smooth, STAND, strideRate, WALK } from '../src/gait-table';
import { kneeOf, legLength } from '../src/leg-length';
import { minimumJerk, type State } from '../src/minimum-jerk';
import { floorPath } from '../src/path';
import { plan } from '../src/plan';
import { FINE, type Stance } from '../src/plan-data';
import { quintic } from '../src/quintic';
import { random } from '@lantern/motion';
import { SCRIPTS } from '../src/script-names';
import { scriptFor } from '../src/scripts';

const number = fc.double({ min: -5, max: 5, noNaN: true });
const state = fc.tuple(number, number, number);
const slope = (curve: (t: number) => number, t: number) => (curve(t + 1e-5) - curve(t - 1e-5)) / 2e-5;
const bend = (curve: (t: number) => number, t: number) => (curve(t + 1e-3) - 2 * curve(t) + curve(t - 1e-3)) / 1e-6;

test('a quintic leaves and arrives with the place, velocity and acceleration it was given', () => {
  fc.assert(
    fc.property(state, state, fc.double({ min: 0.2, max: 2, noNaN: true }), (a, b, duration) => {
      const curve = quintic(a, b, duration);
      expect(curve(0)).toBeCloseTo(a[0], 8);
      expect(curve(duration)).toBeCloseTo(b[0], 6);
      expect(slope(curve, 0)).toBeCloseTo(a[1], 3);
      expect(slope(curve, duration)).toBeCloseTo(b[1], 3);
    }),
  );
});

test('a way of least jerk goes through its knots and has no kink in place, velocity or acceleration there', () => {
  fc.assert(
    fc.property(state, state, number, number, (a, b, p, q) => {
      const knots = [
        { at: 0.4, value: p },
        { at: 0.7, value: q },
      ];
      const curve = minimumJerk(a as State, knots, b as State, 1);
      for (const { at, value } of knots) {
        expect(curve(at)).toBeCloseTo(value, 6);
        expect(slope(curve, at - 2e-5) - slope(curve, at + 2e-5)).toBeCloseTo(0, 0);
        expect(Math.abs(bend(curve, at - 2e-3) - bend(curve, at + 2e-3))).toBeLessThan(0.02 * (1 + Math.abs(bend(curve, at))) + 12);
      }
      expect(curve(1)).toBeCloseTo(b[0], 5);
    }),
  );
});

test('without knots it is the quintic', () => {
  const [a, b]: [State, State] = [
    [1, 2, -3],
    [0, 1, 2],
  ];
  for (const t of [0, 0.3, 0.8]) expect(minimumJerk(a, [], b, 1)(t)).toBeCloseTo(quintic(a, b, 1)(t), 9);
});

test('leg length and knee angle are each other’s inverse; longer is straighter', () => {
  const wick = figure();
  for (const knee of [3, 9, 30, 65, 110]) expect(kneeOf(wick, legLength(wick, knee))).toBeCloseTo(knee, 6);
  expect(legLength(wick, 0)).toBeCloseTo(wick.thigh + wick.shin, 9);
  expect(legLength(wick, 10)).toBeGreaterThan(legLength(wick, 40));
});

test('figures of any stature stand on the floor and are as tall as they say', () => {
  for (const stature of [1.5, 1.78, 2]) {
    const { joints } = figure(stature).skeleton;
    const heights = joints.map(() => 0);
    joints.forEach((joint, j) => (heights[j] = joint.offset[1] + (joint.parent >= 0 ? heights[joint.parent] : 0)));
    const tips = joints.flatMap((joint, j) => joint.endSites.map((tip) => heights[j] + tip[1]));
    expect(Math.max(...tips)).toBeCloseTo(stature, 6);
    expect(Math.min(...tips)).toBeCloseTo(0, 6);
  }
});

test('the gait goes smoothly from standing to walk to jog, and its own speeds have their own tables', () => {
  expect(gaitAt(0)).toEqual(STAND);
  for (const key of Object.keys(WALK) as (keyof typeof WALK)[]) {
    expect(gaitAt(1.3)[key]).toBeCloseTo(WALK[key], 9);
    expect(gaitAt(2.8)[key]).toBeCloseTo(JOG[key], 9);
  }
  expect(120 * strideRate(1.3)).toBeCloseTo(Math.sqrt((60 * 1.3) / 0.0063), 6);
  expect(120 * strideRate(2.8)).toBeCloseTo(148 + 5.4 * 2.8, 6);
  expect([smooth(-1), smooth(0.5), smooth(2)]).toEqual([0, 0.5, 1]);
});

test('a path has the length and the turns it was made of, and goes straight on at both ends', () => {
  const path = floorPath([{ metres: 5 }, { metres: 2, turn: 90 }, { metres: 5 }]);
  expect(path.length).toBe(12);
  expect(path.at(0).heading).toBe(0);
  expect(path.at(11.9).heading).toBeCloseTo(Math.PI / 2, 2);
  expect(path.at(-1).z).toBeCloseTo(-1, 6);
  expect(path.at(13).x - path.at(12).x).toBeCloseTo(1, 2);
  for (let s = 0.05; s < 11.9; s += 0.037) {
    const [a, b] = [path.at(s), path.at(s + 0.005)];
    // As far on the floor as along the path, without a step anywhere.
    expect(Math.hypot(b.x - a.x, b.z - a.z)).toBeCloseTo(0.005, 6);
    expect(Math.abs(b.curvature - a.curvature)).toBeLessThan(0.03);
  }
});

test.each(SCRIPTS)('the feet of %s land by turns, each stance after the other foot’s, none while it stands', (name) => {
  const script = scriptFor(name, 8);
  const { stances, samples } = plan(script.legs, floorPath(script.path), random(4), script.style);
  for (const side of ['left', 'right'] as const) {
    const own = stances.filter((stance) => stance.side === side).sort((a, b) => a.strike - b.strike);
    for (let i = 1; i < own.length; i++) expect(own[i].strike).toBeGreaterThan(own[i - 1].off);
    for (const stance of own) {
      expect(stance.strike < stance.off).toBe(true);
      if (Number.isFinite(stance.heelOff)) expect(stance.heelOff).toBeLessThan(stance.off);
    }
  }
  const order = [...stances].filter((stance) => stance.strike > 0 && stance.strike < samples).sort((a, b) => a.strike - b.strike);
  // Hopping has no turns.
  if (name === 'hop') return;
  for (let i = 1; i < order.length; i++) {
    // After a wait he may start with either foot.
    if (order[i].strike - order[i - 1].strike < 1.5 * FINE) expect(order[i].side).not.toBe(order[i - 1].side);
  }
});

test('a foot in stance turns about heel, ball and tip in that order and never leaves the floor by more than its own size', () => {
  const wick = figure();
  const stance: Stance = {
    side: 'left',
    strike: 0,
    flat: 0.1 * FINE,
    heelOff: 0.4 * FINE,
    off: 0.66 * FINE,
    x: 1,
    z: 2,
    level: 0,
    yaw: 0.3,
    strikePitch: 14,
    offPitch: 65,
    toeBend: 40,
  };
  const heel = (t: number) => {
    const { ankle, pitch, yaw } = footInStance(wick, stance, t);
    const ahead = -wick.heelBack * Math.cos(pitch) + wick.ankleHeight * Math.sin(pitch);
    const up = -wick.heelBack * Math.sin(pitch) - wick.ankleHeight * Math.cos(pitch);
    return [ankle[0] + Math.sin(yaw) * ahead, ankle[1] + up, ankle[2] + Math.cos(yaw) * ahead];
  };
  const start = heel(0);
  for (let t = 0; t < 0.4 * FINE; t += 7) heel(t).forEach((v, k) => expect(v).toBeCloseTo(start[k], 9));
  expect(heel(0.66 * FINE)[1]).toBeGreaterThan(0.15);
  expect(footInStance(wick, stance, 0).pitch).toBeCloseTo((14 * Math.PI) / 180, 9);
  expect(footInStance(wick, stance, 0.66 * FINE).pitch).toBeCloseTo((-65 * Math.PI) / 180, 9);
  expect(footInStance(wick, stance, 0.66 * FINE).bend).toBeCloseTo((40 * Math.PI) / 180, 1);
});

test('the generator is even and normal where it says so', () => {
  const source = random(11);
  const uniform = Array.from({ length: 20_000 }, () => source.next());
  const normal = Array.from({ length: 20_000 }, () => source.normal());
  const mean = (values: number[]) => values.reduce((sum, v) => sum + v, 0) / values.length;
  expect(mean(uniform)).toBeCloseTo(0.5, 1);
  expect(Math.min(...uniform)).toBeGreaterThanOrEqual(0);
  expect(Math.max(...uniform)).toBeLessThan(1);
  expect(mean(normal)).toBeCloseTo(0, 1);
  expect(mean(normal.map((v) => v * v))).toBeCloseTo(1, 1);
});
