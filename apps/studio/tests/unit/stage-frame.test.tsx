/** @jest-environment jsdom */
import { createMotion, type Skeleton } from '@lantern/motion';
import { cleanup, render, screen } from '@testing-library/react';
import { StageFrame } from '@/stage/StageFrame';
import type { StageProps } from '@/stage/stage-props';

jest.mock('@/stage/Stage', () => ({
  Stage: ({ floor }: StageProps) => <div data-testid="drawing">floor at {floor}</div>,
}));

afterEach(cleanup);

const skeleton: Skeleton = { joints: [{ name: 'Hips', parent: -1, offset: [0, 1, 0], restRotation: [0, 0, 0, 1], endSites: [] }] };
const mesh = { positions: new Float32Array(), normals: new Float32Array(), indices: new Uint32Array(), joints: new Uint16Array() };
const stage = (floor: number) => ({ motion: createMotion(skeleton, 60, 2), mesh, markers: null, floor });

test('while another take is loaded the drawing stays, unseen, and what is said stands in its place', async () => {
  const { rerender } = render(<StageFrame stage={stage(0)} />);
  const drawing = await screen.findByTestId('drawing');
  expect(screen.getByRole('toolbar', { name: 'View' })).toBeTruthy();
  rerender(<StageFrame stage={null} notice={<p>Loading the take</p>} />);
  expect(screen.getByTestId('drawing')).toBe(drawing);
  expect(drawing.parentElement && getComputedStyle(drawing.parentElement).visibility).toBe('hidden');
  expect(screen.getByText('Loading the take')).toBeTruthy();
  expect(screen.queryByRole('toolbar', { name: 'View' })).toBeNull();
  rerender(<StageFrame stage={stage(3)} />);
  expect(screen.getByTestId('drawing')).toBe(drawing);
  expect(drawing.textContent).toBe('floor at 3');
  expect(drawing.parentElement && getComputedStyle(drawing.parentElement).visibility).toBe('visible');
});

test('where nothing was ever shown there is no drawing', () => {
  render(<StageFrame stage={null} notice={<p>This take is not in the project any more.</p>} />);
  expect(screen.queryByTestId('drawing')).toBeNull();
  expect(screen.getByText('This take is not in the project any more.')).toBeTruthy();
});
