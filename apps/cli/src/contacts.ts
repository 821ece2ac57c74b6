import { describeTake, InputError, withHands, type Gait } from '@lantern/motion';
import { readTakeFile } from './files';
import { print } from './print';

/** The gait of a take's file, or an input error for a skeleton without legs. */
export async function gaitOfFile(file: string): Promise<Gait> {
  const { gait } = describeTake(await readTakeFile(file));
  if (!gait) throw new InputError('no-legs', 'No two legs were found in the skeleton, so there are no foot contacts.', { file, line: 1 });
  return gait;
}

export async function contacts(file: string, { json }: { json?: boolean }): Promise<void> {
  const found = withHands(await gaitOfFile(file));
  const hands = { leftHand: 'left hand', rightHand: 'right hand' } as const;
  print(json ?? false, found, () => [
    `floor at ${(found.floorM * 100).toFixed(1)} cm, ${found.fps} frames a second`,
    ...(['left', 'right'] as const).map((side) => `${side}: ${found[side].map(({ from, to }) => `${from}–${to}`).join(' ')}`),
    ...(['leftHand', 'rightHand'] as const).flatMap((hand) =>
      found[hand] ? [`${hands[hand]}: ${found[hand].map(({ from, to }) => `${from}–${to}`).join(' ')}`] : [],
    ),
  ]);
}
