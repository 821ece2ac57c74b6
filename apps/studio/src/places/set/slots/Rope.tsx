import type { SlotReport } from '@lantern/motion';
import { chart } from '@/controls/theme';
import { SlotMark } from './marks';

const WIDTH = 560;
const ORDER = { filled: 0, doubted: 1, mirror: 2, missing: 3 } as const;

/** A rope with a lantern for every slot, the lit ones first: how far the set is. */
export function Rope({ reports }: { reports: readonly Pick<SlotReport, 'id' | 'state'>[] }) {
  const hung = [...reports].sort((a, b) => ORDER[a.state] - ORDER[b.state]);
  const count = hung.length;
  const posts = Math.max(1, Math.ceil(count / 8));
  const sag = (u: number) => 11 * 4 * u * (1 - u);
  const span = WIDTH / posts;
  const y = (x: number) => 4 + sag((x % span) / span);
  const size = Math.min(5, (WIDTH / Math.max(1, count)) * 0.4);
  const words = (['filled', 'doubted', 'mirror', 'missing'] as const).map(
    (state) => `${reports.filter((own) => own.state === state).length} ${state}`,
  );
  return (
    <svg
      viewBox={`-4 0 ${WIDTH + 8} 32`}
      width="100%"
      role="img"
      aria-label={`${count} slots: ${words.join(', ')}`}
      style={{ display: 'block' }}
    >
      {Array.from({ length: posts }, (_, i) => (
        <path
          key={i}
          d={`M${i * span} 4Q${(i + 0.5) * span} ${4 + 22} ${(i + 1) * span} 4`}
          fill="none"
          stroke={chart('ink')}
          strokeWidth={1.1}
        />
      ))}
      {Array.from({ length: posts + 1 }, (_, i) => (
        <circle key={i} cx={i * span} cy={4} r={2} fill={chart('ink')} />
      ))}
      {hung.map(({ id, state }, i) => {
        const x = ((i + 0.5) * WIDTH) / count;
        return (
          <g key={id} transform={`translate(${x} ${y(x) + size + 3})`}>
            <line y1={-size - 3} y2={-size} stroke={chart('ink')} strokeWidth={0.8} />
            <SlotMark state={state === 'doubted' ? 'filled' : state} size={size} />
          </g>
        );
      })}
    </svg>
  );
}
