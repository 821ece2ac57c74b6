'use client';
import { Box, ButtonBase, Typography } from '@mui/material';
import { chart } from '@/controls/theme';
import type { Axis } from '@/timeline/axis-window';
import { faultOf } from './bounds';
import * as edits from './join-edits';
import { PLAQUE, type JoinRows } from './rows';
import { overlapOf } from './silhouette';
import type { Joinery } from './use-joinery';

const WIDTH = 132;

/** A plaque under every crossing: by what the two were lined up, how long they overlap, and how good that is; one that is out of bounds says what to do. */
export function Plaques({ joinery, axis, rows }: { joinery: Joinery; axis: Axis; rows: JoinRows }) {
  const { doc, laid, view, chosen, setChosen, edit } = joinery;
  if (!doc) return null;
  const { x, window, span } = axis;
  const places = laid.placed.flatMap((placed, i) => {
    if (i === 0) return [];
    const { from, to } = overlapOf(laid.placed[i - 1], placed, doc.pieces[i].into);
    const at = x((from + to) / 2);
    return at > x(window.from) - 4 && at < x(window.to) + 4 ? [{ i, at }] : [];
  });
  // Where there is no room they say less.
  const width = Math.min(WIDTH, ...places.slice(1).map(({ at }, k) => at - places[k].at - 6));
  const isNarrow = width < 96;
  const isTiny = width < 52;
  return (
    <>
      {places.map(({ i, at }) => {
        const piece = doc.pieces[i];
        const id = piece.id ?? '';
        const meet = view?.meets[i - 1];
        const isChosen = chosen?.kind === 'meet' && chosen.id === id;
        const fault = meet ? faultOf(meet, piece.into) : null;
        const own = Math.max(isTiny ? 30 : isNarrow ? 52 : 96, width);
        const left = Math.min(x(window.from) + span - own, Math.max(x(window.from), at - own / 2));
        return (
          <Box
            key={id}
            sx={{
              position: 'absolute',
              left,
              top: rows.plaques,
              width: own,
              minHeight: PLAQUE - 10,
              borderRadius: 1,
              border: `1px solid ${chart(isChosen ? 'lamp' : fault ? 'ink' : 'rule')}`,
              bgcolor: chart(isChosen ? 'lampSoft' : 'card'),
              backgroundImage: fault ? `repeating-linear-gradient(135deg, transparent 0 5px, ${chart('rule')} 5px 6px)` : 'none',
              zIndex: isChosen ? 2 : 1,
            }}
          >
            <ButtonBase
              disableRipple
              aria-label={`Join ${i}: ${meet ? `${meet.by}, ${piece.into.frames} frames, slide ${meet.slideCm.toFixed(1)} cm, pop ${meet.popCm.toFixed(1)} cm` : 'being worked out'}`}
              aria-pressed={isChosen}
              onClick={() => setChosen({ kind: 'meet', id })}
              sx={{ display: 'block', width: '100%', textAlign: 'left', px: 0.8, py: 0.3, fontFamily: 'inherit' }}
            >
              {isNarrow ? (
                <Typography variant="caption" noWrap component="div" sx={{ lineHeight: 1.35, fontWeight: 500 }}>
                  {!isTiny && <FootMark by={meet?.by} />} {fault ? '▲' : ''}
                  {piece.into.frames}
                  {!isTiny && ' f'}
                  {!isTiny && meet && <div>{meet.slideCm.toFixed(1)} cm</div>}
                </Typography>
              ) : (
                <>
                  <Typography
                    variant="caption"
                    noWrap
                    sx={{ display: 'flex', alignItems: 'center', gap: 0.6, lineHeight: 1.35, fontWeight: isChosen ? 700 : 500 }}
                  >
                    <FootMark by={meet?.by} />
                    {meet ? `${meet.by} · ` : ''}
                    {piece.into.frames === 0 ? 'cut' : `${piece.into.frames} f`}
                  </Typography>
                  <Typography variant="caption" noWrap={!fault} component="div" sx={{ lineHeight: 1.25, fontWeight: fault ? 700 : 400 }}>
                    {!meet
                      ? '…'
                      : fault
                        ? `▲ ${fault.says}`
                        : `slide ${meet.slideCm.toFixed(1)}, pop ${meet.popCm.toFixed(1)}${own > 124 ? ' cm' : ''}`}
                  </Typography>
                </>
              )}
            </ButtonBase>
            {fault && !isNarrow && (
              <ButtonBase
                disableRipple
                onClick={() => {
                  setChosen({ kind: 'meet', id });
                  if (fault.change) edit(edits.changeInto(doc, id, fault.change));
                }}
                sx={{ px: 0.8, pb: 0.3, fontFamily: 'inherit', fontSize: 12.5, fontWeight: 700, color: chart('lampText') }}
              >
                {fault.todo}
              </ButtonBase>
            )}
          </Box>
        );
      })}
    </>
  );
}

/** Round and port for the left foot, a starboard diamond for the right, a ring for the hips. */
export function FootMark({ by }: { by: string | undefined }) {
  if (!by) return null;
  const side = by.startsWith('left') ? 'left' : by.startsWith('right') ? 'right' : null;
  return (
    <Box component="svg" aria-hidden viewBox="-6 -6 12 12" sx={{ width: 11, height: 11, flexShrink: 0 }}>
      {side === 'left' && <circle r={4.5} fill={chart('port')} />}
      {side === 'right' && <path d="M0 -5.5l5 5.5l-5 5.5l-5 -5.5z" fill={chart('starboard')} />}
      {side === null && <circle r={4} fill="none" stroke={chart('ink')} strokeWidth={1.6} />}
    </Box>
  );
}
