'use client';
import { Sign } from '@/controls/Sign';
import CloseIcon from '@mui/icons-material/Close';
import { DEGREES, PROP_KINDS, type StageProp } from '@lantern/motion';
import { Box, Button, Typography } from '@mui/material';
import type { TakeInfo } from '@/data/project';
import { usePlayer } from '@/data/player';
import { useViewedTake } from '@/data/use-viewed-take';
import { locate } from '@/worker/wire';
import { chart } from '@/controls/theme';
import { TypedNumber } from '@/controls/TypedNumber';

/** Usual sizes: width, height, depth in metres. */
const USUAL: Record<StageProp['kind'], readonly [number, number, number]> = {
  box: [0.6, 0.6, 0.6],
  step: [1.6, 0.15, 0.8],
  rope: [2, 0.12, 0.04],
  rail: [3, 0.9, 0.05],
  seat: [0.5, 0.45, 0.45],
  wall: [3, 2.2, 0.12],
  pole: [0.05, 2.3, 0.05],
};

/** Things to judge the take against: put where the performer is, then dragged on the stage or typed here. */
export function PropsCard({ take, onChange }: { take: TakeInfo; onChange: (props: readonly StageProp[]) => void }) {
  const { data: opened } = useViewedTake(take);
  const add = (kind: StageProp['kind']) => {
    const frame = Math.round(usePlayer.getState().frame);
    const found = opened && locate(opened.motion, frame);
    const [width, height, depth] = USUAL[kind];
    const [x, z] = found ? [0, 2].map((k) => found.motion.rootPositions[found.frame * 3 + k]) : [0, 0];
    const turn = opened?.heading[frame] ?? 0;
    // A step ahead of where he is, and beyond what stands there already.
    const ahead = 0.8 + 0.6 * take.props.length;
    onChange([
      ...take.props,
      {
        id: crypto.randomUUID(),
        kind,
        x: snap(x + Math.sin(turn) * ahead, 0.05),
        z: snap(z + Math.cos(turn) * ahead, 0.05),
        turn: snap(turn, 1 / DEGREES),
        width,
        height,
        depth,
      },
    ]);
  };
  return (
    <Box component="section" aria-label="Props" sx={{ pt: 1, display: 'grid', gap: 1 }}>
      <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', alignItems: 'center' }}>
        <Typography variant="body2" color="text.secondary" sx={{ mr: 0.5 }}>
          Put up
        </Typography>
        {PROP_KINDS.map((kind) => (
          <Button key={kind} variant="outlined" color="inherit" sx={{ py: 0, minWidth: 0 }} onClick={() => add(kind)}>
            a {kind}
          </Button>
        ))}
      </Box>
      {take.props.length === 0 && (
        <Typography variant="body2" color="text.secondary">
          A box, step, rope, seat, wall or pole of a given size shows whether feet clear it and hands reach it. Drag it on the stage; its
          ring turns it.
        </Typography>
      )}
      {take.props.map((prop, i) => (
        <PropRow
          key={prop.id}
          prop={prop}
          name={`${prop.kind} ${i + 1}`}
          onChange={(patch) => onChange(take.props.map((p) => (p.id === prop.id ? { ...p, ...patch } : p)))}
          onRemove={() => onChange(take.props.filter(({ id }) => id !== prop.id))}
        />
      ))}
    </Box>
  );
}

interface RowProps {
  readonly prop: StageProp;
  readonly name: string;
  readonly onChange: (patch: Partial<StageProp>) => void;
  readonly onRemove: () => void;
}

const SIZES = ['width', 'height', 'depth'] as const;
const METRES = { unit: 'm', width: 118, step: 0.05 } as const;

/** One prop: how large, where, and how it is turned. */
function PropRow({ prop, name, onChange, onRemove }: RowProps) {
  return (
    <Box role="group" aria-label={name} sx={{ borderTop: `1px solid ${chart('rule')}`, pt: 0.8 }}>
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Typography variant="body2" sx={{ fontWeight: 700, flex: 1 }}>
          {prop.kind}
        </Typography>
        <Sign name={`Take the ${prop.kind} away`} onClick={onRemove}>
          <CloseIcon />
        </Sign>
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, 1fr)', columnGap: 0.8, rowGap: 1.6, mt: 1 }}>
        {SIZES.map((side) => (
          <TypedNumber
            {...METRES}
            key={side}
            name={side}
            label={side}
            value={round(prop[side])}
            least={0.01}
            most={50}
            onChange={(value) => onChange({ [side]: value })}
          />
        ))}
        {(['x', 'z'] as const).map((axis) => (
          <TypedNumber
            {...METRES}
            key={axis}
            name={axis}
            label={axis}
            value={round(prop[axis])}
            least={-1000}
            most={1000}
            onChange={(value) => onChange({ [axis]: value })}
          />
        ))}
        <TypedNumber
          name="turned"
          label="turned"
          unit="°"
          width={118}
          digits={1}
          value={round(prop.turn * DEGREES)}
          least={-3600}
          most={3600}
          onChange={(value) => onChange({ turn: value / DEGREES })}
        />
      </Box>
    </Box>
  );
}

const snap = (value: number, step: number) => Math.round(value / step) * step;
const round = (value: number) => Math.round(value * 1000) / 1000;
