import { InputError, type Warning } from '../error';
import { writeBvh } from '../formats/bvh-write';
import type { Cast, Character } from '../character/character';
import { writeCharacterGlb } from '../character/character-write';
import { withoutBody, withPlainBody } from '../character/file-body';
import { writeGlb } from '../character/glb-write';
import { openGltf } from '../formats/gltf-container';
import { nodeParents } from '../formats/gltf-joints';
import { worldMotion } from '../model/clip';
import type { BlendField } from '../set/field-schema';
import { onHips } from '../set/play-clip';
import type { LocomotionSet } from '../set/schema';
import { uprightZ } from './axes';
import { BASE_POSE, differenceName, withDifferences } from './differences';
import { fileFacts, type FiledClip } from './file-facts';
import { guarantees, type FileFacts, type Guarantee } from './guarantees';
import { rootOfGlb, setManifest, type FiledIn } from './manifest';
import type { Manifest } from './manifest-schema';
import type { NamedShipped } from './named-clip';
import type { ShipOptions } from './options';
import type { MadeFile } from './report';
import { targetName, withTargets } from './targets';
import { travelCsv } from './travel-csv';
import { writtenClip } from './written-clip';
import type { JointsInFile } from './written-poses';

/** What is put into files. */
export interface Shipment {
  readonly ship: ShipOptions;
  readonly clips: readonly NamedShipped[];
  readonly cast: Cast;
  readonly sets: readonly LocomotionSet[];
  readonly fields: readonly BlendField[];
}

export interface Packed {
  /** The GLB that each clip is in, by its name. */
  readonly fileOf: ReadonlyMap<string, string>;
  readonly guarantees: readonly Guarantee[];
  readonly warnings: readonly Warning[];
}

/** Errors and warnings of a validator of glTF, in words. */
export type Validate = (bytes: Uint8Array) => Promise<readonly string[]>;

/**
 * Writes the files of a shipment one after the other, so that no more of them than one is held, and checks what was written.
 *
 * @param write is given each file; the same bytes for the same clips
 * @param breathe is waited for again and again while much is checked at once
 */
