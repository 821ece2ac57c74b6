import { capture, expressOn, zoo } from '@lantern/capture';
import {
  findLoops,
  groundwork,
  makeClips,
  manifestSchema,
  parseProject,
  readBvh,
  forwardKinematics,
  readGlb,
  worldMotion,
  type Motion,
  type ShipOptionsInput,
} from '@lantern/motion';

/** A stroll and a piece of the walk as they ship; what is broken of what is promised. */
async function shipped(motion: Motion, ship: ShipOptionsInput) {
  const ground = groundwork(motion);
  const found = ground && findLoops(ground).candidates.find(({ strides }) => strides === 1);
  if (!found) throw new Error('nobody walks');
  const steps = [{ kind: 'loop' }, { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }];
  const project = parseProject(
    JSON.stringify({
      oldLantern: 1,
      takes: [{ id: 'walk', file: 'walk.bvh' }],
      clips: [
        { name: 'stroll', take: 'walk', from: found.from, to: found.to, steps },
        { name: 'piece', take: 'walk', from: 10, to: 60 },
      ],
      sets: [{ name: 'set' }],
      ship: { fps: motion.fps, ...ship },
    }),
  );
  const { files, report } = await makeClips(project, () => ({ motion, warnings: [] }));
  const of = (end: string) => files.find(({ path }) => path.endsWith(end));
  return { report, glb: of('set.glb')?.bytes ?? new Uint8Array(), manifest: of('.lantern.json'), bvh: of('piece.bvh')?.bytes };
}

test.each(zoo().map((member) => [member.name, member] as const))(
  'on %s every promise holds, the manifest pairs the sides, and what comes back is the motion that left',
  async (_, { rig }) => {
    const { motion } = expressOn(rig, capture('walk', { seed: 5, stature: rig.stature, fps: 30, seconds: 4 }).motion);
    for (const ship of [
      { thin: {}, targets: true, bvh: true, bvhUnit: 'm' as const },
      { lastKey: 'left out' as const, thin: { joining: 'straight' as const } },
    ]) {
      const { report, glb, manifest, bvh } = await shipped(motion, ship);
      expect(report.failed).toEqual([]);
      expect(report.guarantees?.filter(({ ok }) => !ok)).toEqual([]);
      const told = manifestSchema.parse(JSON.parse(new TextDecoder().decode(manifest?.bytes)));
      expect(told.mirror.length).toBeGreaterThan(4);
      expect(told.mirror).toContainEqual(expect.arrayContaining([told.joints.left.foot, told.joints.right.foot]));
      // Held against the take itself, not against what was written: a piece without steps is the take.
      const piece = (await readGlb(glb)).find(({ name }) => name === 'piece');
      if (!piece) throw new Error('the piece is not in it');
      const [a, b] = [forwardKinematics(worldMotion(piece.clip)), forwardKinematics(motion)];
      const names = piece.clip.motion.skeleton.joints.map(({ name }) => motion.skeleton.joints.findIndex((own) => own.name === name));
      expect(names.filter((j) => j >= 0).length).toBeGreaterThanOrEqual(motion.skeleton.joints.length - 1);
      let worst = 0;
      for (let f = 0; f <= 50; f++)
        // Of a rig with a root of its own the one that was put above it is not the take's.
        names.forEach((j, i) => {
          if (j < 0) return;
          const [p, q] = [(f * a.joints + i) * 3, ((f + 10) * b.joints + j) * 3];
          worst = Math.max(worst, Math.hypot(...[0, 1, 2].map((k) => a.positions[p + k] - b.positions[q + k])));
        });
      expect(worst).toBeLessThan(0.00052);
      if (bvh) expect(readBvh(bvh, 'piece').motion.frames).toBe(51);
    }
  },
);
