import { captureDay } from '../packages/capture/src/day';
import { castGlb } from '../packages/cast/src/index';
import { describeTake, readTake, readCharacter, writeBvh, slotList, slotId } from '../packages/motion/src/index';
import { draftSet } from '../packages/motion/src/draft/draft-set';
const takes=[]; const truth=new Map();
const seed=Number(process.argv[2] ?? 1);
for (const take of captureDay(seed)) {
  const { motion } = describeTake(readTake(new TextEncoder().encode(writeBvh(take.motion)), take.name+'.bvh'));
  takes.push({id: take.name, motion}); truth.set(take.name, take.truth.tries);
}
const cast = new Map([['wick', readCharacter(await castGlb('wick'),'wick')]]);
const t0=performance.now(); let t=t0, says='';
const gen=draftSet(takes, cast, {slots: slotList('full'), character:'wick'});
for(;;){ const {done,value}=gen.next(); const now=performance.now(); if (says && now-t>400) console.log((now-t).toFixed(0), says); t=now; if(done){
  for (const c of value.choices) console.log(c.slot.padEnd(26), c.clip? `${c.clip.source.take} ${c.clip.source.from}-${c.clip.source.to}`:'-', c.why, c.out.length?'OUT '+c.out.join(', '):'', 'others', c.others.length);
  console.log(JSON.stringify(value.contract.speedMps), value.home, value.doubts.length); console.log('total', (performance.now()-t0).toFixed(0)); break;} says=value.says; }
import { recipeRunner, clipTraits, recipeSchema } from '../packages/motion/src/index';
import { worstSpots } from '../packages/motion/src/ship/worst-spots';
const show=(take:string,from:number,to:number,steps:any[])=>{ const r=recipeRunner(takes.find(t=>t.id===take)!.motion, cast); 
 for(let k=0;k<=steps.length;k++){ const c=r({from,to,steps:recipeSchema.parse(steps.slice(0,k))}); const t=clipTraits(c)!; console.log(take,from, steps[k-1]?.kind??'raw', 'sink',t.figures.sinkCm.toFixed(2),'hover',t.figures.hoverCm.toFixed(2),'slide',t.figures.slideCm.toFixed(2), JSON.stringify(worstSpots(c).sink), t.speedMps.toFixed(2)); } };

import { projectSchema, projectSources, setSchema, measureSet, playProject } from '../packages/motion/src/index';
import { roughWeather, PLAY_BOUNDS } from '../packages/motion/src/graph/weather';
import { heldFigures } from '../packages/motion/src/ship/troubles';
import { shippedClip } from '../packages/motion/src/ship/ship-clip';
const gen2=draftSet(takes, cast, {slots: slotList('full'), character:'wick'}); let d; for(;;){const n=gen2.next(); if(n.done){d=n.value;break;}}
const clips=d.choices.flatMap(c=>c.clip??[]);
const has=(n:string)=>clips.some(c=>c.name===n);
const project=projectSchema.parse({oldLantern:1, takes: takes.map(t=>({id:t.id,file:t.id+'.bvh'})), characters:[{id:'wick',file:'wick.glb'}], clips, 
  sets:[{name:'lamplighter',character:'wick',slots:'full',home:d.home,contract:d.contract}],
  fields:[{name:'walks and jogs',inputs:['speed','turn'],clips:['walk-forward','jog-forward','walk-arc-left','walk-arc-right','jog-arc-left','jog-arc-right'].filter(has)}]});
const sources=projectSources(project, id=>({motion:takes.find(t=>t.id===id)!.motion,warnings:[]}), cast);
const t2=performance.now();
const m=measureSet(project, project.sets[0], sources);
console.log('measured', (performance.now()-t2).toFixed(0), m.coverage.counts, m.failed, m.coverage.slots.filter(s=>s.state!=='filled').map(s=>s.id+' '+s.state), 'spare', m.coverage.spare);
for (const c of project.clips){ const {run,recipe}=sources.run(c); const s=shippedClip(run,recipe,{fps:60,thin:{boundMm:.5,joining:'smooth',quantised:false} as any,lastKey:true,rootMotion:'root' as any,home:sources.home('wick')}); const out=heldFigures(s,project.sets[0].bounds,project.sets[0].contract).filter(h=>h.isOut); if(out.length) console.log('SHIP OUT',c.name,out.map(o=>o.figure+' '+o.value?.toFixed(2)+'>'+o.bound?.toFixed(2)).join(' ')); }
console.log('shipped', (performance.now()-t2).toFixed(0));
const t3=performance.now();
const play=playProject(project, project.sets[0], sources);
console.log(play.warnings.length, play.graph.states.map(s=>s.name).join(','), play.graph.transitions.length);
const w=roughWeather(play.playable!.set,{minutes:2,seed:1});
console.log('weather',(performance.now()-t3).toFixed(0), w.worst, w.answers);
for(const f of w.findings.filter(f=>f.value>PLAY_BOUNDS[f.figure]).slice(0,30)) console.log(f.figure,f.value.toFixed(2),f.answer??'',f.how,f.from,'->',f.to,'#'+f.transition,'phase',f.phase.toFixed(2),f.clip,f.frame,f.joint);







import { setPlayer, playMeters } from '../packages/drive/src/index';
const set=play.playable!.set;
let t5=performance.now(); for(let i=0;i<5;i++){ setPlayer(set);} console.log('setPlayer ms',(performance.now()-t5)/5);
const p5=setPlayer(set); t5=performance.now(); for(let i=0;i<5;i++) playMeters(set,p5); console.log('meters ms',(performance.now()-t5)/5);
t5=performance.now(); for(let i=0;i<6000;i++) p5.tick(1/60); console.log('tick us',(performance.now()-t5)/6);
import { triesOf } from '../packages/motion/src/graph/tries';
console.log(set.graph.transitions.map((t,i)=>triesOf(set.graph,i).length).join(' '));