export async function packShipment(
  shipment: Shipment,
  write: (file: MadeFile) => void | Promise<void>,
  validate?: Validate,
  breathe?: () => void | Promise<void>,
): Promise<Packed> {
  const { ship, clips, cast } = shipment;
  const folder = ship.glb.replace(/[^/]*$/, '');
  const several = new Set(clips.map(({ character }) => character)).size > 1;
  const folderOf = (character: string | null): string => (several && character !== null ? `${folder}${safeName(character)}/` : folder);
  const whole = ship.glb.slice(folder.length);
  const fileOf = new Map(
    clips.map(({ name, character }) => [name, `${folderOf(character)}${ship.oneFilePerClip ? `${ship.prefix}${name}.glb` : whole}`]),
  );
  const bodies = new Map<string, Character>();
  const bodyOf = (id: string | null): Character | undefined => {
    const own = id === null ? undefined : cast.get(id);
    if (!own || id === null) return undefined;
    const known = bodies.get(id) ?? (ship.body === 'plain' ? withPlainBody(own) : ship.body === 'without' ? withoutBody(own) : own);
    bodies.set(id, known);
    return known;
  };
  const facts: FileFacts[] = [];
  const warnings: Warning[] = [];
  /** Of each character the first file, which its manifest goes by. */
  const firsts = new Map<string | null, FiledIn & { readonly path: string; readonly differences: Manifest['differences'] }>();
  const encode = new TextEncoder();
  for (const path of new Set(fileOf.values())) {
    const own = clips.filter(({ name }) => fileOf.get(name) === path);
    const { character: owner } = own[0];
    const made = await glbOf(own, shipment, bodyOf(owner));
    facts.push(await fileFacts(made.bytes, { path, owner: owner ?? '', options: ship, validate, breathe, ...made }));
    warnings.push(...made.warnings.map((warning) => ({ ...warning, message: `${path}: ${warning.message}` })));
    await write({ path, bytes: made.bytes });
    const root = rootOfGlb(made.bytes, onHips(own[0].shipped.clip.motion).skeleton.joints[0].name);
    if (!firsts.has(owner) && root !== null)
      firsts.set(owner, { path, file: path.replace(/^.*\//, ''), bytes: made.bytes, root, differences: made.differences });
  }
  for (const { name, character, shipped } of clips) {
    const base = `${folderOf(character)}clips/${ship.prefix}${name}`;
    if (ship.bvh) {
      const world = worldMotion(shipped.clip);
      const text = writeBvh(ship.bvhUp === '+z' ? uprightZ(world) : world, { unitsPerMetre: ship.bvhUnit === 'm' ? 1 : 100 });
      await write({ path: `${base}.bvh`, bytes: encode.encode(text) });
    }
    // Where the root stays, its way is nowhere else.
    if (ship.csv || ship.rootMotion === 'table') await write({ path: `${base}.travel.csv`, bytes: encode.encode(travelCsv(shipped.clip)) });
  }
  const taken = new Set<string>();
  for (const set of ship.manifest ? shipment.sets : []) {
    const own = clips.filter(
      ({ name, character, shipped }) => character === set.character && !shipped.meets && !set.without.includes(name),
    );
    if (own.length === 0) continue;
    const filed = firsts.get(set.character);
    if (!filed) {
      const file = fileOf.get(own[0].name) ?? '';
      warnings.push({
        code: 'manifest',
        message: `Set "${set.name}" has no manifest: in ${file} no joint over the hips carries the travel.`,
      });
      continue;
    }
    const manifest = manifestOf(set, own, shipment, filed, fileOf);
    if (manifest instanceof InputError) {
      warnings.push({ code: 'manifest', message: `Set "${set.name}" has no manifest: ${manifest.message}` });
      continue;
    }
    const path = (ship.oneFilePerClip ? `${folderOf(set.character)}${whole}` : filed.path).replace(/\.glb$/i, '.lantern.json');
    // A second set of the same character is told apart by its name.
    const free = taken.has(path) ? path.replace(/\.lantern\.json$/, `-${safeName(set.name)}.lantern.json`) : path;
    taken.add(free);
    await write({ path: free, bytes: encode.encode(`${JSON.stringify(manifest, null, 1)}\n`) });
  }
  return { fileOf, guarantees: guarantees(facts), warnings };
}

/** What a file name can have in it. */
export const safeName = (name: string): string => name.replace(/[^\p{L}\p{N}_-]+/gu, '-');

interface WrittenGlb {
  readonly bytes: Uint8Array;
  readonly clips: readonly FiledClip[];
  readonly joints: JointsInFile;
  readonly root: number | null;
  readonly differences: Manifest['differences'];
  readonly warnings: readonly Warning[];
}

/** A GLB of clips of one character. */
async function glbOf(own: readonly NamedShipped[], { ship }: Shipment, character: Character | undefined): Promise<WrittenGlb> {
  const clips = own.map(({ name, shipped: { clip } }): FiledClip => ({
    name: `${ship.prefix}${name}`,
    // What stays in the table is not in the file.
    clip: ship.rootMotion === 'table' && clip.travel ? { ...clip, travel: null } : clip,
    written: writtenClip(clip, ship),
  }));
  const named = clips.map(({ name, written: { cycle, ...clip } }) => ({ name, clip, cycle }));
  let bytes = character ? writeCharacterGlb(named, character) : await writeGlb(named, { body: ship.body !== 'without' });
  const { json } = openGltf(bytes);
  const { joints } = clips[0].clip.motion.skeleton;
  const placed: JointsInFile = character
    ? { nodes: character.nodes.of, turn: character.nodes.turn, metresPerUnit: character.nodes.metresPerUnit }
    : { nodes: joints.map((joint) => json.nodes.findIndex(({ name }) => name === joint.name)), turn: [0, 0, 0, 1], metresPerUnit: 1 };
  const root = character ? character.nodes.root : (nodeParents(json)[placed.nodes[0]] ?? null);
  const warnings: Warning[] = [];
  if (ship.targets && root === null)
    warnings.push({ code: 'targets', message: 'There are no targets: nothing over the hips carries the travel.' });
  else if (ship.targets && root !== null) bytes = withTargets(bytes, clips, placed, root);
  const asked = ship.differences;
  const base = asked && own.find(({ name }) => name === asked.clip)?.shipped.clip;
  let differences: Manifest['differences'];
  if (asked && base) {
    const wanted = asked.of.filter((name) => own.some((each) => each.name === name));
    const of = wanted.map((clip) => ({ clip, animation: `${ship.prefix}${clip}` }));
    const seconds = Math.min(asked.frame, base.motion.frames - 1) / base.motion.fps;
    bytes = withDifferences(
      bytes,
      ship.prefix,
      { animation: `${ship.prefix}${asked.clip}`, seconds },
      of.map(({ animation }) => animation),
    );
    differences = {
      base: `${ship.prefix}${BASE_POSE}`,
      clips: of.map(({ clip, animation }) => ({ clip, animation: differenceName(animation) })),
    };
  } else if (asked && own.some(({ name }) => asked.of.includes(name)))
    warnings.push({
      code: 'differences',
      message: `There are no differences: “${asked.clip}”, whose pose they would be over, is not in the file.`,
    });
  return { bytes, clips, joints: placed, root, differences, warnings };
}

function manifestOf(
  set: LocomotionSet,
  own: readonly NamedShipped[],
  { ship, fields }: Shipment,
  filed: FiledIn & { readonly path: string; readonly differences: Manifest['differences'] },
  fileOf: ReadonlyMap<string, string>,
): Manifest | InputError {
  try {
    const manifest = setManifest(set, own, fields, filed, ship, (name) => ({
      animation: `${ship.prefix}${name}`,
      file: (fileOf.get(name) ?? '').replace(/^.*\//, ''),
    }));
    const targets = (side: 'left' | 'right') =>
      ship.targets
        ? { footTarget: targetName(side, 'foot'), ...(manifest.joints[side].hand !== null && { handTarget: targetName(side, 'hand') }) }
        : {};
    const { joints } = manifest;
    return {
      ...manifest,
      joints: { ...joints, left: { ...joints.left, ...targets('left') }, right: { ...joints.right, ...targets('right') } },
      ...(filed.differences && { differences: filed.differences }),
    };
  } catch (error) {
    if (error instanceof InputError) return error;
    throw error;
  }
}
