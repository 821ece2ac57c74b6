import { capture, SCRIPTS } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import { fitMotion, fitReport, fitSettingsSchema, readCharacter } from '@lantern/motion';

describe.each(['wick', 'tallow'] as const)('on %s', (id) => {
  test.each(SCRIPTS)(
    'a %s stays planted: no contact slides 2 mm, no sole sinks half a centimetre, no joint goes beyond its limits',
    async (script) => {
      const character = readCharacter(await castGlb(id), id);
      for (const seed of [21, 22]) {
        const { motion } = capture(script, { seed, seconds: 10, fps: 60 });
        const report = fitReport(fitMotion(motion, character, fitSettingsSchema.parse({})));
        expect(report.contacts).toBeGreaterThan(1);
        expect(report.slideCm).toBeLessThan(0.2);
        expect(report.sinkCm).toBeLessThan(0.5);
        expect(report.limits).toEqual([]);
      }
    },
  );
});
