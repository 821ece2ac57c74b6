'use client';
import { TOUCH_LIMBS, touchSchema, type Layer, type StageProp, type Touch, type TouchLimb, type TouchTarget } from '@lantern/motion';
import CloseIcon from '@mui/icons-material/Close';
import { Box, Menu, MenuItem, Switch, Typography } from '@mui/material';
import { useState } from 'react';
import { Choose, Label, Share } from '@/controls/fields';
import { Sign } from '@/controls/Sign';
import { Small } from '@/controls/Small';
import { TypedNumber } from '@/controls/TypedNumber';
import { chart } from '@/controls/theme';
import type { CorrectionsTools } from './corrections-context';

/** Seconds that a new touch lasts, and fades. */
const LASTS = 0.3;
const FADES = 0.2;

interface Props {
  readonly layer: Layer;
  readonly tools: CorrectionsTools | null;
  readonly onGo: (frame: number) => void;
  readonly onChange: (layer: Layer) => void;
}

/** Hands and feet that a layer brings to places: each with what it touches, when, and how the limb goes there. */
export function Touches({ layer, tools, onGo, onChange }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const put = (touches: readonly Touch[]) => onChange({ ...layer, touches: [...touches] });
  const add = async (limb: TouchLimb) => {
    setAnchor(null);
    if (!tools) return;
    const from = tools.frameNow();
    // It begins where it is, so that nothing jumps before a place is chosen.
    const at = await tools.place(limb, from);
    const fade = Math.round(FADES * tools.fps);
    const made = { limb, from, to: from + Math.round(LASTS * tools.fps), fadeIn: fade, fadeOut: fade };
    put([...layer.touches, touchSchema.parse({ ...made, target: at ? { to: 'place', at: rounded(at) } : { to: 'floor' } })]);
  };
  return (
    <Box sx={{ gridColumn: '1 / -1' }}>
      {layer.touches.map((touch, i) => (
        <TouchItem
          key={i}
          touch={touch}
          tools={tools}
          onGo={() => onGo(tools ? tools.clipFrame(touch.from) : touch.from)}
          onChange={(next) => put(layer.touches.map((own, j) => (j === i ? next : own)))}
          onRemove={() => put(layer.touches.filter((_, j) => j !== i))}
        />
      ))}
      {tools && (
        <Small name="Add a touch" onClick={(event) => setAnchor(event.currentTarget)}>
          + a touch
        </Small>
      )}
      <Menu
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => setAnchor(null)}
        slotProps={{ list: { 'aria-label': 'Limbs', dense: true } }}
      >
        {TOUCH_LIMBS.map((limb) => (
          <MenuItem key={limb} onClick={() => void add(limb)}>
            {limb}
          </MenuItem>
        ))}
      </Menu>
    </Box>
  );
}

const rounded = ([x, y, z]: readonly [number, number, number]): [number, number, number] =>
  [x, y, z].map((v) => Number(v.toFixed(4))) as [number, number, number];

interface ItemProps {
  readonly touch: Touch;
  readonly tools: CorrectionsTools | null;
  readonly onGo: () => void;
  readonly onChange: (touch: Touch) => void;
  readonly onRemove: () => void;
}

