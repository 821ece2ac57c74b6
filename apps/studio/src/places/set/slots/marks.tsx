import { chart } from '@/controls/theme';
import type { SlotState } from '@lantern/motion';

/** A small flame. */
const FLAME = 'M0 -4.6C2.6 -1.6 3.4 0.2 3.4 1.6A3.4 3.4 0 0 1 -3.4 1.6C-3.4 0.2 -2.6 -1.6 0 -4.6Z';

/**
 * The mark of a slot, about the origin: a lamp that is lit where a clip is there, with a second ring where two contend; half of one where mirroring would
 * light it; an empty ring with the number of its shot where it is missing.
 */
export function SlotMark({
  state,
  number,
  size = 8.5,
  isChosen = false,
}: {
  state: SlotState;
  number?: number;
  size?: number;
  isChosen?: boolean;
}) {
  const k = size / 8.5;
  if (state === 'missing')
    return (
      <g>
        <circle r={size} fill={chart('card')} stroke={chart('ink')} strokeWidth={1.3} />
        {number !== undefined && (
          <text textAnchor="middle" dy="0.34em" fontSize={11.5 * k} fontWeight={700} fill={chart('ink')}>
            {number}
          </text>
        )}
      </g>
    );
  if (state === 'mirror')
    return (
      <g>
        <path d={`M0 ${-size}A${size} ${size} 0 0 0 0 ${size}Z`} fill={chart('lampSoft')} />
        <circle r={size} fill="none" stroke={chart('faint')} strokeWidth={1.2} strokeDasharray="2.4 2.2" />
        <line y1={-size} y2={size} stroke={chart('faint')} strokeWidth={1.1} />
      </g>
    );
  return (
    <g>
      <circle r={size} fill={chart('card')} stroke={chart('ink')} strokeWidth={isChosen ? 2 : 1.3} />
      {state === 'doubted' && <circle r={size + 3} fill="none" stroke={chart('ink')} strokeWidth={0.9} strokeDasharray="3 2" />}
      <path d={FLAME} transform={`scale(${k})`} fill={chart('lamp')} stroke={chart('lampText')} strokeWidth={0.7} />
    </g>
  );
}

export const STATE_WORDS: Readonly<Record<SlotState, string>> = {
  filled: 'there',
  doubted: 'two clips contend',
  mirror: 'by mirroring',
  missing: 'on the shot list',
};

/** Whether a clip is there for a slot. */
export const isLit = (state: SlotState): boolean => state === 'filled' || state === 'doubted';
