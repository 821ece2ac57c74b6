import { RADIANS } from '@lantern/motion';
import type { Figure } from './figure';
import { smooth, type GaitTable } from './gait-table';
import { hipJoint } from './hip-joint';
import { legLength, STANCE_KNEE } from './leg-length';
import type { FloorPath } from './path';
import type { Person } from './person';
import { FINE, type Plan } from './plan-data';
import { quintic } from './quintic';
import { footInStance } from './foot';

/** The hips over time, one entry per fine sample. Angles in radians. */
export interface Pelvis {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly z: Float64Array;
  readonly heading: Float64Array;
  /** Turn about the vertical on top of the heading. */
  readonly axial: Float64Array;
  /** Roll, positive with the left side down; what of it is leaning into a turn. */
  readonly list: Float64Array;
  readonly bank: Float64Array;
  /** Of the pelvis, forward. */
  readonly tilt: Float64Array;
  /** Of the trunk, forward, degrees: what the gait has, crouching before a hop, stumbling. */
  readonly lean: Float64Array;
  readonly tables: readonly GaitTable[];
}

const GRAVITY = 9.81;
const TURN = 2 * Math.PI;

/** Hips along the path: ripple, sway, list and axial turn by phase; height by phase walking, by free fall in flights. */
export function pelvis(figure: Figure, plan: Plan, path: FloorPath, trunk: Person['trunk']): Pelvis {
  const n = plan.samples;
  const make = () => new Float64Array(n);
  const out = { x: make(), y: make(), z: make(), heading: make(), axial: make(), list: make(), bank: make(), tilt: make(), lean: make() };
  const standing = figure.hipDrop + figure.thigh + figure.shin + figure.ankleHeight;
  const tables: GaitTable[] = [];
  for (let i = 0; i < n; i++) {
    const table = plan.style.table(plan.speed[i]);
    tables.push(table);
    const u = plan.phase[i];
    const pace = (plan.phase[Math.min(n - 1, i + 1)] - plan.phase[Math.max(0, i - 1)]) * (FINE / 2);
    const ripple = pace > 0.1 ? (-table.ripple / (2 * TURN * pace)) * Math.sin(2 * TURN * (u - 0.31)) : 0;
    const at = path.at(plan.distance[i] + ripple);
    const sway = table.sway * Math.cos(TURN * (u - 0.3));
    const facing = at.heading + plan.style.facing + plan.spin[i];
    out.x[i] = at.x + Math.cos(facing) * sway;
    out.z[i] = at.z - Math.sin(facing) * sway;
    out.heading[i] = facing;
    // Forward with the side that is about to land: at a left strike (u = 0) the left hip leads, a turn to the right.
    const own = trunk(u);
    out.axial[i] = -table.axial * own * RADIANS * Math.cos(TURN * u);
    // Weight on the left: the right side drops, most of it at 18 % of the stride; lean into a turn.
    out.bank[i] = 0.35 * Math.atan((plan.speed[i] ** 2 * at.curvature) / GRAVITY);
    out.list[i] = -table.list * (0.5 + 0.5 * own) * RADIANS * Math.cos(TURN * (u - 0.18)) + out.bank[i];
    // Crouched before a hop, the trunk comes forward, and the pelvis with it. Going, it tilts most before the other foot lands.
    const crouch = Math.max(0, -(plan.height[i] || 0)) / 0.25;
    out.lean[i] = table.lean + 34 * crouch + plan.lurch[i];
    const tilts = (1 + 0.12 * table.lean) * smooth(plan.speed[i] / 1.1) * own * Math.cos(2 * TURN * (u - 0.47));
    out.tilt[i] = (0.3 * out.lean[i] + tilts) * RADIANS;
    out.y[i] = standing + table.rise + table.bob * Math.cos(2 * TURN * (u - 0.29));
  }
  addLevels(out.y, plan);
  addFlights(out.y, plan);
  plan.height.forEach((height, i) => {
    if (!Number.isNaN(height)) out.y[i] = standing + height;
  });
  const result = { ...out, tables };
  keepInReach(figure, plan, result);
  return result;
}

/** The hips rise to the ground of the foot that bears, over the better part of a step about its strike. */
function addLevels(y: Float64Array, plan: Plan): void {
  const landings = plan.stances.filter(({ strike }) => strike > 0).sort((a, b) => a.strike - b.strike);
  let level = plan.stances.find(({ strike }) => strike <= 0)?.level ?? 0;
  for (let i = 0; i < y.length; i++) y[i] += level;
  for (const stance of landings) {
    const by = stance.level - level;
    if (by === 0) continue;
    level = stance.level;
    const from = stance.strike - 0.1 * FINE;
    for (let i = Math.max(0, Math.ceil(from)); i < y.length; i++) y[i] += by * smooth((i - from) / (0.62 * FINE));
  }
}

