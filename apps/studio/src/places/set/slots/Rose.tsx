'use client';
import type { Contract, ContractLine, SlotReport } from '@lantern/motion';
import { Box } from '@mui/material';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { isLit } from './marks';
import { MIDDLE, place, RADIUS, roseLabels, roseLamps, roseReach, type RoseLamp } from './rose-layout';
import { RoseCard } from './RoseCard';
import { Feather, Glow, RoseLampMark } from './RoseLampMark';

interface Props {
  readonly reports: readonly SlotReport[];
  readonly contract: Contract;
  readonly lines: readonly ContractLine[];
  /** What a clip is called. */
  readonly nameOf: (clip: string | null, report: SlotReport) => string;
  readonly shotOf: (slot: string) => number | undefined;
  readonly speedBound: number;
  readonly chosen: string | null;
  readonly onChoose: (slot: string | null) => void;
  readonly onOpen: (report: SlotReport) => void;
  /** A lamp was dragged to a speed. */
  readonly onSpeed: (report: SlotReport, mps: number) => void;
}

/** Way of travel round, speed outwards: what is covered, and what is missing. */
export function Rose({ reports, contract, lines, nameOf, shotOf, speedBound, chosen, onChoose, onOpen, onSpeed }: Props) {
  const reach = roseReach(reports);
  const lamps = roseLamps(reports, lines, reach);
  const labels = roseLabels(
    lamps,
    lamps.map(({ report, mps }) => `${nameOf(report.clip, report)}${isLit(report.state) ? ` ${mps.toFixed(2)}` : ''}`),
  );
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ readonly id: string; readonly mps: number; readonly hasMoved: boolean } | null>(null);

  /** Metres a second of the pointer, along the lamp's own direction. */
  const speedAt = (event: PointerEvent, { angle }: RoseLamp): number => {
    const matrix = svg.current?.getScreenCTM();
    if (!matrix) return 0;
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    const along = (x - MIDDLE.x) * Math.sin(angle) - (y - MIDDLE.y) * Math.cos(angle);
    return Math.max(0.1, Math.min(15, Math.round((along / RADIUS) * reach * 20) / 20));
  };
  const begin = (event: PointerEvent<SVGGElement>, lamp: RoseLamp) => {
    if (lamp.report.state === 'missing' || event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    setDrag({ id: lamp.report.id, mps: lamp.mps, hasMoved: false });
  };
  const move = (event: PointerEvent<SVGGElement>, lamp: RoseLamp) => {
    if (drag?.id !== lamp.report.id) return;
    const mps = speedAt(event, lamp);
    setDrag({ ...drag, mps, hasMoved: drag.hasMoved || Math.abs(mps - lamp.mps) > 0.07 });
  };
  const end = (lamp: RoseLamp) => {
    const was = drag;
    setDrag(null);
    if (was?.id !== lamp.report.id) return;
    if (was.hasMoved) onSpeed(lamp.report, was.mps);
    else onOpen(lamp.report);
  };
  const keys = (event: KeyboardEvent, lamp: RoseLamp) => {
    if (event.key === 'Enter') onOpen(lamp.report);
    const step = event.key === 'ArrowUp' ? 0.05 : event.key === 'ArrowDown' ? -0.05 : 0;
    if (step === 0 || lamp.report.state === 'missing') return;
    event.preventDefault();
    onSpeed(lamp.report, Math.max(0.1, Math.round((lamp.mps + step) * 20) / 20));
  };

  return (
    <Box
      component="svg"
      ref={svg}
      viewBox="0 0 600 540"
      role="group"
      aria-label="The rose: way of travel round, speed outwards"
      sx={{ width: '100%', height: '100%', display: 'block', touchAction: 'none', userSelect: 'none' }}
    >
      <RoseCard reach={reach} contract={contract} />
      {lamps.map(({ report: { id, state }, x, y, glow }) =>
        isLit(state) && glow > 2 ? <Glow key={`glow ${id}`} x={x} y={y} r={Math.max(18, glow)} /> : null,
      )}
      {lamps.map(({ report: { id, state }, feather, x, y }) =>
        feather ? <Feather key={`feather ${id}`} from={feather} to={[x, y]} isThere={state !== 'missing' && state !== 'mirror'} /> : null,
      )}
      {lamps.map((lamp, i) => {
        const { id } = lamp.report;
        const dragged = drag?.id === id && drag.hasMoved ? drag.mps : null;
        return (
          <RoseLampMark
            key={id}
            lamp={lamp}
            at={dragged === null ? [lamp.x, lamp.y] : place(dragged, lamp.angle, reach)}
            dragged={dragged}
            name={nameOf(lamp.report.clip, lamp.report)}
            label={labels[i]}
            number={shotOf(id)}
            speedBound={speedBound}
            isChosen={chosen === id || dragged !== null}
            onChoose={onChoose}
            onPointerDown={(event) => begin(event, lamp)}
            onPointerMove={(event) => move(event, lamp)}
            onPointerUp={() => end(lamp)}
            onPointerCancel={() => setDrag(null)}
            onKeyDown={(event) => keys(event, lamp)}
          />
        );
      })}
    </Box>
  );
}
