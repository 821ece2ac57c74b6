import { capture } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import { findLoops, groundwork, makeClips, parseProject, proposals, segments, readCharacter, readGlb } from '@lantern/motion';
import { validateBytes } from 'gltf-validator';
const take = (s: 'walk'|'jog'|'idle'|'turn') => capture(s, { seconds: 12, seed: 9 }).motion;
const takes: any = { walk: take('walk'), jog: take('jog'), idle: take('idle'), turn: take('turn') };
const cuts: any = {};
for (const [id, m] of Object.entries(takes) as any) {
  const g = groundwork(m)!;
  const loops = findLoops(g).candidates;
  const all = proposals(g, segments(g), loops);
  cuts[id] = id === 'turn' ? all.find((p: any) => /^turn/.test(p.name) || /start/.test(p.name)) : id === 'idle' ? all[0] : loops.find((l: any) => l.strides === 1);
}
const validate = async (bytes: Uint8Array) => (await validateBytes(bytes)).issues.messages.filter((m: any) => m.severity < 2).map((m: any) => `${m.code} ${m.message} ${m.pointer}`);
async function run(title: string, who: string | null, ship: object, plainSteps: any[] = []) {
  const steps = [...(who ? [{ kind: 'fit', character: who }] : []), { kind: 'clean' }, { kind: 'loop' }, { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }, ...plainSteps];
  const once = steps.filter((s) => s.kind !== 'loop');
  const project = parseProject(JSON.stringify({
    oldLantern: 1, takes: Object.keys(takes).map((id) => ({ id, file: `${id}.bvh`, markers: [{ frame: cuts[id].from + 10, name: 'lamp' }] })),
    ...(who && { characters: [{ id: who, file: 'x.glb' }] }),
    clips: Object.keys(takes).map((id) => ({ name: id, take: id, from: cuts[id].from, to: cuts[id].to, steps: id === 'turn' ? once : steps })),
    sets: [{ name: 'lamplighter', character: who, home: { clip: 'idle', frame: 0 } }],
    fields: [{ name: 'strolls', inputs: ['speed'], clips: ['walk', 'jog'] }], ship,
  }));
  const cast = new Map(who ? [[who, readCharacter(await castGlb(who as any), 'x.glb')]] : []);
  const t = performance.now();
  const { files, report } = await makeClips(project, (id) => ({ motion: takes[id], warnings: [] }), cast, { validate });
  console.log(`== ${title} ${(performance.now() - t).toFixed(0)} ms`, files.map((f) => `${f.path} ${f.bytes.length}`).join(', '));
  for (const g of report.guarantees!) if (!g.ok || g.id === 'poses') console.log(g.ok ? 'ok ' : 'BROKEN ', g.id, g.found);
  for (const c of report.clips) console.log('  ', c.name, JSON.stringify(c.keys), c.homeCm, JSON.stringify(c.marks));
  if (report.warnings.length) console.log(report.warnings.slice(0, 5));
  const glb = files.find((f) => f.path.endsWith('.glb'))!;
  const back = await readGlb(glb.bytes).catch((e: any) => String(e));
  console.log('  read', Array.isArray(back) ? back.map((b) => `${b.name} ${b.clip.motion.frames} ${b.clip.loop} ${b.clip.travel?.z.at(-1)}`).join('; ') : back);
}
const only = process.argv[2];
const cases: [string, string|null, object][] = [
  ['dense nobody', null, { fps: 60 }],
  ['dense nobody 30', null, { fps: 30 }],
  ['thin nobody', null, { fps: 60, thin: {} }],
  ['thin nobody 30 quant', null, { fps: 30, thin: { quantised: true } }],
  ['thin straight quant', null, { fps: 60, thin: { joining: 'straight', quantised: true } }],
  ['without', null, { body: 'without' }],
  ['left out', null, { lastKey: 'left out', thin: {} }],
  ['table', null, { rootMotion: 'table', thin: {} }],
  ['targets+diff+curves', null, { targets: true, curves: true, differences: { clip: 'idle', of: ['walk', 'jog'] }, prefix: 'W_', thin: {} }],
  ['wick', 'wick', { thin: {} }],
  ['tallow dense', 'tallow', { }],
  ['tallow all', 'tallow', { thin: { quantised: true }, targets: true, curves: true, differences: { clip: 'idle', of: ['walk'] }, bvh: true, csv: true, bvhUp: '+z' }],
  ['tallow plain', 'tallow', { body: 'plain' }],
  ['tallow without', 'tallow', { body: 'without', oneFilePerClip: true }],
];
for (const c of cases) if (!only || c[0].includes(only)) await run(...c);
