'use client';
import { Box, Typography } from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import type { SeamPoses } from '@lantern/motion';
import { chart } from '@/controls/theme';
import { core } from '@/worker/core';
import type { OpenTake } from '@/worker/core.worker';
import type { Cut } from '../use-bench';

/** What is seen from a side: which way goes right on the paper, and which up. */
const SIDES = [
  { name: 'front', right: [1, 0, 0], up: [0, 1, 0], tall: true },
  { name: 'side', right: [0, 0, 1], up: [0, 1, 0], tall: true },
  { name: 'above', right: [1, 0, 0], up: [0, 0, 1], tall: false },
] as const;

const SCALE = 92;
const WIDTH = 122;
/** Joints farther apart than this are joined by a line, cm. */
const LEAST = 0.3;

/** The two end poses of the cut over each other from three sides, each joint's error drawn and the worst named. */
export function SeamLoupe({ take, cut }: { take: OpenTake; cut: Cut }) {
  const poses = useSeamPoses(take.id, cut);
  if (!poses) return null;
  const { joints } = take.motion.skeleton;
  const worst = poses.errorCm.reduce((best, value, j) => (value > poses.errorCm[best] ? j : best), 0);
  return (
    <Box role="img" aria-label={`End poses over each other; worst ${joints[worst].name}, ${poses.errorCm[worst].toFixed(1)} cm`}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between' }}>
        {SIDES.map(({ name, right, up, tall }) => {
          const height = tall ? 1.95 * SCALE : 1.1 * SCALE;
          const at = (pose: Float32Array, j: number): [number, number] => {
            const dot = (v: readonly number[]) => v[0] * pose[j * 3] + v[1] * pose[j * 3 + 1] + v[2] * pose[j * 3 + 2];
            // Seen from in front, the left of the body is on the right of the paper.
            return [WIDTH / 2 + dot(right) * SCALE, tall ? height - 8 - dot(up) * SCALE : height / 2 - dot(up) * SCALE];
          };
          const bones = (pose: Float32Array) =>
            joints.map(({ parent }, j) => (parent < 0 ? '' : `M${at(pose, parent).join(' ')}L${at(pose, j).join(' ')}`)).join('');
          return (
            <svg key={name} width={WIDTH} height={1.95 * SCALE} aria-hidden fill="none" strokeLinecap="round">
              {tall && <line x1={6} x2={WIDTH - 6} y1={height - 8} y2={height - 8} stroke={chart('rule')} />}
              <path d={bones(poses.first)} stroke={chart('ink')} strokeWidth={2.4} />
              <path d={bones(poses.last)} stroke={chart('lamp')} strokeWidth={1.6} />
              {joints.map((_, j) => {
                if (poses.errorCm[j] < LEAST) return null;
                const [x1, y1] = at(poses.first, j);
                const [x2, y2] = at(poses.last, j);
                return <line key={j} x1={x1} y1={y1} x2={x2} y2={y2} stroke={chart('ink')} strokeWidth={1} />;
              })}
              <circle cx={at(poses.last, worst)[0]} cy={at(poses.last, worst)[1]} r={6} stroke={chart('ink')} strokeWidth={1.4} />
              <text x={6} y={tall ? 12 : 12} fontSize={12} fill={chart('faint')}>
                {name}
              </text>
            </svg>
          );
        })}
      </Box>
      <Typography variant="caption" color="text.secondary">
        first pose in ink, last in light; worst {joints[worst].name}, {poses.errorCm[worst].toFixed(1)} cm
      </Typography>
    </Box>
  );
}

/** Newest cut first wins, as with the seam's figures. */
function useSeamPoses(id: string, { from, to }: Cut): SeamPoses | null {
  const [poses, setPoses] = useState<SeamPoses | null>(null);
  const newest = useRef(0);
  useEffect(() => {
    const mine = ++newest.current;
    void core()
      .seamPoses(id, from, to)
      .then((found) => mine === newest.current && setPoses(found));
  }, [id, from, to]);
  return poses;
}
