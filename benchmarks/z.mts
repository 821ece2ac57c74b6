import { captureDay } from '../packages/capture/src/day';
import { castGlb } from '../packages/cast/src/index';
import { readTake, readCharacter, writeBvh, slotList, slotId, projectSchema, projectSources, playProject } from '../packages/motion/src/index';
import { draftProject } from '../packages/motion/src/draft/draft-project';
import { settleTake } from '../packages/motion/src/draft/settle-take';
import { heldFigures } from '../packages/motion/src/ship/troubles';
import { shippedClip } from '../packages/motion/src/ship/ship-clip';
import { roughWeather, PLAY_BOUNDS } from '../packages/motion/src/graph/weather';
const cast = new Map([['wick', readCharacter(await castGlb('wick'),'wick')]]);
const [a,b]=[Number(process.argv[2]??1),Number(process.argv[3]??process.argv[2]??1)];
for (let seed=a; seed<=b; seed++) {
const takes=[]; const truth=new Map(); const doubts=[];
const t0=performance.now();
for (const take of captureDay(seed)) {
  const s = settleTake(take.name, readTake(new TextEncoder().encode(writeBvh(take.motion)), take.name+'.bvh'));
  takes.push({id: take.name, motion: s.motion}); truth.set(take.name, take.truth.tries); doubts.push(...s.doubts);
}
const t1=performance.now();
const gen=draftProject(takes, cast, {name:'lamplighter', slots: slotList('full'), character:'wick', doubts});
let d; const parts:Record<string,number>={}; let t=performance.now(), says='';
for(;;){ const n=gen.next(); const now=performance.now(); const k=says.split(' ')[0]; parts[k]=(parts[k]??0)+now-t; t=now; if(n.done){d=n.value;break;} says=n.value.says; }
const t2=performance.now();
const project=projectSchema.parse({oldLantern:1, takes: takes.map(t=>({id:t.id,file:t.id+'.bvh'})), characters:[{id:'wick',file:'wick.glb'}], clips:d.clips, sets:[d.set], fields:d.fields});
const sources=projectSources(project, id=>({motion:takes.find(t=>t.id===id)!.motion,warnings:[]}), cast);
const out:string[]=[];
for (const c of project.clips){ const {run,recipe}=sources.run(c); const s=shippedClip(run,recipe,{fps:60,thin:{boundMm:.5,joining:'smooth',quantised:false} as any,lastKey:true,rootMotion:'root' as any,home:sources.home('wick')}); const o=heldFigures(s,project.sets[0].bounds,project.sets[0].contract).filter(h=>h.isOut); if(o.length) out.push(c.name+': '+o.map(o=>o.figure+' '+o.value?.toFixed(2)+'>'+o.bound?.toFixed(2)).join(' ')); }
const spoilt:string[]=[]; const can=new Set<string>();
for (const tries of truth.values()) for (const y of tries) if(!y.spoilt||y.spoilt==='wrong-foot') for (const g of y.gives) can.add(g);
for (const ch of d.set.draft!.choices){ const c=d.clips.find(c=>c.name===ch.clip); if(!c) continue; for (const y of truth.get(c.source.take)!) if(y.spoilt && c.source.from<y.to && c.source.to>y.from && (y.spoilt!=='wrong-foot'||(y.asked.includes(ch.slot)&&!y.gives.includes(ch.slot)))) spoilt.push(ch.slot+' '+c.source.take+' '+y.spoilt); }
const n=Object.values([...truth.values()].flat()).filter((y:any)=>y.spoilt).length;
console.log('seed',seed,'filled',d.clips.length,'missing',d.missing.map(m=>m.slot+' ('+m.why+')'+(can.has(m.slot)?' CAN':'')).join('; '),'| spoilt tries',n,'chosen',spoilt.join('; '),'| out',out.join('; '),'| pins',Object.keys(d.set.pins).length,'| weather',d.weather?.popCm.toFixed(2),d.weather?.slideCm.toFixed(2),'| capture+read',((t1-t0)/1000).toFixed(1),'draft',((t2-t1)/1000).toFixed(1), JSON.stringify(Object.fromEntries(Object.entries(parts).map(([k,v])=>[k,Math.round(v)]))), doubts.length, d.doubts.length);
if (process.argv[4]==='v') console.log(d.set.draft!.changes, d.doubts);
}
