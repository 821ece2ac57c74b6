import { bodyOf, createMotion, layFigure, sidesOf, type Body, type BodyMesh, type Skeleton } from '@lantern/motion';
import { LRUCache } from 'lru-cache';
import { lighter } from './light-mesh';
import type { Markers } from './markers';

const known = new LRUCache<string, Promise<BodyMesh>>({ max: 20 });

/** What somebody with a skeleton looks like; made once for all takes of one suit. */
export function figureOf(skeleton: Skeleton, body: Body | null): Promise<BodyMesh> {
  const key = JSON.stringify([skeleton, body]);
  const mesh = known.get(key) ?? lighter(layFigure(skeleton, body));
  known.set(key, mesh);
  return mesh;
}

/** What somebody with this skeleton, of whom no motion is known, looks like. */
export async function figureView(skeleton: Skeleton): Promise<{ mesh: BodyMesh; markers: Markers | null }> {
  const motion = createMotion(skeleton, 60, 1);
  motion.rootPositions.set(skeleton.joints[0].offset);
  skeleton.joints.forEach((joint, j) => motion.rotations.set(joint.restRotation, j * 4));
  const body = bodyOf(motion);
  return { mesh: await figureOf(skeleton, body), markers: body && { ...sidesOf(skeleton, body), footprints: [] } };
}
