import { type Motion, random } from '@lantern/motion';
import { JOINTS, type JointName } from './figure';

/** Segments of the body that carry a sensor; toes follow their feet without one. */
export const SENSORS: readonly JointName[] = JOINTS.filter((name) => !name.endsWith('Toes') && name !== 'Neck');

/** A sensor that is not heard for a while, frames. */
export interface Dropout {
  readonly sensor: JointName;
  readonly from: number;
  readonly to: number;
}

/** @param perMinute how often, on average, some sensor drops out for one to three seconds */
export function dropouts(frames: number, fps: number, perMinute: number, seed: number): Dropout[] {
  const source = random(seed ^ 0xd20b);
  const out: Dropout[] = [];
  if (perMinute <= 0) return out;
  for (let t = 0; ;) {
    t += (-Math.log(1 - source.next()) * 60) / perMinute;
    const from = Math.round(t * fps);
    if (from >= frames) return out;
    const sensor = SENSORS[Math.floor(source.next() * SENSORS.length)];
    out.push({ sensor, from, to: Math.min(frames, from + Math.round((1 + 2 * source.next()) * fps)) });
  }
}

/** In place: a joint whose sensor is not heard keeps its last rotation against its parent. */
export function freezeDropouts(motion: Motion, drops: readonly Dropout[]): void {
  const joints = motion.skeleton.joints.length;
  for (const { sensor, from, to } of drops) {
    const j = motion.skeleton.joints.findIndex(({ name }) => name === sensor);
    if (j < 0 || from < 1) continue;
    const last = motion.rotations.slice(((from - 1) * joints + j) * 4, ((from - 1) * joints + j) * 4 + 4);
    for (let f = from; f < to; f++) motion.rotations.set(last, (f * joints + j) * 4);
  }
}
