'use client';
'use no memo';
import { Box } from '@mui/material';
import { useRef } from 'react';
import type { Helm } from './steering';

const R = 88;

interface Props {
  /** Asked, and what comes: share of the top speed, and of the quickest turn to the right. */
  readonly asked: Helm;
  readonly comes: Helm;
  readonly most: number;
  readonly onHold: (helm: Helm) => void;
}

/** The compass: the lamp is at what is asked, the needle at what comes; it can be held by the pointer. */
export function Compass({ asked, comes, most, onHold }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const at = ({ x, y }: Helm) => {
    // Ahead is up; a turn is to the side, as far as it is quick.
    const angle = (x * Math.PI) / 2;
    const far = Math.min(1, Math.abs(y)) * (R - 18);
    return y >= 0 ? [far * Math.sin(angle), -far * Math.cos(angle)] : [x * 40, far];
  };
  const hold = (event: React.PointerEvent) => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return;
    const [x, y] = [event.clientX - box.left - box.width / 2, event.clientY - box.top - box.height / 2];
    const far = Math.min(1, Math.hypot(x, y) / (R - 18));
    if (y > 12 && Math.abs(x) < y) onHold({ x: 0, y: -1 });
    else onHold({ x: Math.max(-1, Math.min(1, Math.atan2(x, -y) / (Math.PI / 2))), y: far });
  };
  const [ax, ay] = at(asked);
  const [cx, cy] = at(comes);
  const rings = [1, 2, 3].map((k) => (k / 3) * (R - 18));
  return (
    <Box
      component="svg"
      ref={svg}
      viewBox={`${-R - 6} ${-R - 6} ${2 * R + 12} ${2 * R + 12}`}
      role="application"
      aria-label="Compass: hold and draw to steer"
      onPointerDown={(event) => {
        (event.target as Element).setPointerCapture(event.pointerId);
        hold(event);
      }}
      onPointerMove={(event) => event.buttons > 0 && hold(event)}
      onPointerUp={() => onHold({ x: 0, y: 0 })}
      sx={{ position: 'absolute', left: 18, bottom: 26, width: 188, height: 188, touchAction: 'none', cursor: 'grab' }}
    >
      <circle r={R + 4} fill="#0e1d21" stroke="#6fa9a5" strokeWidth={1.5} />
      <circle r={R} fill="#f4eeda" />
      {Array.from({ length: 72 }, (_, i) => (
        <line
          key={i}
          y1={-R + 3}
          y2={i % 6 === 0 ? -R + 12 : -R + 7}
          stroke="#1f2a2e"
          strokeWidth={i % 6 === 0 ? 1.2 : 0.6}
          transform={`rotate(${i * 5})`}
        />
      ))}
      {rings.map((r, k) => (
        <g key={r}>
          <circle r={r} fill="none" stroke="#cfc4a6" strokeWidth={0.8} />
          <text x={r * 0.42} y={r * 0.82} fontSize={9} fill="#67625a" fontFamily="Alegreya" fontStyle="italic">
            {((most * (k + 1)) / 3).toFixed(1)}
          </text>
        </g>
      ))}
      {Array.from({ length: 8 }, (_, i) => (
        <path
          key={i}
          d={`M0 0L5 -10L0 ${i % 2 === 0 ? -58 : -38}L-5 -10Z`}
          fill={i % 2 === 0 ? '#d9cfb4' : '#e6dec6'}
          transform={`rotate(${i * 45})`}
        />
      ))}
      <text y={-R + 26} textAnchor="middle" fontSize={15} fontFamily="Alegreya" fontWeight={700} fill="#1f2a2e">
        F
      </text>
      <text y={R - 15} textAnchor="middle" fontSize={15} fontFamily="Alegreya" fontWeight={700} fill="#1f2a2e">
        B
      </text>
      <circle cx={-R + 18} r={4.5} fill="#b4432f" />
      <path d={`M${R - 18} -6L${R - 12} 0L${R - 18} 6L${R - 24} 0Z`} fill="#2c7a62" />
      <g>
        <line x2={cx} y2={cy} stroke="#1f2a2e" strokeWidth={4} strokeLinecap="round" />
        <circle r={5} fill="#1f2a2e" />
      </g>
      <line x2={ax} y2={ay} stroke="#e3a12f" strokeWidth={2.4} />
      <circle cx={ax} cy={ay} r={9} fill="#e3a12f" stroke="#1f2a2e" strokeWidth={1.6} />
      <circle cx={ax} cy={ay} r={3} fill="#fff3cf" />
    </Box>
  );
}
