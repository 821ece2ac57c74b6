import type { Marker } from '@lantern/motion';
import { useSnackbar } from 'notistack';
import { useCallback } from 'react';
import { MARKERS } from '@/data/acts';
import type { TakeInfo } from '@/data/project';
import { changesOf, useTakeEdits } from '@/data/take-edits';
import { withMarker } from '@/timeline/TakeDeck';
import type { ClipTime } from './take-frame';
import { takeFrameNow } from './use-load-player';

/** The named instants of the open take, which ship as events of the clips that they lie in. */
export function useMarkers(take: TakeInfo | null, time: ClipTime | null) {
  const { edit } = useTakeEdits();
  const { enqueueSnackbar } = useSnackbar();
  const setMarkers = useCallback(
    (markers: readonly Marker[]) => {
      if (!take || markers === take.markers) return;
      if (take.join) enqueueSnackbar('This clip is cut from a join: its marks are set on the pieces, in Joins.');
      else
        void edit(
          MARKERS,
          changesOf([take], () => ({ markers: [...markers] })),
        );
    },
    [take, edit, enqueueSnackbar],
  );
  const markHere = useCallback(() => {
    if (take) setMarkers(withMarker(take.markers, takeFrameNow(time)));
  }, [take, setMarkers, time]);
  return { setMarkers, markHere };
}
