/** @jest-environment jsdom */
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { Guide } from '@/shell/guide/Guide';
import { GuideCall } from '@/shell/guide/GuideCall';
import { useGuide } from '@/shell/guide/guide-state';
import { GUIDE } from '@/shell/guide/guide-steps';
import { place, plainTake, projectData } from './place';

const router = { push: jest.fn() };
let path = '/gullmouth/fit';
jest.mock('next/navigation', () => ({ useRouter: () => router, usePathname: () => path }));

const show = (takes = [plainTake('wick-rounds')]) =>
  render(
    <>
      <GuideCall />
      <Guide />
    </>,
    { wrapper: place(projectData({ takes })).wrapper },
  );
const card = () => screen.getByRole('region', { name: 'First steps' });
const press = (name: string | RegExp) => fireEvent.click(screen.getByRole('button', { name }));

afterEach(cleanup);

beforeEach(() => {
  localStorage.clear();
  router.push.mockClear();
  path = '/gullmouth/fit';
  act(() => useGuide.setState({ isOpen: false, step: 0, done: [] }));
});

test('it is called for from the rail, leads to where its step is, and is left and taken up where it was', () => {
  show();
  expect(screen.queryByRole('region', { name: 'First steps' })).toBeNull();
  press(/^First steps/);
  expect(within(card()).getByRole('heading').textContent).toBe('Look at a take');
  // The take of the demo is opened, not only the place.
  press('Take me there');
  expect(router.push).toHaveBeenCalledWith('/gullmouth/takes/wick-rounds');
  press('Step 3: See what the set holds');
  press('Take me there');
  expect(router.push).toHaveBeenLastCalledWith('/gullmouth/set');
  press('Leave the guide');
  expect(screen.queryByRole('region', { name: 'First steps' })).toBeNull();
  press(/^First steps/);
  expect(within(card()).getByRole('heading').textContent).toBe('See what the set holds');
});

test('where a step is, it is gone on from; after the last one the guide is gone, and its call with it', () => {
  path = '/gullmouth/takes/wick-rounds';
  const { rerender } = show();
  press(/^First steps/);
  press('Next step');
  expect(screen.getByRole('button', { name: `Step 1: ${GUIDE[0].title}, done` })).not.toBeNull();
  for (const own of GUIDE.slice(1)) {
    path = `/gullmouth/${own.place}`;
    rerender(
      <>
        <GuideCall />
        <Guide />
      </>,
    );
    expect(within(card()).getByRole('heading').textContent).toBe(own.title);
    press(own === GUIDE.at(-1) ? 'Done' : 'Next step');
  }
  expect(screen.queryByRole('region', { name: 'First steps' })).toBeNull();
  expect(screen.queryByRole('button', { name: /^First steps/ })).toBeNull();
});

test('nobody is shown round where nothing was captured', () => {
  show([]);
  expect(screen.queryByRole('button', { name: /^First steps/ })).toBeNull();
});
