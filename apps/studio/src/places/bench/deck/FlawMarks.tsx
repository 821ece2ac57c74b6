import { chart } from '@/controls/theme';

/** Something that a cleaning found: frames of the take, the first and the first after. */
export interface Flaw {
  readonly kind: 'spike' | 'gap';
  readonly joint: string;
  readonly from: number;
  readonly to: number;
  readonly isMended: boolean;
}

/** Flaws on the time axis: a spike is a tooth, a gap a break; strong where it is left as it is, pale where it is set right. A click goes there. */
export function FlawMarks({
  flaws,
  x,
  y,
  onGo,
}: {
  flaws: readonly Flaw[];
  x: (frame: number) => number;
  y: number;
  onGo: (flaw: Flaw) => void;
}) {
  if (flaws.length === 0) return null;
  return (
    <g role="group" aria-label={`${flaws.length} spikes and gaps`}>
      {flaws.map((flaw) => {
        const { kind, joint, from, to, isMended } = flaw;
        const name = `${kind === 'spike' ? 'Spike' : 'Gap'} of ${joint} at frame ${from}, ${isMended ? 'set right' : 'left as it is'}`;
        const at = x(from);
        return (
          <g
            key={`${kind} ${joint} ${from}`}
            role="button"
            aria-label={name}
            tabIndex={-1}
            opacity={isMended ? 0.45 : 1}
            style={{ cursor: 'pointer' }}
            onClick={() => onGo(flaw)}
          >
            <title>{name}</title>
            <rect x={at - 4} y={y - 5} width={Math.max(8, x(to) - at + 8)} height={11} fill="transparent" />
            {kind === 'spike' ? (
              <path d={`M${at - 3} ${y + 4}l3 -8l3 8z`} fill={chart('ink')} />
            ) : (
              <rect x={at} y={y} width={Math.max(3, x(to) - at)} height={4} fill="none" stroke={chart('ink')} strokeDasharray="3 2" />
            )}
          </g>
        );
      })}
    </g>
  );
}