/** Replaces the height from the stance before the first flight to the one after the last: ballistic in the air, quintic on the ground. */
function addFlights(y: Float64Array, plan: Plan): void {
  // Footwork has its own.
  const air = flights(plan).filter(([a]) => Number.isNaN(plan.height[Math.round(a)] ?? Number.NaN));
  if (air.length === 0) return;
  const gap = (a: number, b: number) => (b - a) / FINE;
  for (let k = 0; k < air.length; k++) {
    const [a, b] = air[k];
    const launch = (GRAVITY * gap(a, b)) / 2;
    const level = y[Math.min(y.length - 1, Math.max(0, Math.round(a)))];
    const known = k > 0 && gap(air[k - 1][1], a) < 0.6;
    const from = known ? air[k - 1] : null;
    // Contact before this flight.
    if (from) {
      const landing = (-GRAVITY * gap(from[0], from[1])) / 2;
      const start = y[Math.max(0, Math.min(y.length, Math.ceil(from[1])) - 1)];
      fill(y, from[1], a, quintic([start, landing, -GRAVITY], [level, launch, -GRAVITY], gap(from[1], a)));
    } else if (a > 0) {
      const start = Math.max(0, Math.round(a - 0.3 * FINE));
      fill(y, start, a, quintic(stateOf(y, start), [level, launch, -GRAVITY], gap(start, a)));
    }
    const next = air[k + 1];
    const alone = !next || gap(b, next[0]) >= 0.6;
    const target = next && !alone ? y[Math.min(y.length - 1, Math.round(next[0]))] : level;
    // The landing level is the next take-off's, reached by the same throw: a start that is a little faster.
    const throwSpeed = launch + (target - level) / gap(a, b);
    fill(y, a, b, (t) => level + throwSpeed * t - (GRAVITY / 2) * t * t);
    if (alone && b < y.length) {
      const end = Math.min(y.length - 1, Math.round(b + 0.3 * FINE));
      fill(y, b, end, quintic([target, throwSpeed - GRAVITY * gap(a, b), -GRAVITY], stateOf(y, end), gap(b, end)));
    }
  }
}

function stateOf(y: Float64Array, at: number): [number, number, number] {
  const i = Math.min(y.length - 2, Math.max(1, at));
  return [y[i], ((y[i + 1] - y[i - 1]) * FINE) / 2, (y[i + 1] - 2 * y[i] + y[i - 1]) * FINE * FINE];
}

function fill(y: Float64Array, from: number, to: number, value: (seconds: number) => number): void {
  for (let i = Math.max(0, Math.ceil(from)); i < Math.min(y.length, to); i++) y[i] = value((i - from) / FINE);
}

/** Intervals in which neither foot is in stance, fine samples. */
export function flights(plan: Plan): [number, number][] {
  const sorted = [...plan.stances].sort((a, b) => a.strike - b.strike);
  const out: [number, number][] = [];
  let covered = sorted[0]?.off ?? Infinity;
  for (const stance of sorted.slice(1)) {
    if (stance.strike > covered) out.push([covered, stance.strike]);
    covered = Math.max(covered, stance.off);
  }
  return out;
}

/** Lowers the hips, smoothly, where a leg in stance would be stretched further than `STANCE_KNEE`. */
export function keepInReach(figure: Figure, plan: Plan, hips: Omit<Pelvis, 'tables'>): void {
  const longest = legLength(figure, STANCE_KNEE);
  const need = new Float64Array(plan.samples);
  for (const stance of plan.stances) {
    const hip = hipJoint(figure, hips, stance.side);
    const end = Math.min(plan.samples - 1, Math.floor(stance.off));
    for (let i = Math.max(0, Math.ceil(stance.strike)); i <= end; i++) {
      const { ankle } = footInStance(figure, stance, i);
      const [hx, hy, hz] = hip(i);
      const across = Math.hypot(ankle[0] - hx, ankle[2] - hz);
      const reach = Math.sqrt(Math.max(0, longest ** 2 - across ** 2));
      need[i] = Math.max(need[i], hy - ankle[1] - reach);
    }
  }
  const width = Math.round(0.3 * FINE);
  let lowered = slidingMax(need, width);
  for (let pass = 0; pass < 3; pass++) lowered = boxMean(lowered, Math.floor(width / 3));
  for (let i = 0; i < plan.samples; i++) hips.y[i] -= lowered[i];
}

function slidingMax(values: Float64Array, radius: number): Float64Array {
  const out = new Float64Array(values.length);
  const queue: number[] = [];
  let head = 0;
  for (let i = 0; i < values.length + radius; i++) {
    if (i < values.length) {
      while (queue.length > head && values[queue[queue.length - 1]] <= values[i]) queue.pop();
      queue.push(i);
    }
    if (queue[head] < i - 2 * radius) head++;
    if (i >= radius) out[i - radius] = values[queue[head]];
  }
  return out;
}

function boxMean(values: Float64Array, radius: number): Float64Array {
  const n = values.length;
  const out = new Float64Array(n);
  const at = (i: number) => values[Math.min(n - 1, Math.max(0, i))];
  let sum = 0;
  for (let i = -radius; i <= radius; i++) sum += at(i);
  for (let i = 0; i < n; i++) {
    out[i] = sum / (2 * radius + 1);
    sum += at(i + radius + 1) - at(i - radius);
  }
  return out;
}
