import { capture } from '@lantern/capture';
import { describeTake, proposals, segments, findLoops, recipeRunner, recipeSchema, readTake, writeBvh } from '@lantern/motion';
import { clipTraits } from '../packages/motion/src/set/clip-traits';
for (const [script, seed, seconds, speed] of [['walk',11,20],['jog',12,14],['idle',13,30],['hush',15,12],['turn',17,20],['start-stop',3,20],['start-stop',4,20,2.8],['hop',14,12],['kerb',16,10],['stairs',16,10],['backwards',5,12],['sideways',6,12],['rounds',7,40]] as const) {
  const { motion } = capture(script, { seed, seconds, speed });
  const t = readTake(new TextEncoder().encode(writeBvh(motion)), 'a.bvh');
  const { motion: m, ground } = describeTake(t);
  const all = proposals(ground, segments(ground), findLoops(ground).candidates);
  const run = recipeRunner(m);
  console.log('==', script, speed ?? '');
  for (const p of all) {
    const t0 = performance.now();
    const clip = run({ from: p.from, to: p.to, steps: recipeSchema.parse([...(p.isLoop ? [{ kind: 'loop' }] : []), { kind: 'foot-lock' }, { kind: 'travel' }]) });
    const t1 = performance.now();
    const x = clipTraits(clip);
    console.log(p.name.padEnd(24), p.from, p.to, x && [x.kind, x.gait, x.toGait, x.direction, x.speedMps.toFixed(2), x.turnDegS.toFixed(0)+'/s', x.turnDeg.toFixed(0)+'°', x.distanceM.toFixed(2)+'m', x.foot, x.on, x.riseM.toFixed(2), x.levels, x.standsFirst, x.standsLast].join(' '), (performance.now()-t1).toFixed(0)+'ms');
  }
}
