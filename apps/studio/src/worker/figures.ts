import { bodyOf, createMotion, layFigure, sidesOf, type Body, type BodyMesh, type Skeleton } from '@lantern/motion';
import { LRUCache } from 'lru-cache';
import type { Markers } from './markers';

const known = new LRUCache<string, BodyMesh>({ max: 20 });

/** What somebody with a skeleton looks like; made once for all takes of one suit. */
export function figureOf(skeleton: Skeleton, body: Body | null): BodyMesh {
  const key = JSON.stringify([skeleton, body]);
  const mesh = known.get(key) ?? layFigure(skeleton, body);
  known.set(key, mesh);
  return mesh;
}

/** What somebody with this skeleton, of whom no motion is known, looks like. */
export function figureView(skeleton: Skeleton): { mesh: BodyMesh; markers: Markers | null } {
  const motion = createMotion(skeleton, 60, 1);
  motion.rootPositions.set(skeleton.joints[0].offset);
  skeleton.joints.forEach((joint, j) => motion.rotations.set(joint.restRotation, j * 4));
  const body = bodyOf(motion);
  return { mesh: figureOf(skeleton, body), markers: body && { ...sidesOf(skeleton, body), footprints: [] } };
}
