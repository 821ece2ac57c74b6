'use client';
import { LIMBS, partName, type FitOverrides, type FitReport, type Limb, type Placement, type StageProp } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { Small } from '@/controls/Small';
import { TypedNumber } from '@/controls/TypedNumber';
import { chart } from '@/controls/theme';
import { Choose, Label } from '@/controls/fields';
import { Offsets, Translations } from './KeptForAll';
import { LIMB_NAMES } from '../../controls/limb-names';

const AGAINST = { floor: 'the floor', hips: 'the hips', 'other-hand': 'the other hand', prop: 'a prop' } as const;
const FRESH: Placement = { weight: 0, to: 'floor', holds: [] };

/** How far the body goes, what hands and feet keep, and rotations that are added to every take of the pair. */
export function LimbsPanel({
  settings,
  legRatio,
  joints,
  props,
  report,
  onChange,
  onGo,
}: {
  settings: FitOverrides;
  legRatio: number;
  /** Joints of the character whose translation may come from the take. */
  joints: readonly string[];
  /** Of the take: what a limb may be placed against. */
  props: readonly StageProp[];
  report: FitReport | null;
  onChange: (settings: FitOverrides) => void;
  onGo: (frame: number) => void;
}) {
  return (
    <Box sx={{ height: '100%', overflow: 'auto', px: 1.5, py: 1 }}>
      <Whole settings={settings} legRatio={legRatio} onChange={onChange} />
      <Typography variant="h3" sx={{ mt: 1.2 }}>
        Placement weights
      </Typography>
      <Typography variant="body2" color="text.secondary">
        0 keeps the joint angles of the take, 1 its place.
      </Typography>
      {LIMBS.map((limb) => (
        <LimbRow
          key={limb}
          limb={limb}
          placement={settings.placement?.[limb] ?? FRESH}
          props={props}
          onChange={(placement) => onChange({ ...settings, placement: { ...settings.placement, [limb]: placement } })}
        />
      ))}
      <Offsets settings={settings} onChange={onChange} />
      <Translations settings={settings} joints={joints} onChange={onChange} />
      {report && report.limits.length > 0 && <Beyond report={report} onGo={onGo} />}
    </Box>
  );
}

/** What holds for the whole body: how far it goes, what bears, how much it gives way. */
function Whole({ settings, legRatio, onChange }: { settings: FitOverrides; legRatio: number; onChange: (settings: FitOverrides) => void }) {
  const travel = settings.travel ?? 'legs';
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', alignItems: 'center', columnGap: 1.5 }}>
      <Choose
        label="goes as far as"
        value={typeof travel === 'number' ? 'factor' : travel}
        options={{ legs: `its legs go (× ${legRatio.toFixed(3)})`, captured: 'captured', factor: 'a factor says' }}
        onChange={(next) => onChange({ ...settings, travel: next === 'factor' ? Number(legRatio.toFixed(2)) : next })}
      />
      {typeof travel === 'number' && (
        <>
          <Label>factor</Label>
          <TypedNumber
            name="Factor of travel"
            value={travel}
            least={0.05}
            most={20}
            step={0.05}
            onChange={(next) => onChange({ ...settings, travel: next })}
          />
        </>
      )}
      <Choose
        label="feet and hands that bear"
        value={settings.planted ?? 'held'}
        options={{ held: 'stay where they came down', free: 'go with the joints' }}
        onChange={(planted) => onChange({ ...settings, planted })}
      />
      <Choose
        label="hips, thighs and back"
        value={settings.seat ?? 'free'}
        options={{ free: 'where they come', out: 'out of the floor' }}
        onChange={(seat) => onChange({ ...settings, seat })}
      />
      <Label>soles higher by</Label>
      <TypedNumber
        name="Soles higher by, centimetres"
        unit="cm"
        value={settings.soleCm ?? 0}
        least={-20}
        most={20}
        step={0.5}
        digits={1}
        onChange={(soleCm) => onChange({ ...settings, soleCm })}
      />
      <Label>the body gives way by</Label>
      <TypedNumber
        name="Share that the body gives way"
        value={settings.give ?? 0.3}
        least={0}
        most={1}
        step={0.1}
        onChange={(give) => onChange({ ...settings, give })}
      />
      <Label>fingers not captured bend by</Label>
      <TypedNumber
        name="Bend of fingers, degrees"
        unit="°"
        value={settings.curlDeg ?? 18}
        least={-30}
        most={90}
        step={5}
        digits={0}
        onChange={(curlDeg) => onChange({ ...settings, curlDeg })}
      />
    </Box>
  );
}

