import { ensureOpen, sourceOf, takeKey } from '@/data/use-open-take';
import type { TakeInfo } from '@/data/project';
import { plainTake } from './place';

const mockOpen = jest.fn<Promise<void>, [unknown]>();
jest.mock('@/worker/core', () => ({ core: () => ({ open: mockOpen }) }));
beforeEach(() => mockOpen.mockReset().mockResolvedValue(undefined));

test('the worker is asked to open a take once, however many need it at once or later', async () => {
  const take = plainTake('once');
  await Promise.all([ensureOpen(take), ensureOpen(take)]);
  await ensureOpen({ ...take, notes: 'of another state' });
  expect(mockOpen.mock.calls).toEqual([[sourceOf(take)]]);
});

test('read otherwise it is another motion, and is opened by itself', async () => {
  const take = plainTake('read');
  await ensureOpen(take);
  await ensureOpen({ ...take, overrides: { metresPerUnit: 0.02 } });
  expect(mockOpen).toHaveBeenCalledTimes(2);
  expect(takeKey(take)).not.toBe(takeKey({ ...take, overrides: { metresPerUnit: 0.02 } }));
});

test('one that could not be opened is tried again when it is needed again', async () => {
  const take = plainTake('later');
  mockOpen.mockRejectedValueOnce(new Error('The take could not be loaded.'));
  await expect(ensureOpen(take)).rejects.toThrow('The take could not be loaded.');
  await expect(ensureOpen(take)).resolves.toBeUndefined();
  expect(mockOpen).toHaveBeenCalledTimes(2);
});

test('a join that cannot be made says why, without the worker being asked', async () => {
  const take: TakeInfo = { ...plainTake('j'), join: { problem: 'Piece 2: The clip of this piece was removed.' } };
  await expect(ensureOpen(take)).rejects.toThrow('Piece 2: The clip of this piece was removed.');
  expect(mockOpen).not.toHaveBeenCalled();
});
