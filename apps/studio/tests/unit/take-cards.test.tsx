/** @jest-environment jsdom */
import { act, cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { usePlayer } from '@/data/player';
import { useProjectData, type TakeInfo } from '@/data/project';
import { Comparison } from '@/places/takes/Comparison';
import { PropsCard } from '@/places/takes/PropsCard';
import { SeveralTakes } from '@/places/takes/SeveralTakes';
import { answers } from '@/places/takes/answers';
import { place, plainTake, projectData, serve } from './place';
import { giveRoom } from './room';

const mockOpened = {
  data: {
    motion: { frames: 3, fps: 60, rootPositions: Float32Array.from([0, 1, 0, 1, 1, 2, 2, 1, 4]) },
    heading: Float32Array.from([0, Math.PI / 2, 0]),
  },
};
jest.mock('@/data/use-viewed-take', () => ({ useViewedTake: () => mockOpened }));
jest.mock('@/worker/core', () => ({ core: () => null }));

beforeAll(() => giveRoom(360, 700));
afterEach(cleanup);

describe('several takes at once', () => {
  function open(takes: readonly TakeInfo[]) {
    const kept = new Map(takes.map((take) => [take.id, take]));
    serve(({ url, body }) => {
      if (url.startsWith('/api/projects')) return projectData({ takes: [...kept.values()] });
      const id = url.replace('/api/takes/', '');
      const { before: _, ...patch } = body ?? {};
      const stored = { ...kept.get(id), ...patch } as TakeInfo;
      kept.set(id, stored);
      return stored;
    });
    const acts = { onStar: jest.fn(), onRemove: jest.fn(), onDone: jest.fn(), onCompare: jest.fn() };
    const { wrapper } = place(projectData({ takes }));
    function Bar() {
      const { data } = useProjectData();
      const now = data?.takes ?? [];
      return <SeveralTakes takes={now} all={now} {...acts} onCompare={now.length === 2 ? acts.onCompare : undefined} />;
    }
    render(<Bar />, { wrapper });
    return { ...acts, kept, user: userEvent.setup() };
  }

  test('are starred, removed, compared and let go by name', async () => {
    const { user, ...acts } = open([plainTake('a'), plainTake('b')]);
    const bar = within(screen.getByRole('toolbar', { name: 'Chosen takes' }));
    expect(bar.getByText('2 chosen')).toBeTruthy();
    for (const name of ['star', 'remove', 'compare', 'none']) await user.click(bar.getByRole('button', { name }));
    for (const act of [acts.onStar, acts.onRemove, acts.onCompare, acts.onDone]) expect(act).toHaveBeenCalledTimes(1);
    expect(acts.onStar.mock.lastCall?.[0].map(({ id }: TakeInfo) => id)).toEqual(['a', 'b']);
  });

  test('three are not compared', () => {
    open([plainTake('a'), plainTake('b'), plainTake('c')]);
    expect(screen.queryByRole('button', { name: 'compare' })).toBeNull();
  });

  test('a tag that is added goes to all, one that all have is taken from all, and each keeps its own', async () => {
    const { user, kept } = open([plainTake('a', { tags: ['quay', 'dawn'] }), plainTake('b', { tags: ['quay'] })]);
    await user.click(screen.getByRole('button', { name: 'tag…' }));
    const field = screen.getByRole('combobox', { name: 'Tags of all 2' });
    await user.type(field, 'rope{Enter}');
    await waitFor(() =>
      expect([...kept.values()].map(({ tags }) => tags)).toEqual([
        ['dawn', 'quay', 'rope'],
        ['quay', 'rope'],
      ]),
    );
    await user.click(screen.getByRole('combobox', { name: 'Tags of all 2' }));
    await user.keyboard('{Backspace}');
    await waitFor(() => expect(kept.get('a')?.tags).not.toContain('rope'));
    expect(kept.get('a')?.tags).toContain('dawn');
    expect(kept.get('b')?.tags).not.toContain('rope');
  });
});

describe('props', () => {
  function open(props: TakeInfo['props'] = []) {
    const onChange = jest.fn<void, [TakeInfo['props']]>();
    const { wrapper } = place();
    render(<PropsCard take={plainTake('a', { props })} onChange={onChange} />, { wrapper });
    return { onChange, user: userEvent.setup(), last: () => onChange.mock.lastCall?.[0] ?? [] };
  }
  const box = { id: 'p', kind: 'box' as const, x: 1, z: 2, turn: 0, width: 0.6, height: 0.6, depth: 0.6 };

  test('one is put up before the performer, where he is in the frame that is shown, turned as he is', async () => {
    act(() => usePlayer.setState({ frame: 1 }));
    const { user, last } = open();
    await user.click(screen.getByRole('button', { name: 'a step' }));
    // He faces +X at (1, 2): the step is 0.8 m that way.
    expect(last()).toEqual([
      expect.objectContaining({ kind: 'step', x: expect.closeTo(1.8, 6), z: expect.closeTo(2, 6), width: 1.6, height: 0.15 }),
    ]);
    expect(last()[0].turn).toBeCloseTo(Math.PI / 2, 2);
  });

  test('the next one stands beyond those that are there', async () => {
    act(() => usePlayer.setState({ frame: 0 }));
    const { user, last } = open([box]);
    await user.click(screen.getByRole('button', { name: 'a wall' }));
    expect(last().map(({ kind }) => kind)).toEqual(['box', 'wall']);
    expect(last()[1].z).toBeCloseTo(1.4, 6);
  });

  test('sizes, place and turn are typed; a width of nothing changes nothing', async () => {
    const { user, last, onChange } = open([box]);
    const type = async (name: string, text: string) => {
      const field = within(screen.getByRole('group', { name: 'box 1' })).getByRole('textbox', { name });
      await user.clear(field);
      await user.type(field, `${text}{Enter}`);
    };
    await type('height', '0.9');
    expect(last()[0]).toEqual({ ...box, height: 0.9 });
    onChange.mockClear();
    await type('width', '0');
    expect(onChange).not.toHaveBeenCalled();
    await type('turned', '90');
    expect(last()[0].turn).toBeCloseTo(Math.PI / 2, 9);
  });

  test('one is taken away by its name', async () => {
    const { user, last } = open([box, { ...box, id: 'q', kind: 'rope' }]);
    await user.click(screen.getByRole('button', { name: 'Take the rope away' }));
    expect(last().map(({ id }) => id)).toEqual(['p']);
  });
});

describe('a comparison', () => {
  const joints = ['LeftHand', 'Head', 'Hips', 'LeftFoot', 'RightFoot', 'Neck'].map((joint, i) => ({
    joint,
    meanCm: 5 - i,
    worstCm: 9 - i,
    frame: i * 10,
  }));
  const open = (comparison: object | undefined) => {
    const [onStand, onDone] = [jest.fn(), jest.fn()];
    render(<Comparison name="better" comparison={comparison as never} stands="over" onStand={onStand} onDone={onDone} />);
    return { onStand, onDone, user: userEvent.setup() };
  };

  test('has the joints that are farthest apart first, each a click from where that is', async () => {
    act(() => usePlayer.setState({ frames: 100, frame: 0 }));
    const { user } = open({ joints });
    const region = within(screen.getByRole('region', { name: 'Comparison' }));
    expect(region.queryByText('Neck')).toBeNull();
    expect(region.getByText('mean and greatest distance of 6 joints')).toBeTruthy();
    await user.click(region.getByText('Hips'));
    expect(usePlayer.getState().frame).toBe(20);
  });

  test('says how the two stand, and ends', async () => {
    const { user, onStand, onDone } = open({ joints });
    await user.click(screen.getByRole('button', { name: 'side by side' }));
    expect(onStand).toHaveBeenCalledWith('beside');
    await user.click(screen.getByRole('button', { name: 'done' }));
    expect(onDone).toHaveBeenCalled();
  });

  test('shows that it is being worked out', () => {
    open(undefined);
    expect(screen.getByRole('progressbar', { name: 'Comparing' })).toBeTruthy();
  });
});

test.each([
  ['quay', ['a', 'b']],
  ['QUAY dawn', ['a']],
  ['#rope', ['b']],
  ['#ro', ['b']],
  ['#quay', []],
  ['*', ['b']],
  ['!', ['c']],
  ['gulls', ['c']],
  ['* quay', ['b']],
  ['  ', ['a', 'b', 'c']],
])('searching %j finds %j', (search, found) => {
  const warned = plainTake('c').passport;
  const takes = [
    plainTake('a', { name: 'Quay walk', notes: 'at dawn' }),
    plainTake('b', { name: 'quay jog', tags: ['Rope'], star: true }),
    plainTake('c', { name: 'waiting', notes: 'Gulls', passport: { ...warned, warnings: [{ code: 'floor', message: 'off' }] } }),
  ];
  expect(takes.filter((take) => answers(take, search)).map(({ id }) => id)).toEqual(found);
});
