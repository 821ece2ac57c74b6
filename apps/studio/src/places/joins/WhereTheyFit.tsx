'use client';
import type { Fitting } from '@lantern/motion';
import { Box, ButtonBase, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import { core } from '@/worker/core';
import type { FitsAsked, PieceRoom } from '@/worker/core.worker';
import * as edits from './join-edits';
import { PairMap } from './PairMap';
import type { Joinery } from './use-joinery';

/** Instants so far before the end of the one, and behind the beginning of the other, are on the map; seconds. */
const MAP_BACK = 1.2;
const MAP_ON = 0.4;

/** The map of both pieces, with the best places numbered; one that is taken brings its overlap. */
export function WhereTheyFit({
  joinery,
  index,
  rooms,
  fps,
  isWide,
  onWide,
}: {
  joinery: Joinery;
  index: number;
  rooms: readonly PieceRoom[];
  fps: number;
  isWide: boolean;
  onWide: (isWide: boolean) => void;
}) {
  const { doc, seen, edit } = joinery;
  const [held, setHeld] = useState<{ readonly window: FitsAsked; readonly isWide: boolean } | null>(null);
  const [a, b] = [rooms[index - 1], rooms[index]];
  const near = useMemo(() => windowOf(a, b, fps, isWide), [a, b, fps, isWide]);
  const met = doc ? edits.metAt(doc, index, rooms) : { a: 0, b: 0 };
  // The map stands still for as long as the ring is on it.
  const window = held && held.isWide === isWide && isOn(held.window, met) ? held.window : near;
  const key = seen && JSON.stringify([seen.asked.pieces.slice(index - 1, index + 1), window]);
  const { data, isFetching } = useQuery({
    queryKey: ['join-fits', key],
    enabled: seen !== null,
    staleTime: Infinity,
    gcTime: 60_000,
    placeholderData: (before) => before,
    queryFn: async () => (seen ? core().joinFits(seen.asked, index - 1, inside(window)) : []),
  });
  const fits: readonly Fitting[] = data && !('problem' in data) ? data.slice(0, 3) : [];
  if (!doc || !seen || seen.asked.pieces.length <= index) return null;
  const take = (x: number, y: number, isDone = true, frames?: number) => {
    setHeld({ window, isWide });
    edit(edits.meetAt(doc, index, rooms, x, y, frames), isDone);
  };
  return (
    <Box component="section" aria-label="Where they fit">
      <Box sx={{ display: 'flex', alignItems: 'baseline', mb: 0.5 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          Where they fit
        </Typography>
        <Small pressed={isWide} onClick={() => onWide(!isWide)}>
          all of both
        </Small>
        <Typography variant="caption" color="text.secondary">
          {isFetching ? 'looking…' : 'dark is alike'}
        </Typography>
      </Box>
      <Box sx={{ display: 'flex', gap: 1 }}>
        <PairMap asked={seen.asked} index={index - 1} window={window} fits={fits} met={met} onMeet={take} />
        <Box component="ol" aria-label="Proposals" sx={{ m: 0, p: 0, flex: 1, minWidth: 0, listStyle: 'none' }}>
          {fits.map((fit, i) => {
            const isTaken = fit.a === met.a && fit.b === met.b;
            return (
              <li key={`${fit.a} ${fit.b}`}>
                <ButtonBase
                  disableRipple
                  aria-pressed={isTaken}
                  aria-label={`Proposal ${i + 1}: frame ${fit.a} to ${fit.b}, pose ${fit.poseCm.toFixed(1)}, slide ${fit.slideCm.toFixed(1)}, pop ${fit.popCm.toFixed(1)} cm`}
                  onClick={() => take(fit.a, fit.b, true, fit.frames)}
                  sx={{
                    display: 'block',
                    width: '100%',
                    textAlign: 'left',
                    px: 0.9,
                    py: 0.45,
                    fontFamily: 'inherit',
                    borderLeft: `3px solid ${isTaken ? chart('lamp') : 'transparent'}`,
                    bgcolor: isTaken ? chart('lampSoft') : 'transparent',
                    borderBottom: `1px solid ${chart('rule')}`,
                    '&:hover': { bgcolor: isTaken ? undefined : chart('card') },
                  }}
                >
                  <Typography variant="caption" component="div" noWrap sx={{ fontWeight: 700, lineHeight: 1.35 }}>
                    {i + 1} · {fit.a} → {fit.b}
                  </Typography>
                  <Typography variant="caption" component="div" color="text.secondary" noWrap sx={{ lineHeight: 1.35 }}>
                    pose {fit.poseCm.toFixed(1)} cm{fit.frames !== doc.pieces[index].into.frames && `, ${fit.frames} f`}
                  </Typography>
                  <Typography variant="caption" component="div" color="text.secondary" noWrap sx={{ lineHeight: 1.35 }}>
                    slide {fit.slideCm.toFixed(1)} · pop {fit.popCm.toFixed(1)}
                  </Typography>
                </ButtonBase>
              </li>
            );
          })}
          {fits.length === 0 && !isFetching && (
            <Typography variant="caption" color="text.secondary">
              {data && 'problem' in data ? data.problem : 'Nothing fits here.'}
            </Typography>
          )}
        </Box>
      </Box>
    </Box>
  );
}

/** Whether a pair of instants is on the map. */
const isOn = ({ rows, columns }: FitsAsked, { a, b }: { readonly a: number; readonly b: number }): boolean =>
  a >= rows[0] && a <= rows[1] && b >= columns[0] && b <= columns[1];

/** What is proposed lies within the map, not on its edge. */
const inside = ({ rows, columns }: FitsAsked): FitsAsked => {
  const within = ([from, to]: readonly [number, number]): readonly [number, number] => {
    const edge = Math.round(0.05 * (to - from));
    return [from + edge, to - edge];
  };
  return { rows: within(rows), columns: within(columns) };
};

/** What the map shows: the end of the one and the beginning of the other, or all of both, as far as there is motion. */
function windowOf(a: PieceRoom, b: PieceRoom, fps: number, isWide: boolean): FitsAsked {
  const beyond = (most: number) => Math.min(most, Math.round(0.5 * fps));
  const [back, on] = [Math.round(MAP_BACK * fps), Math.round(MAP_ON * fps)];
  const end = edits.endOf(a);
  const last = edits.endOf(b);
  if (isWide)
    return { rows: [a.from - beyond(a.before), end + beyond(a.after)], columns: [b.from - beyond(b.before), last + beyond(b.after)] };
  return {
    rows: [Math.max(a.from - beyond(a.before), end - back), end + Math.min(on, beyond(a.after))],
    columns: [b.from - Math.min(on, beyond(b.before)), Math.min(last + beyond(b.after), b.from + back)],
  };
}
