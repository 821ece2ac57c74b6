/** @jest-environment jsdom */
import { capture } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import { readCharacter, type FitOverrides } from '@lantern/motion';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { loadTable } from '@/controls/DataTable';
import { LimbsPanel } from '@/places/fit/LimbsPanel';
import { PartsPanel, withMapping } from '@/places/fit/PartsPanel';
import { ReferencePanel, withTurn, type ByHand } from '@/places/fit/ReferencePanel';
import { fitView, type FitView } from '@/worker/fitting';
import { giveRoom } from './room';

let view: FitView;
const { motion } = capture('walk', { seconds: 1, seed: 3 });
beforeAll(async () => {
  giveRoom(480, 600);
  await loadTable();
  view = fitView(motion, readCharacter(await castGlb('tallow'), 'tallow.glb'), {});
});
afterEach(cleanup);

type Told = jest.Mock<void, [FitOverrides]>;

function Parts({ told, start = {} }: { told: Told; start?: FitOverrides }) {
  const [settings, setSettings] = useState(start);
  const [chosen, setChosen] = useState<Parameters<typeof PartsPanel>[0]['chosen']>(null);
  const put = (next: FitOverrides) => {
    setSettings(next);
    told(next);
  };
  return <PartsPanel view={view} settings={settings} chosen={chosen} onChoose={setChosen} onChange={put} />;
}

test('every part of the take and the character has its joints, how sure they are, and why', () => {
  render(<Parts told={jest.fn()} />);
  const thigh = screen.getByRole('row', { name: 'left thigh' });
  expect(thigh.textContent).toContain('LeftThigh');
  expect(thigh.textContent).toMatch(/ThighL, ThighTwist/);
  expect(
    within(thigh)
      .getByText(/^\d+ %$/)
      .getAttribute('title'),
  ).toMatch(/take: .+\ncharacter: .+/);
});

test('a part that is chosen is put right by names, on one side only, and goes back to as found', async () => {
  const told: Told = jest.fn();
  render(<Parts told={told} />);
  const user = userEvent.setup();
  await user.click(within(screen.getByRole('row', { name: 'head' })).getByText('head'));
  const group = screen.getByRole('group', { name: 'Joints of the head' });
  await user.click(within(group).getByRole('combobox', { name: 'in the character' }));
  await user.click(screen.getByRole('option', { name: 'NeckHigh' }));
  expect(told.mock.lastCall?.[0].mapping).toEqual({ source: {}, target: { head: ['Head', 'NeckHigh'] } });
  await user.click(within(group).getByRole('button', { name: 'as found' }));
  expect(told.mock.lastCall?.[0].mapping).toEqual({ source: {}, target: {} });
});

test('a mapping keeps what was mapped on the other side and for other parts', () => {
  const one = withMapping({ soleCm: 1 }, 'head', 'source', ['Skull']);
  const two = withMapping(one, 'neck', 'target', ['N1', 'N2']);
  expect(two).toEqual({ soleCm: 1, mapping: { source: { head: ['Skull'] }, target: { neck: ['N1', 'N2'] } } });
  expect(withMapping(two, 'head', null, null).mapping).toEqual({ source: {}, target: { neck: ['N1', 'N2'] } });
});

function Reference({ told, onHand = jest.fn() }: { told: Told; onHand?: (hand: ByHand) => void }) {
  const [settings, setSettings] = useState<FitOverrides>({});
  const put = (next: FitOverrides) => {
    setSettings(next);
    told(next);
  };
  const hand: ByHand = { part: 'leftUpperArm', side: 'target' };
  return <ReferencePanel view={view} settings={settings} hand={hand} onHand={onHand} onChange={put} onTakePose={jest.fn()} />;
}

