import { captureDay } from '../packages/capture/src/day';
import { describeTake, readTake, writeBvh, slotList, slotId } from '../packages/motion/src/index';
import { cutsOf } from '../packages/motion/src/draft/cuts';
import { fills } from '../packages/motion/src/set/fills';
import { NO_CONTRACT } from '../packages/motion/src/set/contract';
let read=0, cut=0;
const found=new Map<string,string[]>();
for (const take of captureDay(Number(process.argv[2] ?? 1))) {
  const t0 = performance.now();
  const { ground, passport } = describeTake(readTake(new TextEncoder().encode(writeBvh(take.motion)), take.name+'.bvh'));
  const t1 = performance.now();
  const cuts = cutsOf(take.name, ground!);
  const t2 = performance.now();
  read+=t1-t0; cut+=t2-t1;
  console.log(take.name, (t1-t0).toFixed(0), (t2-t1).toFixed(0), passport.units.unit, passport.freeFall.verdict, take.truth.tries.map(t=>`${t.from}-${t.to}${t.spoilt?' '+t.spoilt:''}`).join(', '));
  for (const c of cuts) {
    const fit = slotList('full').map(s=>({id:slotId(s), off: fills(s,c.traits,NO_CONTRACT)})).filter(o=>o.off!==null).sort((a,b)=>a.off!-b.off!);
    const t=c.traits;
    console.log('   ', c.from, c.to, c.isLoop?'loop':'', t.kind, t.gait, t.direction, t.foot??'', t.speedMps.toFixed(2), t.turnDegS.toFixed(0), t.turnDeg.toFixed(0), 'slide', t.figures.slideCm.toFixed(1), 'seam', t.figures.seam.poseCm.toFixed(1), c.fault??'', '=>', fit.map(f=>f.id+' '+f.off!.toFixed(2)).join(' | '));
    if (!c.fault) for (const f of fit) found.set(f.id,[...(found.get(f.id)??[]), take.name]);
  }
}
console.log({read,cut});
for (const s of slotList('full')) console.log(slotId(s), [...new Set(found.get(slotId(s))??[])].join(' '));
