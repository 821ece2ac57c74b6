/** @jest-environment jsdom */
import { stepSchema, type FitOverrides } from '@lantern/motion';
import { act, cleanup, renderHook, screen, waitFor } from '@testing-library/react';
import { useFitEdits, useWholeSteps } from '@/data/fits';
import { useProjectData } from '@/data/project';
import { place, plainTake, projectData, serve } from './place';

afterEach(cleanup);

const change = (before: FitOverrides, after: FitOverrides, character = 'tallow') => ({ source: 'suit', character, before, after });

function begin(fits: ReturnType<typeof projectData>['fits'] = []) {
  const fault: { status: number | null } = { status: null };
  const asked = serve(({ method }) => (fault.status !== null && method === 'PUT' ? fault.status : projectData({ fits })));
  const here = place(projectData({ fits }));
  const { result } = renderHook(() => (useProjectData(), useFitEdits()), { wrapper: here.wrapper });
  const saved = (character = 'tallow') => here.known().fits.find((fit) => fit.character === character)?.settings;
  return { ...here, asked, fault, edits: () => result.current, saved };
}

test('a setting is seen at once, sent with what it was, and goes back and forth', async () => {
  const { edits, saved, asked } = begin();
  expect([edits().canUndo, edits().canRedo]).toEqual([false, false]);
  act(() => edits().edit(change({}, { soleCm: 1 })));
  expect(saved()).toEqual({ soleCm: 1 });
  act(() => edits().edit(change({ soleCm: 1 }, { soleCm: 1, give: 0.5 })));
  expect(edits().canUndo).toBe(true);
  act(() => edits().undo());
  expect(saved()).toEqual({ soleCm: 1 });
  expect(edits().canRedo).toBe(true);
  act(() => edits().redo());
  expect(saved()).toEqual({ soleCm: 1, give: 0.5 });
  await waitFor(() => expect(asked).toHaveLength(4));
  expect(asked.map(({ method, url }) => `${method} ${url}`)).toEqual(Array(4).fill('PUT /api/projects/gullmouth/fits'));
  // Each save says from what it starts, so that others' settings are kept.
  expect(asked.map(({ body }) => body?.before)).toEqual([{}, { soleCm: 1 }, { soleCm: 1, give: 0.5 }, { soleCm: 1 }]);
  expect(asked[3].body).toMatchObject({ source: 'suit', character: 'tallow', settings: { soleCm: 1, give: 0.5 } });
});

test('a new change ends what could be done again', () => {
  const { edits } = begin();
  act(() => edits().edit(change({}, { soleCm: 2 })));
  act(() => edits().undo());
  act(() => edits().edit(change({}, { give: 0 })));
  expect(edits().canRedo).toBe(false);
});

test('the fit of another character stays as it is', () => {
  const { edits, saved } = begin([{ source: 'suit', character: 'wick', settings: { give: 0.1 } }]);
  act(() => edits().edit(change({}, { soleCm: 2 })));
  expect([saved('wick'), saved('tallow')]).toEqual([{ give: 0.1 }, { soleCm: 2 }]);
});

test('a save that fails says so, and what the server has is shown again', async () => {
  const { edits, saved, fault } = begin([{ source: 'suit', character: 'tallow', settings: { give: 0.1 } }]);
  fault.status = 503;
  act(() => edits().edit(change({ give: 0.1 }, { give: 0.9 })));
  expect(saved()).toEqual({ give: 0.9 });
  expect(await screen.findByText('The fit is not saved: refused with 503')).toBeTruthy();
  await waitFor(() => expect(saved()).toEqual({ give: 0.1 }));
});

test('what is saved for a take’s suit goes into the fits of its clips; what the clip says itself stays', () => {
  const { wrapper } = place(
    projectData({
      fits: [
        { source: 'suit', character: 'tallow', settings: { soleCm: 1.5, give: 0.7 } },
        { source: 'another', character: 'tallow', settings: { soleCm: 9 } },
      ],
    }),
  );
  const { result } = renderHook(() => useWholeSteps(), { wrapper });
  const fit = stepSchema.parse({ kind: 'fit', character: 'tallow', give: 0.2 });
  const [whole] = result.current([fit], plainTake('stroll'));
  expect(whole).toMatchObject({ kind: 'fit', character: 'tallow', soleCm: 1.5, give: 0.2 });
  const [other] = result.current([stepSchema.parse({ kind: 'fit', character: 'wick' })], plainTake('stroll'));
  expect(other).not.toHaveProperty('soleCm', 1.5);
  expect(result.current([fit], null)).toEqual([fit]);
});
