'use client';
import { layerCourse, pegsOf, PER_KEY, withKey, withoutPeg, type Layer } from '@lantern/motion';
import { Box, MenuItem, Select, Typography } from '@mui/material';
import { Label } from '@/controls/fields';
import { Small } from '@/controls/Small';
import { TypedNumber } from '@/controls/TypedNumber';
import { useCorrecting } from '@/data/correcting';
import { usePlayer } from '@/data/player';
import type { CorrectionsTools } from './corrections-context';
import { withOtherSide } from './layer-doc';

const TURNS = [
  ['x', 'About the line to the left'],
  ['y', 'About the line upwards'],
  ['z', 'About the line to the front'],
] as const;
const SHIFTS = [
  ['left', 'To the left'],
  ['up', 'Upwards'],
  ['front', 'To the front'],
] as const;

/** What the open layer does to the joint that is taken hold of, at the playhead: typed as numbers, laid as a key. */
export function KeyNow({ tools, layer, onChange }: { tools: CorrectionsTools; layer: Layer; onChange: (layer: Layer) => void }) {
  const frame = usePlayer(tools.frameNow);
  const name = useCorrecting((state) => state.joint);
  const { joints, cycle } = tools;
  const joint = name !== null && joints.includes(name) ? name : null;
  const asked = new Array<number>(PER_KEY).fill(0);
  if (joint) layerCourse(layer, cycle).full(joint, frame, asked);
  const put = (k: number, value: number) => {
    if (!joint) return;
    const next = asked.map((own, i) => (i === k ? value : own));
    const [x, y, z, left, up, front] = next;
    const shift =
      joint === joints[0] && (left !== 0 || up !== 0 || front !== 0) ? { shift: [left, up, front] as [number, number, number] } : {};
    onChange(withKey(layer, { frame, joint, turn: [x, y, z], ...shift }));
  };
  const here = layer.keys.filter((key) => key.frame === frame);
  return (
    <>
      <Label>joint</Label>
      <Select
        variant="standard"
        disableUnderline
        displayEmpty
        value={joint ?? ''}
        onChange={(event) => useCorrecting.setState({ joint: event.target.value || null })}
        inputProps={{ 'aria-label': 'Joint that is corrected' }}
        sx={{ fontSize: '0.9rem', justifySelf: 'end', maxWidth: '100%', '& .MuiSelect-select': { py: 0.1 } }}
      >
        <MenuItem value="" dense>
          none: pick one on the stage
        </MenuItem>
        {joints.map((own) => (
          <MenuItem key={own} value={own} dense>
            {own}
          </MenuItem>
        ))}
      </Select>
      {joint && (
        <>
          <Label>turned</Label>
          <Box sx={{ display: 'flex', justifyContent: 'flex-end', gap: 1 }}>
            {TURNS.map(([letter, words], k) => (
              <TypedNumber
                key={letter}
                name={`${words}, degrees`}
                unit="°"
                value={asked[k]}
                least={-360}
                most={360}
                digits={1}
                width={42}
                onChange={(value) => put(k, value)}
              />
            ))}
          </Box>
          {joint === joints[0] && (
            <>
              <Label>shifted</Label>
              <Box sx={{ display: 'flex', justifyContent: 'flex-end', gap: 1 }}>
                {SHIFTS.map(([letter, words], k) => (
                  <TypedNumber
                    key={letter}
                    name={`${words}, centimetres`}
                    unit={k === 2 ? 'cm' : ''}
                    value={asked[3 + k] * 100}
                    least={-1000}
                    most={1000}
                    digits={1}
                    width={42}
                    onChange={(value) => put(3 + k, value / 100)}
                  />
                ))}
              </Box>
            </>
          )}
        </>
      )}
      <Box sx={{ gridColumn: '1 / -1', display: 'flex', alignItems: 'center', flexWrap: 'wrap', columnGap: 0.4 }}>
        <Typography variant="body2" color="text.secondary" noWrap sx={{ flex: 1, minWidth: 0 }}>
          {here.length > 0 ? `a peg here, at ${frame}` : `no peg at ${frame}`}
        </Typography>
        {here.length > 0 ? (
          <>
            <Small name="Lay the keys of this peg on the other side too" onClick={() => onChange(withOtherSide(layer, frame, joints))}>
              the other side too
            </Small>
            <Small name="Take this peg out" onClick={() => onChange(withoutPeg(layer, frame))}>
              take out
            </Small>
          </>
        ) : (
          (joint !== null || pegsOf(layer).length > 0) && (
            <Small name={`Set a peg at frame ${frame}`} onClick={tools.peg}>
              set a peg
            </Small>
          )
        )}
      </Box>
    </>
  );
}
