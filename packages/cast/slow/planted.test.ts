import { capture, SCRIPTS } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import { fitMotion, fitSettingsSchema, forwardKinematics, readCharacter, sinkCm, slides, soleTracks } from '@lantern/motion';

describe.each(['wick', 'tallow'] as const)('on %s', (id) => {
  test.each(SCRIPTS)('a %s stays planted: no contact slides 2 mm, no sole sinks half a centimetre', async (script) => {
    const character = readCharacter(await castGlb(id), id);
    for (const seed of [21, 22]) {
      const { motion, contacts } = fitMotion(
        capture(script, { seed, seconds: 10, fps: 60 }).motion,
        character,
        fitSettingsSchema.parse({}),
      );
      const soles = soleTracks(character, forwardKinematics(motion), contacts.floorM);
      const all = slides(soles, contacts);
      expect(all.length).toBeGreaterThan(1);
      expect(Math.max(...all.map(({ excursionCm }) => excursionCm))).toBeLessThan(0.2);
      expect(sinkCm(soles)).toBeLessThan(0.5);
    }
  });
});