test('a part is turned by typing, mirrored to the other side, and a turn of nothing is no turn', async () => {
  const told: Told = jest.fn();
  render(<Reference told={told} />);
  const user = userEvent.setup();
  const up = screen.getByRole('textbox', { name: 'Turn about the axis to the up, degrees' });
  await user.clear(up);
  await user.type(up, '15{Enter}');
  expect(told.mock.lastCall?.[0].reference?.turns.target).toEqual({ leftUpperArm: [0, 15, 0] });
  await user.click(screen.getByRole('button', { name: 'The same for the right upper arm' }));
  expect(told.mock.lastCall?.[0].reference?.turns.target).toEqual({ leftUpperArm: [0, 15, 0], rightUpperArm: [0, -15, 0] });
  expect(withTurn({}, 'source', 'head', [0, 0, 0]).reference?.turns.source).toEqual({});
});

test('bones that are far apart in the reference are named first, and marked', () => {
  render(<Reference told={jest.fn()} />);
  const degrees = within(screen.getByRole('list', { name: 'Mismatch of the references' }))
    .getAllByRole('listitem')
    .map((item) => Number(/([\d.]+)°/.exec(item.textContent ?? '')?.[1]));
  expect(degrees.length).toBeGreaterThan(8);
  expect(degrees).toEqual([...degrees].sort((a, b) => b - a));
  expect(Math.max(...Object.values(view.mismatch))).toBeCloseTo(degrees[0], 1);
});

function limbs(settings: FitOverrides = {}, props: Parameters<typeof LimbsPanel>[0]['props'] = []) {
  const [told, onGo] = [jest.fn<void, [FitOverrides]>(), jest.fn()];
  const report = { limits: [{ part: 'leftShin', degrees: 12.4, frame: 31 }] } as never;
  render(<LimbsPanel settings={settings} legRatio={0.843} joints={['Back1']} props={props} report={report} onChange={told} onGo={onGo} />);
  return { told, onGo, user: userEvent.setup() };
}

test('a placement weight is typed for a limb; what is settled for other limbs stays', async () => {
  const { told, user } = limbs({ placement: { rightHand: { weight: 0.5, to: 'hips', holds: [] } } });
  const field = screen.getByRole('textbox', { name: 'Placement weight of the left hand' });
  await user.clear(field);
  await user.type(field, '0.8{Enter}');
  expect(told.mock.lastCall?.[0].placement).toEqual({
    rightHand: { weight: 0.5, to: 'hips', holds: [] },
    leftHand: { weight: 0.8, to: 'floor', holds: [] },
  });
});

test('how far the body goes is its legs’ share unless a factor says so, which begins with that share', async () => {
  const { told, user } = limbs();
  expect(screen.getByText('its legs go (× 0.843)')).toBeTruthy();
  expect(screen.queryByRole('textbox', { name: 'Factor of travel' })).toBeNull();
  await user.click(screen.getByText('its legs go (× 0.843)'));
  await user.click(screen.getByRole('option', { name: 'a factor says' }));
  expect(told.mock.lastCall?.[0].travel).toBe(0.84);
});

test('hands can be kept by each other and, where props stand, by a prop; feet cannot be kept by a hand', async () => {
  const { told, user } = limbs({}, [{ id: 'p', kind: 'seat', x: 1, z: 2, turn: 0, width: 1, height: 1, depth: 1 }]);
  const choices = async (limb: string) => {
    await user.click(within(screen.getByRole('group', { name: limb })).getByText('the floor'));
    const found = screen.getAllByRole('option').map((option) => option.textContent);
    await user.keyboard('{Escape}');
    return found;
  };
  expect(await choices('left foot')).toEqual(['the floor', 'the hips', 'a prop']);
  expect(await choices('left hand')).toEqual(['the floor', 'the hips', 'the other hand', 'a prop']);
  await user.click(within(screen.getByRole('group', { name: 'left hand' })).getByText('the floor'));
  await user.click(screen.getByRole('option', { name: 'a prop' }));
  expect(told.mock.lastCall?.[0].placement?.leftHand).toMatchObject({ to: 'prop', prop: { x: 1, z: 2 } });
});

test('a joint bent beyond what it does is named with the frame, which is a click away', async () => {
  const { onGo, user } = limbs();
  expect(screen.getByText('by 12°')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'at frame 31' }));
  expect(onGo).toHaveBeenCalledWith(31);
});
