import { chart } from '../controls/theme';

/** Our mark: a lantern with its flame. */
export function LanternMark({ size = 30 }: { size?: number }) {
  return (
    <svg width={size * 0.66} height={size} viewBox="0 0 20 30" aria-hidden fill="none" strokeWidth={1.5} strokeLinejoin="round">
      <g stroke={chart('ink')}>
        <path d="M7 4a3 3 0 0 1 6 0M5 7h10l2 3v14l-2 3H5l-2-3V10z" />
        <path d="M3 11h14M3 23h14" />
      </g>
      <path d="M10 13c2.6 2.6 2.8 7 0 7s-2.600-4.400 0-7z" fill={chart('lamp')} stroke={chart('ink')} strokeWidth={0.8} />
    </svg>
  );
}