function TouchItem({ touch, tools, onGo, onChange, onRemove }: ItemProps) {
  const { limb, from, to, target } = touch;
  const places = placesFor(touch, tools?.props ?? [], tools?.joints ?? []);
  const choose = async (id: string) => {
    const chosen = places.find((place) => place.id === id);
    if (!chosen) return;
    const here = chosen.target ?? (await tools?.place(limb, from).then((at) => at && { to: 'place' as const, at: rounded(at) }));
    if (here) onChange({ ...touch, target: here });
  };
  const side = chart(limb.startsWith('left') ? 'port' : 'starboard');
  const isSurface = target.to === 'prop' || target.to === 'floor';
  return (
    <Box
      component="section"
      aria-label={`Touch of the ${limb} from frame ${from}`}
      sx={{
        display: 'grid',
        gridTemplateColumns: 'auto minmax(0, 1fr)',
        alignItems: 'center',
        columnGap: 1.5,
        borderTop: `1px solid ${chart('rule')}`,
        pt: 0.4,
        mt: 0.4,
      }}
    >
      <Box sx={{ gridColumn: '1 / -1', display: 'flex', alignItems: 'center', gap: 0.6 }}>
        <Box component="span" aria-hidden sx={{ color: side }}>
          {limb.startsWith('left') ? '●' : '◆'}
        </Box>
        <Typography variant="body2" sx={{ fontWeight: 700, flex: 1 }}>
          {limb}
        </Typography>
        <Small name={`Go to the touch of the ${limb}`} onClick={onGo}>
          frames {from}–{to}
        </Small>
        <Sign name={`Remove the touch of the ${limb}`} onClick={onRemove}>
          <CloseIcon />
        </Sign>
      </Box>
      <Choose
        label="to"
        value={placeId(target)}
        options={Object.fromEntries(places.map(({ id, words }) => [id, words]))}
        onChange={(id) => void choose(id)}
      />
      {target.to === 'place' && (
        <Triple
          label="at"
          unit="m"
          digits={3}
          value={target.at}
          names={['x', 'y', 'z']}
          most={1e4}
          onChange={(at) => onChange({ ...touch, target: { ...target, at } })}
        />
      )}
      {target.to === 'joint' && (
        <Triple
          label="beside it"
          unit="cm"
          digits={1}
          value={target.at.map((v) => v * 100) as [number, number, number]}
          names={['left', 'up', 'front']}
          most={1000}
          onChange={(at) => onChange({ ...touch, target: { ...target, at: at.map((v) => v / 100) as [number, number, number] } })}
        />
      )}
      {isSurface && (
        <>
          <Label>slides along it</Label>
          <Switch
            size="small"
            color="default"
            checked={touch.slide}
            onChange={(_, slide) => onChange({ ...touch, slide })}
            slotProps={{ input: { 'aria-label': `The ${limb} slides along it` } }}
            sx={{ justifySelf: 'end' }}
          />
          <Label>off it</Label>
          <TypedNumber
            name={`The ${limb} off it, centimetres`}
            unit="cm"
            value={touch.off * 100}
            least={0}
            most={100}
            digits={1}
            width={42}
            onChange={(off) => onChange({ ...touch, off: off / 100 })}
          />
        </>
      )}
      <Share
        label="weight"
        name={`Weight of the touch of the ${limb}`}
        value={touch.weight}
        onChange={(weight) => onChange({ ...touch, weight })}
      />
      <Share
        label="body gives way"
        name={`How much the body gives way for the ${limb}`}
        value={touch.give}
        onChange={(give) => onChange({ ...touch, give })}
      />
      <Label>{limb.endsWith('hand') ? 'elbow out' : 'knee out'}</Label>
      <TypedNumber
        name={`${limb.endsWith('hand') ? 'Elbow' : 'Knee'} out, degrees`}
        unit="°"
        value={touch.swivel}
        least={-180}
        most={180}
        digits={0}
        width={42}
        onChange={(swivel) => onChange({ ...touch, swivel })}
      />
    </Box>
  );
}

/** Three numbers beside each other. */
function Triple({
  label,
  unit,
  digits,
  value,
  names,
  most,
  onChange,
}: {
  label: string;
  unit: string;
  digits: number;
  value: readonly [number, number, number];
  names: readonly [string, string, string];
  most: number;
  onChange: (value: [number, number, number]) => void;
}) {
  return (
    <>
      <Label>{label}</Label>
      <Box sx={{ display: 'flex', justifyContent: 'flex-end', gap: 0.8 }}>
        {names.map((name, k) => (
          <TypedNumber
            key={name}
            name={`${label} ${name}, ${unit}`}
            unit={k === 2 ? unit : ''}
            value={value[k]}
            least={-most}
            most={most}
            digits={digits}
            width={46}
            onChange={(next) => onChange(value.map((own, i) => (i === k ? next : own)) as [number, number, number])}
          />
        ))}
      </Box>
    </>
  );
}

interface Place {
  readonly id: string;
  readonly words: string;
  /** Null: where the limb is. */
  readonly target: TouchTarget | null;
}

const placeId = (target: TouchTarget): string =>
  target.to === 'prop' ? `prop ${target.prop.id}` : target.to === 'joint' ? `joint ${target.joint}` : target.to;

/** Where a limb can be brought to; what it touches already is among them, though it may be gone. */
function placesFor({ target }: Touch, props: readonly StageProp[], joints: readonly string[]): Place[] {
  const own: Place[] = [
    { id: 'place', words: 'where it is now', target: null },
    { id: 'floor', words: 'the floor', target: { to: 'floor' } },
    ...props.map((prop): Place => ({ id: `prop ${prop.id}`, words: `the ${prop.kind}`, target: { to: 'prop', prop } })),
    ...joints.map((joint): Place => ({ id: `joint ${joint}`, words: `on ${joint}`, target: { to: 'joint', joint, at: [0, 0, 0] } })),
  ];
  const id = placeId(target);
  if (own.some((place) => place.id === id)) return own;
  const words =
    target.to === 'prop' ? `the ${target.prop.kind} that stood there` : target.to === 'joint' ? `${target.joint} (not there)` : id;
  return [...own, { id, words, target }];
}
