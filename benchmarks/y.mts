import { capture } from '@lantern/capture';
import { describeTake, proposals, segments, findLoops, recipeRunner, recipeSchema, readTake, writeBvh, groundwork, worldMotion, clipSlides, popIn, applyStep, stepSchema, joinMotions } from '@lantern/motion';
import { clipTraits } from '../packages/motion/src/set/clip-traits';
import { endToEnd } from '../packages/motion/src/steps/exact';
import { homePoseOf, homeDistance } from '../packages/motion/src/measure/home-distance';
import { homeEnds } from '../packages/motion/src/steps/meet-home';
const seeds = Number(process.argv[2] ?? 2);
const worst: Record<string, number> = {};
const note = (k: string, v: number) => (worst[k] = Math.max(worst[k] ?? 0, v));
for (let seed = 1; seed <= seeds; seed++) {
  const idle = capture('idle', { seed: 1000 + seed, seconds: 6 });
  const ig = groundwork(describeTake(readTake(new TextEncoder().encode(writeBvh(idle.motion)), 'a.bvh')).motion);
  const pose = homePoseOf(ig, 100);
  for (const [script, speed] of [['turn', 1.25], ['turns', 1], ['start-stop', 1.3], ['start-stop', 2.8]] as const) {
    const { motion } = capture(script, { seed, seconds: 20, speed });
    const { motion: m, ground } = describeTake(readTake(new TextEncoder().encode(writeBvh(motion)), 'a.bvh'));
    const run = recipeRunner(m);
    for (const p of proposals(ground, segments(ground), findLoops(ground).candidates)) {
      if (p.isLoop || !/turn-(left|right)|start|stop/.test(p.name)) continue;
      const base = run({ from: p.from, to: p.to, steps: recipeSchema.parse([{ kind: 'foot-lock' }]) });
      const t = clipTraits(base);
      if (!t?.kind) continue;
      const steps: any[] = [];
      let asked = 0;
      if (t.kind === 'turn') { asked = Math.round(t.turnDeg / 45) * 45; steps.push({ kind: 'exact-turn', turnDeg: asked }); }
      if (t.kind === 'start' || t.kind === 'stop') { asked = t.distanceM * (seed % 2 ? 1.1 : 0.9); steps.push({ kind: 'exact-distance', metres: asked }); }
      const at = performance.now();
      const full = run({ from: p.from, to: p.to, steps: recipeSchema.parse([...steps, { kind: 'foot-lock' }, { kind: 'meet-home', pose }]) });
      const ms = performance.now() - at;
      const e = endToEnd(full)!;
      const off = t.kind === 'turn' ? Math.abs(e.turn * 180 / Math.PI - asked) : Math.abs(e.metres - asked) * 100;
      const g0 = groundwork(worldMotion(base))!, g1 = groundwork(worldMotion(full))!;
      const ends = homeEnds(full, 'auto');
      const h0 = ends.map((f) => homeDistance(g0, f, pose).cm), h1 = ends.map((f) => homeDistance(g1, f, pose));
      const slide = Math.max(0, ...clipSlides(full).map((s) => s.excursionCm)), slide0 = Math.max(0, ...clipSlides(base).map((s) => s.excursionCm));
      const both = joinMotions([worldMotion(base), worldMotion(full)]);
      const n = base.motion.frames;
      const pops = popIn(both, [n + 2, n + full.motion.frames - 2], [[2, n - 2]]).cm;
      const own = popIn(both, [2, n - 2], [[2, n - 2]]).cm;
      note('pop', pops); note('pop own', own);
      note(`${t.kind} off`, off); note('home', Math.max(0, ...h1.map((h) => h.cm))); note('home deg', Math.max(0,...h1.map((h) => h.worstDeg))); note('slide', slide);
      if (process.argv[3]) console.log(seed, p.name, t.kind, 'asked', asked.toFixed(2), 'off', off.toFixed(3), 'home', h0.map((v) => v.toFixed(1)).join('/'), '→', h1.map((v) => `${v.cm.toFixed(2)} ${v.worstJoint} ${v.worstDeg.toFixed(1)}°`).join('/'), 'slide', slide0.toFixed(2), slide.toFixed(2), 'pop', own.toFixed(2), pops.toFixed(2), ms.toFixed(0) + 'ms', ends.join());
    }
  }
}
console.log(worst);
