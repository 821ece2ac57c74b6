import { RADIANS } from '../math/angles';
import { z } from 'zod';
import { fromAxisAngle, multiply, rotate } from '../math/quat';
import { floorPlane, type FloorPlane } from '../measure/floor-plane';
import { groundwork } from '../measure/groundwork';
import type { Clip } from '../model/clip';
import { copyMotion, type Motion } from '../model/motion';
import { sinkCm } from '../measure/slide';
import { asItIs, defineStep, stepObject } from './definition';

const schema = stepObject('floor', {
  /** Height of the ground that becomes 0, metres; `auto`: where the feet stand. */
  height: z.union([z.literal('auto'), z.number().min(-10).max(10)]).default('auto'),
  /** `auto` makes the ground that the feet stand on level; else how many degrees it rises to the front (+Z) and to the left (+X). */
  tilt: z
    .union([
      z.literal('auto'),
      z.literal('none'),
      z.object({ frontDeg: z.number().min(-30).max(30), leftDeg: z.number().min(-30).max(30) }),
    ])
    .default('auto'),
});
export type FloorParams = z.infer<typeof schema>;

/** Puts the ground at height 0 and level: the whole clip is turned and moved as one piece, and so is what the take has around it. */
export const floor = defineStep(schema, {
  title: 'Floor',
  about: 'The ground put at zero and level.',
  stages: ['ground', 'ground'],
  create: () => ({}),
  mapTime: asItIs,
  otherSide: (step) => (typeof step.tilt === 'object' ? { ...step, tilt: { ...step.tilt, leftDeg: -step.tilt.leftDeg } } : step),
  report: (before, after) => ({ label: 'sink', figure: 'sinkCm', unit: 'cm', digits: 2, before: sinkOf(before), after: sinkOf(after) }),
  apply(clip, params) {
    if (clip.loop || clip.travel) return clip;
    const once = levelClip(clip, params);
    // On a steep floor far ends look like stairs at first; on the nearly level one they do not.
    return params.tilt === 'auto' ? levelClip(once, { ...params, height: params.height === 'auto' ? 'auto' : 0 }) : once;
  },
});

function levelClip(clip: Clip, params: FloorParams): Clip {
  const found = groundwork(clip.motion);
  if (!found) return clip;
  const plane = withParams(floorPlane(found), params);
  const level = (motion: Motion | null) => motion && levelled(motion, plane);
  return { ...clip, motion: levelled(clip.motion, plane), lead: level(clip.lead), tail: level(clip.tail) };
}

function withParams(plane: FloorPlane, { height, tilt }: FloorParams): FloorPlane {
  const [riseX, riseZ] =
    tilt === 'auto'
      ? [plane.riseX, plane.riseZ]
      : tilt === 'none'
        ? [0, 0]
        : [Math.tan(tilt.leftDeg * RADIANS), Math.tan(tilt.frontDeg * RADIANS)];
  return { ...plane, riseX, riseZ, heightM: height === 'auto' ? plane.heightM : height };
}

function levelled(motion: Motion, { x, z: middle, heightM, riseX, riseZ }: FloorPlane): Motion {
  const out = copyMotion(motion);
  const joints = motion.skeleton.joints.length;
  // The ground's normal (−riseX, 1, −riseZ) goes to up, about the axis at right angles to both.
  const steep = Math.hypot(riseX, riseZ);
  const q = steep > 0 ? fromAxisAngle([-riseZ / steep, 0, riseX / steep], -Math.atan(steep)) : ([0, 0, 0, 1] as const);
  const arm = [0, 0, 0];
  for (let f = 0; f < motion.frames; f++) {
    arm[0] = out.rootPositions[f * 3] - x;
    arm[1] = out.rootPositions[f * 3 + 1] - heightM;
    arm[2] = out.rootPositions[f * 3 + 2] - middle;
    rotate(out.rootPositions, f * 3, q, 0, arm, 0);
    out.rootPositions[f * 3] += x;
    out.rootPositions[f * 3 + 2] += middle;
    multiply(out.rotations, f * joints * 4, q, 0, out.rotations, f * joints * 4);
  }
  return out;
}

function sinkOf({ motion }: Clip): number | null {
  const found = groundwork(motion);
  return found && sinkCm(found.soles);
}
