import { anyFigures, cutClip, describeTake, InputError, NOT_A_PERSON, posesOnly, readGlb, seam, type NamedClip } from '@lantern/motion';
import { basename } from 'node:path';
import { readInput, readTakeFile } from './files';
import { print, printWarnings } from './print';

/** The figures of a finished file, per animation. */
export async function measure(file: string, { json }: { json?: boolean }): Promise<void> {
  const clips = (await clipsOf(file)).map(({ name, clip }) => {
    const figures = anyFigures(clip);
    if (figures.slideCm === null) printWarnings(file, [{ code: 'no-legs', message: `“${name}”: ${NOT_A_PERSON}` }]);
    return { name, ...figures };
  });
  const cm = (value: number | null) => (value === null ? '–' : `${value.toFixed(1)} cm`);
  print(json ?? false, { file, clips }, () =>
    clips.map(
      (clip) =>
        `${clip.name}: ${clip.seconds?.toFixed(2)} s at ${clip.fps}, ${clip.loop ? `loop, tick ${clip.tick?.toFixed(2)}, seam ${clip.seam?.poseCm.toFixed(2)} cm` : 'no loop'}, ` +
        `${clip.speedMps?.toFixed(2)} m/s${clip.inPlace ? ' in place' : ''}, slide ${cm(clip.slideCm)}, sink ${cm(clip.sinkCm)}, hover ${cm(clip.hoverCm)}`,
    ),
  );
}

async function clipsOf(file: string): Promise<NamedClip[]> {
  if (/\.glb$/i.test(file)) {
    const bytes = await readInput(file);
    try {
      return await readGlb(bytes);
    } catch (error) {
      if (error instanceof InputError) throw new InputError(error.code, error.message, { file, ...error.place });
      throw error;
    }
  }
  const { motion, ground } = describeTake(await readTakeFile(file));
  const last = motion.frames - 1;
  const meets = last > 4 ? seam(ground ?? posesOnly(motion), 0, last) : null;
  const isLoop = meets !== null && meets.poseCm < 0.2 && meets.worstDeg < 1;
  const clip = last > 0 ? cutClip(motion, 0, last) : { motion, travel: null, loop: false, lead: null, tail: null };
  return [{ name: basename(file).replace(/\.bvh$/i, ''), clip: { ...clip, loop: isLoop } }];
}
