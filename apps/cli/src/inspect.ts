import { describeTake, type Passport } from '@lantern/motion';
import { readTakeFiles } from './files';
import { print, printWarnings } from './print';

/** What each file holds: an entry per take, and a glTF file has one take per animation. */
export async function inspect(files: readonly string[], { json }: { json?: boolean }): Promise<void> {
  const found: ({ file: string } & Passport)[] = [];
  for await (const { file, takes } of readTakeFiles(files)) {
    for (const take of takes) {
      const { passport } = describeTake(take);
      found.push({ file, ...passport });
      printWarnings(file, passport.warnings);
    }
  }
  print(json ?? false, { files: found }, () =>
    found.flatMap((p) => [
      p.part === undefined ? p.file : `${p.file}: ${p.part}`,
      `  ${p.joints} joints, ${p.frames} frames at ${Number(p.fps.toFixed(3))} a second: ${p.seconds.toFixed(2)} s`,
      `  stature ${p.statureM.toFixed(2)} m, ${p.up} up, faces ${Math.round(p.facingDeg) + 0}°`,
      `  ${p.units.reason}`,
      `  ${p.freeFall.sentence}`,
    ]),
  );
}
