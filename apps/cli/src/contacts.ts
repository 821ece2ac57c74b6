import { describeTake, InputError, NOT_A_PERSON, withHands } from '@lantern/motion';
import { readTakeFile } from './files';
import { print, printDoubts } from './print';

export async function contacts(file: string, { json }: { json?: boolean }): Promise<void> {
  const { ground, passport } = describeTake(await readTakeFile(file));
  if (!ground) throw new InputError('no-person', `${NOT_A_PERSON} So there are no foot contacts.`, { file, line: 1 });
  printDoubts(file, passport.warnings);
  const found = withHands(ground);
  const hands = { leftHand: 'left hand', rightHand: 'right hand' } as const;
  print(json ?? false, found, () => [
    `floor at ${(found.floorM * 100).toFixed(1)} cm, ${found.fps} frames a second`,
    ...(['left', 'right'] as const).map((side) => `${side}: ${found[side].map(({ from, to }) => `${from}–${to}`).join(' ')}`),
    ...(['leftHand', 'rightHand'] as const).flatMap((hand) =>
      found[hand] ? [`${hands[hand]}: ${found[hand].map(({ from, to }) => `${from}–${to}`).join(' ')}`] : [],
    ),
  ]);
}
