'use client';
import type { Layer } from '@lantern/motion';
import AddIcon from '@mui/icons-material/Add';
import UpIcon from '@mui/icons-material/ArrowUpward';
import DownIcon from '@mui/icons-material/ArrowDownward';
import MergeIcon from '@mui/icons-material/CallMerge';
import CopyIcon from '@mui/icons-material/ContentCopy';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import { Box, Button, InputBase, Slider, Switch, Typography } from '@mui/material';
import { useContext, useState } from 'react';
import { Label } from '@/controls/fields';
import { Sign } from '@/controls/Sign';
import { Small } from '@/controls/Small';
import { StepCard } from '@/controls/StepCard';
import { TypedNumber } from '@/controls/TypedNumber';
import { chart } from '@/controls/theme';
import { useCorrecting } from '@/data/correcting';
import type { CardProps } from '../recipe/card-props';
import { Troubles } from '../recipe/Troubles';
import { CorrectionsContext } from './corrections-context';
import { freeLayerName, newLayer } from './layer-doc';
import { KeyNow } from './KeyNow';
import { LayerWeight } from './LayerWeight';
import { RangeTools } from './RangeTools';
import { Touches } from './Touches';

/** The layers, the lowest first: one of them is open, and what is done by hand goes into it. */
export function CorrectionsCard({ step, about, onChange }: CardProps<'corrections'>) {
  const tools = useContext(CorrectionsContext);
  const { layers } = step;
  const wanted = useCorrecting((state) => state.layer);
  const open = Math.min(wanted, layers.length - 1);
  const layer = layers[open];
  const put = (index: number, next: Layer) => onChange({ ...step, layers: layers.map((own, i) => (i === index ? next : own)) });
  const setOpen = (index: number) => useCorrecting.setState({ layer: index, isOn: true, range: null });
  return (
    <StepCard step={step} onChange={onChange}>
      <Box component="ul" aria-label="Layers, the lowest first" sx={{ gridColumn: '1 / -1', listStyle: 'none', m: 0, p: 0, mx: -0.8 }}>
        {layers.map((own, i) => (
          <LayerItem key={i} layer={own} isOpen={i === open} onOpen={() => setOpen(i)} onChange={(next) => put(i, next)} />
        ))}
      </Box>
      <Troubles of={about.measured?.steps[step.id]} />
      <LayerTools
        layers={layers}
        open={open}
        onChange={(next, at) => {
          onChange({ ...step, layers: [...next] });
          setOpen(at);
        }}
        onMerge={tools && open > 0 ? () => void tools.merge(open - 1, open).then(() => setOpen(open - 1)) : null}
      />
      {layer && (
        <>
          <OpenLayer key={`${open} ${layer.name}`} layer={layer} onChange={(next) => put(open, next)} />
          {tools && <LayerWeight tools={tools} layer={layer} onChange={(next) => put(open, next)} />}
          {tools && <RangeTools tools={tools} layer={layer} onChange={(next) => put(open, next)} onCopy={tools.copy} />}
          {tools && <KeyNow tools={tools} layer={layer} onChange={(next) => put(open, next)} />}
          <Touches layer={layer} tools={tools} onGo={about.onGo} onChange={(next) => put(open, next)} />
        </>
      )}
    </StepCard>
  );
}

interface ItemProps {
  readonly layer: Layer;
  readonly isOpen: boolean;
  readonly onOpen: () => void;
  readonly onChange: (layer: Layer) => void;
}

/** A layer: a click opens it, its weight is dragged, and it is muted. */
function LayerItem({ layer, isOpen, onOpen, onChange }: ItemProps) {
  const [dragged, setDragged] = useState<number | null>(null);
  const weight = typeof layer.weight === 'number' ? layer.weight : null;
  return (
    <Box
      component="li"
      sx={{
        display: 'grid',
        gridTemplateColumns: 'minmax(0, 1fr) 54px 44px auto',
        alignItems: 'center',
        columnGap: 1,
        pl: 0.8,
        pr: 0.3,
        borderLeft: `3px solid ${isOpen ? chart('lamp') : 'transparent'}`,
        bgcolor: isOpen ? chart('lampSoft') : undefined,
        opacity: layer.muted ? 0.65 : 1,
      }}
    >
      <Button
        color="inherit"
        onClick={onOpen}
        aria-pressed={isOpen}
        aria-label={`Open layer ${layer.name}`}
        sx={{ justifyContent: 'flex-start', minWidth: 0, px: 0.2, py: 0.1, fontWeight: isOpen ? 700 : 400 }}
      >
        <Typography variant="body2" noWrap sx={{ fontWeight: 'inherit' }}>
          {layer.name}
          {layer.alone ? ' (alone)' : ''}
        </Typography>
      </Button>
      {weight === null ? (
        <Typography variant="body2" color="text.secondary" sx={{ gridColumn: 'span 2', textAlign: 'right' }}>
          keyed
        </Typography>
      ) : (
        <>
          <Slider
            size="small"
            min={0}
            max={1}
            step={0.05}
            value={dragged ?? weight}
            aria-label={`Weight of ${layer.name}`}
            getAriaValueText={(v) => `${Math.round(v * 100)} %`}
            onChange={(_, v) => setDragged(v)}
            onChangeCommitted={(_, v) => {
              setDragged(null);
              onChange({ ...layer, weight: v });
            }}
            sx={{ color: chart('ink'), py: 0.6 }}
          />
          <Typography variant="body2" sx={{ textAlign: 'right' }}>
            {Math.round((dragged ?? weight) * 100)} %
          </Typography>
        </>
      )}
      <Small
        name={layer.muted ? `Let ${layer.name} be done` : `Mute ${layer.name}`}
        onClick={() => onChange({ ...layer, muted: !layer.muted })}
      >
        {layer.muted ? 'muted' : 'mute'}
      </Small>
    </Box>
  );
}

