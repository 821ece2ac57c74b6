import { capture } from '@lantern/capture';
import { findLoops, groundwork, joiner, joinIntoSchema, layPiece, meetFigures, recipeRunner, recipeSchema, cutClip } from '@lantern/motion';
const mk = (script: 'walk'|'jog', times: number) => { const m = capture(script, { seconds: 15, seed: 6 }).motion; const g = groundwork(m)!; const [c] = findLoops(g).candidates; return layPiece(recipeRunner(m)({ from: c.from, to: c.to, steps: recipeSchema.parse([{ kind: 'loop' }, { kind: 'foot-lock' }, {kind:'travel'}]) }), { times }); };
const a = mk('walk', 3), b = mk('jog', 4);
const w = layPiece(cutClip(capture('idle',{seconds:6,seed:2}).motion, 20, 140), {times:1});
const AROUND = 1.6*60;
const endOf = (piece: typeof a, frames: number) => { const off = Math.max(0, piece.frames - 1 - frames); return { ...piece, start: piece.start + off, frames: piece.frames - off }; };
const beginningOf = (piece: typeof a, frames: number) => ({ ...piece, frames: Math.min(piece.frames, frames + 1) });
for (const [name,p,q] of [['walk→jog',a,b],['wait→walk',w,a]] as const) {
const times: Record<string, number[]> = { join: [], fig: [], all: [], noHold: [] };
for (let i = 0; i < 60; i++) {
  const frames = 12 + (i % 20);
  const into = joinIntoSchema.parse({ frames });
  const around = Math.round(AROUND) + frames;
  let t = performance.now();
  const j = joiner().join([{ piece: endOf(p, around), into: joinIntoSchema.parse({}) }, { piece: beginningOf(q, around), into }], 'captured');
  const t1 = performance.now(); meetFigures(j, 0); const t2 = performance.now();
  if (i > 20) { times.join.push(t1 - t); times.fig.push(t2 - t1); times.all.push(t2 - t); }
  t = performance.now();
  joiner().join([{ piece: endOf(p, around), into: joinIntoSchema.parse({}) }, { piece: beginningOf(q, around), into: {...into, hold:false} }], 'captured');
  if (i > 20) times.noHold.push(performance.now() - t);
}
for (const [k, v] of Object.entries(times)) { v.sort((x, y) => x - y); console.log(name, k, v[v.length >> 1].toFixed(1), v[Math.floor(v.length * 0.9)].toFixed(1)); }
}
