'use client';
import { Box } from '@mui/material';
import { Choice } from '@/stage/Choice';
import type { Preview } from './use-bench';

export type GlassName = 'loupe' | 'map';

/** What the stage shows, and the instruments that lie on it. */
export function PreviewBar({
  preview,
  hasClip,
  hasCut,
  isLoop,
  glass,
  repeats,
  onCaptured,
  onPreview,
  onGlass,
  onWorry,
  isCorrecting,
  onCorrect,
}: {
  preview: Preview;
  hasClip: boolean;
  hasCut: boolean;
  isLoop: boolean;
  glass: GlassName | null;
  repeats: number;
  onCaptured: () => void;
  onPreview: (preview: Preview) => void;
  onGlass: (glass: GlassName | null) => void;
  onWorry: () => void;
  isCorrecting: boolean;
  onCorrect: () => void;
}) {
  const toggle = (name: GlassName) => onGlass(glass === name ? null : name);
  return (
    <>
      <Box role="toolbar" aria-label="Instruments" sx={{ display: 'flex', mr: 1.5 }}>
        {hasClip && <Choice label="correct" title="Take hold of joints (C)" isOn={isCorrecting} onClick={onCorrect} />}
        {hasCut && !isCorrecting && <Choice label="loupe" isOn={glass === 'loupe'} onClick={() => toggle('loupe')} />}
        {/* What one cuts loops with makes room for what one corrects with. */}
        {!isCorrecting && <Choice label="map" isOn={glass === 'map'} onClick={() => toggle('map')} />}
        {isLoop && !isCorrecting && preview !== 'take' && <Choice label="worry the seam" isOn={false} onClick={onWorry} />}
      </Box>
      <Box role="toolbar" aria-label="Preview" sx={{ display: 'flex' }}>
        <Choice label="as captured" isOn={preview === 'take' || !hasClip} onClick={onCaptured} />
        {hasClip && <Choice label="in place" isOn={preview === 'place'} onClick={() => onPreview('place')} />}
        {hasClip && (
          <Choice
            label={isLoop ? `travelling × ${repeats}` : 'travelling'}
            isOn={preview === 'travel'}
            onClick={() => onPreview('travel')}
          />
        )}
      </Box>
    </>
  );
}
