'use no memo';
import { Box } from '@mui/material';
import { useReplay, type Replay } from '@/data/replay';
import { recordingOf } from '@/data/weather';
import { Word } from './TopBar';
import type { Drive } from './use-drive';

/** To record what is asked, to stop, and to see what was recorded, or found, once more. */
export function RecordWords({
  set,
  drive,
  wanted,
  onStop,
}: {
  set: string;
  drive: Drive;
  /** What somebody wants to see again. */
  wanted: Replay | null;
  onStop: () => void;
}) {
  const recorded = recordingOf(set);
  return (
    <Box sx={{ display: 'flex', gap: 0.5, ml: -0.8 }}>
      {drive.mode === 'driven' ? (
        <>
          <Word name="Record what is asked" onClick={drive.record}>
            ● record
          </Word>
          {recorded && (
            <Word
              name="Play the recording"
              onClick={() => useReplay.getState().open({ set, script: recorded, step: recorded.steps, says: 'what was recorded' })}
            >
              play it again
            </Word>
          )}
        </>
      ) : (
        <Word name="Stop" onClick={onStop}>
          ■ {drive.mode === 'recorded' ? 'stop recording' : 'let go'}
        </Word>
      )}
      {drive.mode === 'replayed' && wanted && (
        <Word name="From a second before" onClick={() => drive.replay(wanted.script, wanted.step, true)}>
          from a second before
        </Word>
      )}
    </Box>
  );
}
