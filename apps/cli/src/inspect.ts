import { describeTake, type Passport } from '@lantern/motion';
import { readTakeFile } from './files';
import { print, printWarnings } from './print';

/** What each file holds. */
export async function inspect(files: readonly string[], { json }: { json?: boolean }): Promise<void> {
  const found: ({ file: string } & Omit<Passport, 'name'>)[] = [];
  for (const file of files) {
    const { passport } = describeTake(await readTakeFile(file));
    const { name: _, ...rest } = passport;
    found.push({ file, ...rest });
    printWarnings(file, passport.warnings);
  }
  print(json ?? false, { files: found }, () =>
    found.flatMap((p) => [
      p.file,
      `  ${p.joints} joints, ${p.frames} frames at ${Number(p.fps.toFixed(3))} a second: ${p.seconds.toFixed(2)} s`,
      `  stature ${p.statureM.toFixed(2)} m, ${p.up} up, faces ${Math.round(p.facingDeg) + 0}°`,
      `  ${p.units.reason}`,
      p.freeFall.medianMps2 === null
        ? '  no flights to check the fall in'
        : `  ${p.freeFall.flights} flights fall at ${p.freeFall.medianMps2.toFixed(2)} m/s²: ${p.freeFall.verdict}`,
    ]),
  );
}