interface ToolsProps {
  readonly layers: readonly Layer[];
  readonly open: number;
  readonly onChange: (layers: readonly Layer[], open: number) => void;
  readonly onMerge: (() => void) | null;
}

/** What is done with layers as a whole. */
function LayerTools({ layers, open, onChange, onMerge }: ToolsProps) {
  const swap = (by: -1 | 1) => {
    const next = [...layers];
    [next[open], next[open + by]] = [next[open + by], next[open]];
    onChange(next, open + by);
  };
  const own = layers[open];
  return (
    <Box role="toolbar" aria-label="Layers" sx={{ gridColumn: '1 / -1', display: 'flex', alignItems: 'center', gap: 0.3, py: 0.3 }}>
      <Sign
        name="Add a layer"
        onClick={() => onChange([...layers, newLayer(freeLayerName(layers, `layer ${layers.length + 1}`))], layers.length)}
      >
        <AddIcon />
      </Sign>
      <Sign
        name="Duplicate the layer"
        disabled={!own}
        onClick={() =>
          onChange([...layers.slice(0, open + 1), { ...own, name: freeLayerName(layers, own.name) }, ...layers.slice(open + 1)], open + 1)
        }
      >
        <CopyIcon />
      </Sign>
      <Sign name="Do the layer earlier" disabled={open <= 0} onClick={() => swap(-1)}>
        <UpIcon />
      </Sign>
      <Sign name="Do the layer later" disabled={open < 0 || open >= layers.length - 1} onClick={() => swap(1)}>
        <DownIcon />
      </Sign>
      <Sign name="Merge the layer with the one before it" disabled={!onMerge} onClick={() => onMerge?.()}>
        <MergeIcon />
      </Sign>
      <Box sx={{ flex: 1 }} />
      <Sign
        name="Remove the layer"
        disabled={!own}
        onClick={() =>
          onChange(
            layers.filter((_, i) => i !== open),
            Math.max(0, open - 1),
          )
        }
      >
        <DeleteIcon />
      </Sign>
    </Box>
  );
}

const FRAMES = { least: 0, most: 10_000, digits: 0, width: 36 } as const;

/** Name, fades and habits of the open layer. */
function OpenLayer({ layer, onChange }: { layer: Layer; onChange: (layer: Layer) => void }) {
  const [name, setName] = useState(layer.name);
  const keep = () =>
    name.trim() === '' ? setName(layer.name) : name.trim() !== layer.name && onChange({ ...layer, name: name.trim().slice(0, 60) });
  return (
    <>
      <Label>name</Label>
      <InputBase
        value={name}
        onChange={(event) => setName(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && event.target instanceof HTMLElement) event.target.blur();
          if (event.key === 'Escape') setName(layer.name);
        }}
        inputProps={{ 'aria-label': 'Name of the layer', maxLength: 60 }}
        sx={{ fontSize: '0.9rem', '& input': { p: 0, textAlign: 'right' } }}
      />
      {layer.keys.length > 0 && (
        <>
          <Label>{layer.hold ? 'fades' : 'fades in, out'}</Label>
          <Box sx={{ display: 'flex', justifyContent: 'flex-end', alignItems: 'center', gap: 0.8 }}>
            {!layer.hold && (
              <>
                <TypedNumber
                  {...FRAMES}
                  name="Frames to fade in"
                  value={layer.fadeIn}
                  onChange={(fadeIn) => onChange({ ...layer, fadeIn })}
                />
                <TypedNumber
                  {...FRAMES}
                  name="Frames to fade out"
                  unit="frames"
                  value={layer.fadeOut}
                  onChange={(fadeOut) => onChange({ ...layer, fadeOut })}
                />
              </>
            )}
            <Small
              name={layer.hold ? 'Fade outside of the keys' : 'Hold to the ends of the clip'}
              onClick={() => onChange({ ...layer, hold: !layer.hold })}
            >
              {layer.hold ? 'none: held' : 'hold'}
            </Small>
          </Box>
        </>
      )}
      <Label>feet stay</Label>
      <Box sx={{ display: 'flex', justifyContent: 'flex-end', alignItems: 'center' }}>
        <Switch
          size="small"
          color="default"
          checked={layer.feet}
          onChange={(_, feet) => onChange({ ...layer, feet })}
          slotProps={{ input: { 'aria-label': 'Feet stay when the hips are moved' } }}
        />
        <Small
          name={layer.alone ? 'Do the other layers too' : 'Do this layer alone'}
          onClick={() => onChange({ ...layer, alone: !layer.alone })}
        >
          {layer.alone ? 'alone' : 'with the others'}
        </Small>
      </Box>
    </>
  );
}
