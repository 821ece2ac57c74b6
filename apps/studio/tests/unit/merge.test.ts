import { inOrder } from '@/data/in-order';
import { merged } from '@/server/merge';

interface Row {
  readonly name: string;
  readonly tags: readonly string[];
  readonly markers: readonly { frame: number; name: string }[];
  readonly overrides: { conform?: number };
}
const row: Row = { name: 'rounds', tags: ['quay', 'rope'], markers: [{ frame: 3, name: 'gull' }], overrides: {} };

test('a field that nobody else changed takes the new value; one that was changed to the same is no conflict', () => {
  expect(merged(row, { name: 'rounds' }, { name: 'stroll' })).toEqual({ outcome: 'merged', value: { name: 'stroll' } });
  expect(merged(row, { name: 'old' }, { name: 'rounds' })).toEqual({ outcome: 'merged', value: { name: 'rounds' } });
  expect(merged(row, { name: 'old' }, { name: 'new' })).toEqual({ outcome: 'conflict', fields: ['name'] });
  expect(merged(row, undefined, { name: 'new' })).toEqual({ outcome: 'merged', value: { name: 'new' } });
});

test('of lists what was added is added and what was taken out is taken out, whoever else changed them', () => {
  expect(merged(row, { tags: ['quay'] }, { tags: ['quay', 'lamp'] })).toMatchObject({ value: { tags: ['quay', 'rope', 'lamp'] } });
  expect(merged(row, { tags: ['quay'] }, { tags: [] })).toMatchObject({ value: { tags: ['rope'] } });
  expect(merged(row, { markers: [] }, { markers: [{ frame: 9, name: 'turn' }] })).toMatchObject({
    value: {
      markers: [
        { frame: 3, name: 'gull' },
        { frame: 9, name: 'turn' },
      ],
    },
  });
});

test('the same entry changed on both sides is a conflict, and so is anything else', () => {
  const before = { markers: [{ frame: 3, name: 'begin' }] };
  expect(merged(row, before, { markers: [{ frame: 3, name: 'end' }] })).toEqual({ outcome: 'conflict', fields: ['markers'] });
  expect(merged<Row>({ ...row, overrides: { conform: 24 } }, { overrides: {} }, { overrides: { conform: 30 } })).toEqual({
    outcome: 'conflict',
    fields: ['overrides'],
  });
});

test('what a change leaves as it was stays as others have made it', () => {
  expect(merged(row, { name: 'old', tags: [] }, { name: 'old', tags: ['new'] })).toEqual({
    outcome: 'merged',
    value: { tags: ['quay', 'rope', 'new'] },
  });
});

test('a field of undefined is none', () => {
  expect(merged<Row>(row, { overrides: { conform: undefined } }, { overrides: { conform: 30 } })).toMatchObject({ outcome: 'merged' });
});

test('saves are made in the order in which they were asked for, one that fails does not stop the next', async () => {
  const saves = inOrder();
  const done: string[] = [];
  const save = (name: string, ms: number, fails = false) =>
    saves(async () => {
      await new Promise((resolve) => setTimeout(resolve, ms));
      done.push(name);
      if (fails) throw new Error(name);
    });
  const results = await Promise.allSettled([save('slow', 30), save('bad', 5, true), save('quick', 0)]);
  expect(done).toEqual(['slow', 'bad', 'quick']);
  expect(results.map(({ status }) => status)).toEqual(['fulfilled', 'rejected', 'fulfilled']);
});
