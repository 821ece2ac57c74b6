'use client';
import { Box, Button, Typography } from '@mui/material';
import { Sketch } from '@/controls/Sketch';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import type { DeskShotsState } from './use-desk-shots';
import type { Suit } from './use-suit';

/** The shot list beside the countdown: what the performer does next, and what the take that has just landed fulfils. */
export function DeskShots({ desk, shots: { doc, shots, next, choose, landed } }: { desk: Suit; shots: DeskShotsState }) {
  if (!doc || shots.length === 0) return null;
  const isRecording = desk.status?.phase === 'recording' || desk.status?.phase === 'countdown';
  const open = shots.filter(({ done }) => !done);
  const after = next ? open[(open.findIndex(({ id }) => id === next.id) + 1) % open.length] : null;
  const script = next?.script;
  return (
    <Box
      component="section"
      aria-label="Shots"
      sx={{
        position: 'absolute',
        right: 12,
        top: 44,
        width: 316,
        bgcolor: chart('card'),
        color: 'text.primary',
        borderRadius: 1,
        p: 1.4,
        display: 'grid',
        gap: 0.6,
      }}
    >
      <Typography variant="caption" color="text.secondary">
        {doc.name}: {shots.length - open.length} of {shots.length} shots have come in
      </Typography>
      {next ? (
        <>
          <Typography sx={{ fontSize: '1.12rem', lineHeight: 1.2, fontWeight: 700 }}>
            {next.number}. {next.text}
          </Typography>
          {next.sketch && <Sketch sketch={next.sketch} width={286} height={46} />}
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
            <Button
              variant="outlined"
              color="inherit"
              disabled={!script || isRecording || desk.suit === null}
              onClick={() =>
                script &&
                desk.change({
                  script: script.script as Suit['settings']['script'],
                  seconds: script.seconds,
                  speed: script.speedMps ?? null,
                })
              }
            >
              {script ? 'the performer does this' : 'the suit has no script for it'}
            </Button>
            {after && after.id !== next.id && (
              <Small name={`Go on to shot ${after.number}`} onClick={() => choose(after.id)}>
                next shot
              </Small>
            )}
          </Box>
        </>
      ) : (
        <Typography>All shots have come in.</Typography>
      )}
      {landed && (
        <Box role="status" sx={{ borderTop: `1px solid ${chart('rule')}`, pt: 0.6 }}>
          <Typography variant="body2">
            {landed.isBusy
              ? `Measuring “${landed.take}”`
              : landed.offers.length === 0
                ? `“${landed.take}” fulfils no shot that is still open.`
                : `“${landed.take}” fulfils ${landed.offers.length === 1 ? 'one shot' : `${landed.offers.length} shots`}:`}
          </Typography>
          {landed.offers.map(({ id, name, traits: { figures, kind, turnDeg, speedMps } }) => (
            <Typography key={id} variant="body2">
              ✓ <b>{name}</b>, {kind === 'turn' ? `${turnDeg.toFixed(0)}°` : `${speedMps.toFixed(2)} m/s`}, slide{' '}
              {figures.slideCm.toFixed(2)} cm
              {figures.loop && `, tick ${figures.tick.toFixed(1)}`}
            </Typography>
          ))}
        </Box>
      )}
    </Box>
  );
}