/** The joints that the fit bends beyond what they do, the worst first. */
function Beyond({ report, onGo }: { report: FitReport; onGo: (frame: number) => void }) {
  return (
    <>
      <Typography variant="h3" sx={{ mt: 1.2 }}>
        Joints beyond what they do
      </Typography>
      {report.limits.slice(0, 5).map(({ part, degrees, frame }) => (
        <Box key={part} sx={{ display: 'flex', borderTop: `1px solid ${chart('rule')}`, alignItems: 'baseline' }}>
          <Typography variant="body2" sx={{ flex: 1 }}>
            ▲ {partName(part)}
          </Typography>
          <Typography variant="body2">by {degrees.toFixed(0)}°</Typography>
          <Small onClick={() => onGo(frame)}>at frame {frame}</Small>
        </Box>
      ))}
    </>
  );
}

const placeOf = (prop: StageProp | undefined): Placement['prop'] => prop && { x: prop.x, y: 0, z: prop.z };

function LimbRow({
  limb,
  placement,
  props,
  onChange,
}: {
  limb: Limb;
  placement: Placement;
  props: readonly StageProp[];
  onChange: (placement: Placement) => void;
}) {
  const isHand = limb.endsWith('Hand');
  const options: Readonly<Partial<Record<Placement['to'], string>>> = {
    floor: AGAINST.floor,
    hips: AGAINST.hips,
    ...(isHand && { 'other-hand': AGAINST['other-hand'] }),
    ...((props.length > 0 || placement.to === 'prop') && { prop: AGAINST.prop }),
  };
  return (
    <Box
      role="group"
      aria-label={LIMB_NAMES[limb]}
      sx={{
        display: 'grid',
        gridTemplateColumns: '84px 60px auto 1fr',
        alignItems: 'center',
        gap: 1,
        borderTop: `1px solid ${chart('rule')}`,
        py: 0.2,
      }}
    >
      <Typography variant="body2">{LIMB_NAMES[limb]}</Typography>
      <TypedNumber
        name={`Placement weight of the ${LIMB_NAMES[limb]}`}
        value={placement.weight}
        least={0}
        most={1}
        step={0.1}
        width={44}
        onChange={(weight) => onChange({ ...placement, weight })}
      />
      <Choose
        label="against"
        value={placement.to}
        options={options as Record<Placement['to'], string>}
        onChange={(to) => onChange({ ...placement, to, prop: to === 'prop' ? (placement.prop ?? placeOf(props[0])) : placement.prop })}
      />
      {placement.to === 'prop' && props.length > 0 && (
        <Box sx={{ gridColumn: '3 / -1', display: 'grid', gridTemplateColumns: 'auto 1fr' }}>
          <Choose
            label="prop"
            value={String(
              Math.max(
                0,
                props.findIndex(({ x, z }) => x === placement.prop?.x && z === placement.prop.z),
              ),
            )}
            options={Object.fromEntries(props.map(({ kind }, i) => [String(i), `${kind} ${i + 1}`]))}
            onChange={(i) => onChange({ ...placement, prop: placeOf(props[Number(i)]) })}
          />
        </Box>
      )}
    </Box>
  );
}
