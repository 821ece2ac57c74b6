'use client';
'use no memo';
import { PLAY_BOUNDS, type Finding } from '@lantern/motion';
import type { Meter } from '@lantern/drive';
import { useState } from 'react';
import { Box, Button, LinearProgress, Typography } from '@mui/material';
import { DUSK } from '@/controls/theme';
import type { OpenPlay } from '@/data/play-view';
import { recordingOf, stopWeather, tryWeather, useWeather } from '@/data/weather';
import { mendOf } from './mends';
import { Word } from './TopBar';

interface Props {
  readonly play: OpenPlay;
  readonly set: string;
  readonly onOpen: (finding: Finding) => void;
  readonly onBench: (finding: Finding) => void;
}

const UNITS = { pop: 'cm', slide: 'cm', answer: 'frames', gap: 'cm' } as const;
const MINUTES = 10;

/** Rough weather: the set played unattended, and what was found. */
export function WeatherPanel({ play, set, onOpen, onBench }: Props) {
  const { key, weather: known, share, error } = useWeather();
  const weather = key === play.key ? known : null;
  const isUnderWay = share !== null && key === play.key;
  const [figure, setFigure] = useState<Meter>('pop');
  const recorded = recordingOf(set);
  const run = () => void tryWeather(play.key, play.asked, MINUTES, weather ? weather.seed + 1 : 1, recorded ? [recorded] : []);
  const shown = weather?.findings.filter((own) => own.figure === figure).slice(0, 12) ?? [];
  const overs = (of: Meter) => weather?.findings.filter((own) => own.figure === of && own.value > PLAY_BOUNDS[of]).length ?? 0;
  return (
    <Box
      component="section"
      aria-label="Rough weather"
      sx={{
        position: 'absolute',
        right: 14,
        top: 12,
        width: 334,
        maxHeight: 'calc(100% - 290px)',
        display: 'flex',
        flexDirection: 'column',
        bgcolor: 'rgba(14,29,33,0.86)',
        border: `1px solid ${DUSK.line}`,
        borderRadius: 1,
        color: DUSK.text,
        p: 1.4,
        minHeight: 0,
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Typography variant="h2" sx={{ flex: 1, color: 'inherit' }}>
          Rough weather
        </Typography>
        {isUnderWay ? (
          <Button variant="outlined" color="inherit" onClick={stopWeather}>
            Stop
          </Button>
        ) : (
          <Button variant="contained" onClick={run} disabled={!play.isReady} sx={{ fontWeight: 700 }}>
            {weather ? 'Try it again' : 'Try it'}
          </Button>
        )}
      </Box>
      {isUnderWay && <LinearProgress variant="determinate" value={100 * share} aria-label="Rough weather" sx={{ my: 0.8 }} />}
      {error && (
        <Typography variant="body2" role="alert">
          ▲ {error}
        </Typography>
      )}
      <Typography variant="body2" role="status" sx={{ color: 'inherit' }}>
        {weather
          ? `${weather.changes.toLocaleString('en').replace(/,/g, '\u2009')} changes tried, worst pop ${weather.worst.pop.toFixed(1)} cm, slide ${weather.worst.slide.toFixed(1)} cm`
          : isUnderWay
            ? `${Math.round(100 * share)} % of ten minutes`
            : 'Ten minutes of play by a restless hand, and every transition from every phase.'}
      </Typography>
      {weather && (
        <Box sx={{ display: 'flex', ml: -0.8 }} role="group" aria-label="Which figure">
          {(['pop', 'slide', 'answer', 'gap'] as const).map((own) => (
            <Word key={own} pressed={figure === own} onClick={() => setFigure(own)} name={`Findings of ${own}`}>
              {own} {overs(own) > 0 && `▲ ${overs(own)}`}
            </Word>
          ))}
        </Box>
      )}
      <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0, mt: 0.6, overflow: 'auto', minHeight: 0 }} aria-label="Findings">
        {shown.map((own, i) => (
          <Box
            component="li"
            key={i}
            sx={{
              borderTop: `1px solid rgba(111,169,165,0.45)`,
              py: 0.5,
              display: 'grid',
              gridTemplateColumns: '66px minmax(0, 1fr) auto',
              gap: 0.8,
              alignItems: 'center',
            }}
          >
            <Box
              component="button"
              onClick={() => onOpen(own)}
              aria-label={`See ${own.figure} ${own.value.toFixed(1)}, ${own.from} to ${own.to}`}
              sx={{
                gridColumn: '1 / 3',
                display: 'contents',
                border: 0,
                background: 'none',
                color: 'inherit',
                font: 'inherit',
                cursor: 'pointer',
              }}
            >
              <Box component="span" sx={{ textAlign: 'left', cursor: 'pointer' }} onClick={() => onOpen(own)}>
                <b>
                  {own.value > PLAY_BOUNDS[own.figure] && '▲ '}
                  {own.value.toFixed(own.figure === 'answer' ? 0 : 1)}
                </b>{' '}
                {UNITS[own.figure]}
              </Box>
              <Box
                component="span"
                sx={{ textAlign: 'left', cursor: 'pointer', lineHeight: 1.15, minWidth: 0 }}
                onClick={() => onOpen(own)}
              >
                <Typography component="span" variant="body2" noWrap sx={{ display: 'block', color: 'inherit', fontWeight: 600 }}>
                  {own.from ? `${own.from} to ${own.to}` : own.to}
                </Typography>
                <Typography component="span" variant="caption" noWrap sx={{ display: 'block', color: '#a9c4bf' }}>
                  {own.figure}
                  {own.answer && ` to ${own.answer === 'way' ? 'another way' : own.answer}`}
                  {own.joint && `, ${own.joint}`}
                  {!Number.isNaN(own.phase) && `, phase ${own.phase.toFixed(2)}`}
                </Typography>
                {own.value > PLAY_BOUNDS[own.figure] && (
                  <Typography component="span" variant="caption" sx={{ display: 'block', color: DUSK.warm, lineHeight: 1.1 }}>
                    {mendOf(own)}
                  </Typography>
                )}
              </Box>
            </Box>
            <Box
              component="button"
              onClick={() => onBench(own)}
              aria-label={`${own.clip} on the Bench`}
              sx={{
                border: 0,
                borderBottom: `1px solid ${DUSK.line}`,
                background: 'none',
                color: 'inherit',
                font: 'inherit',
                fontSize: 13.5,
                cursor: 'pointer',
                p: 0,
              }}
            >
              to the Bench
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
