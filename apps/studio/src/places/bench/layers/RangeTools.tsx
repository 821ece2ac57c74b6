'use client';
import { partOfLayer, pegsOf, withoutRange, withRangeMoved, type Layer } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { Small } from '@/controls/Small';
import { useCorrecting } from '@/data/correcting';
import type { CorrectionsTools } from './corrections-context';

/** What is done with the range that is chosen in the open layer. */
export function RangeTools({
  layer,
  tools,
  onChange,
  onCopy,
}: {
  layer: Layer;
  tools: CorrectionsTools;
  onChange: (layer: Layer) => void;
  /** Offers a layer to other clips. */
  onCopy: (layers: readonly Layer[]) => void;
}) {
  const range = useCorrecting((state) => state.range);
  if (!range) return null;
  const part = partOfLayer(layer, range);
  const [pegs, touches] = [pegsOf(part).length, part.touches.length];
  const isEmpty = pegs + touches === 0;
  const letGo = () => useCorrecting.setState({ range: null });
  return (
    <Box
      role="group"
      aria-label="Chosen range"
      sx={{ gridColumn: '1 / -1', display: 'flex', flexWrap: 'wrap', alignItems: 'center', columnGap: 0.4 }}
    >
      <Typography variant="body2" role="status">
        frames {range.from} to {range.to}:{' '}
        {isEmpty ? 'nothing in them' : `${counted(pegs, 'peg', 'pegs')}, ${counted(touches, 'touch', 'touches')}`}
      </Typography>
      {!isEmpty && (
        <>
          <Small
            name="Copy the range to the playhead"
            onClick={() => onChange(withRangeMoved(layer, range, tools.frameNow() - range.from, true))}
          >
            copy to the playhead
          </Small>
          <Small name="Copy the range to clips" onClick={() => onCopy([part])}>
            to clips…
          </Small>
          <Small
            name="Remove what is in the range"
            onClick={() => {
              onChange(withoutRange(layer, range));
              letGo();
            }}
          >
            remove
          </Small>
        </>
      )}
      <Small name="Let the range go" onClick={letGo}>
        let go
      </Small>
    </Box>
  );
}

const counted = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;
