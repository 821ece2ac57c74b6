/** @jest-environment jsdom */
import { stepSchema, type StepReport } from '@lantern/motion';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { CardContext, StepCard } from '@/controls/StepCard';
import { Section, setFold, useFolds } from '@/controls/folds';

afterEach(cleanup);
beforeEach(() => useFolds.setState({ open: {} }));

const lock = stepSchema.parse({ kind: 'foot-lock' });
const slide = (after: number): StepReport => ({ label: 'slide', figure: 'slideCm', unit: 'cm', digits: 2, before: 1.82, after });

function card({ report = slide(0.04), step = lock, onChange = jest.fn(), remove = jest.fn() } = {}) {
  render(
    <CardContext value={{ report, remove }}>
      <StepCard step={step} onChange={onChange}>
        <span>controls</span>
      </StepCard>
    </CardContext>,
  );
  return { onChange, remove, user: userEvent.setup() };
}

test('folded, a card is a line with its one figure before and after; it opens on its controls, and stays as it was left', async () => {
  const { user } = card();
  expect(screen.getByRole('region', { name: 'Foot lock step' }).textContent).toContain('slide\u00a01.82 → 0.04 cm');
  expect(screen.queryByText('controls')).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Unfold Foot lock step' }));
  expect(screen.getByText('controls')).toBeTruthy();
  cleanup();
  card();
  expect(screen.getByText('controls')).toBeTruthy();
});

test('a figure out of bounds is marked, and says so to a screen reader', () => {
  card({ report: slide(0.9) });
  expect(screen.getByLabelText('out of bounds')).toBeTruthy();
});

test('switched off it keeps its parameters, shows no controls and no figure, and can be taken out', async () => {
  setFold('step foot-lock', true);
  const { user, onChange, remove } = card();
  await user.click(screen.getByRole('switch', { name: 'Foot lock step on' }));
  expect(onChange).toHaveBeenCalledWith({ ...lock, off: true });
  cleanup();
  card({ step: { ...lock, off: true } });
  expect(screen.queryByText('controls')).toBeNull();
  expect(screen.getByText('off')).toBeTruthy();
  cleanup();
  card({ remove });
  await user.click(screen.getByRole('button', { name: 'Remove the foot lock step' }));
  expect(remove).toHaveBeenCalledTimes(1);
});

test('a part of a column folds under its heading, and is remembered', async () => {
  const part = () =>
    render(
      <Section id="figures" title="Figures">
        <p>twelve of them</p>
      </Section>,
    );
  part();
  await userEvent.click(screen.getByRole('button', { name: 'Fold figures' }));
  expect(screen.queryByText('twelve of them')).toBeNull();
  cleanup();
  part();
  expect(screen.queryByText('twelve of them')).toBeNull();
});
