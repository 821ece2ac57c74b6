import { characterIn, readCharacter, type BodyMesh, type Character, type RecipeStep } from '@lantern/motion';
import { digest } from './kept-clips';

/** The characters of each project that have been opened, by what recipes call them. */
const casts = new Map<string, Map<string, Character>>();
const opening = new Map<string, Promise<Character>>();
/** What gives a digest of the file that a character was read from; worked out when it is first asked for. */
const fingerprints = new WeakMap<Character, () => Promise<string>>();

export function castOf(project: string): Map<string, Character> {
  const known = casts.get(project) ?? new Map<string, Character>();
  casts.set(project, known);
  return known;
}

/** A character of a project, its file fetched and read once. */
export function openCharacter(project: string, id: string): Promise<Character> {
  const key = `${project}/${id}`;
  const running = opening.get(key) ?? load(project, id);
  opening.set(key, running);
  running.catch(() => opening.delete(key));
  return running;
}

async function load(project: string, id: string): Promise<Character> {
  const response = await fetch(`/api/projects/${project}/characters/${encodeURIComponent(id)}/file`);
  if (!response.ok) throw new Error(`The character “${id}” could not be loaded.`);
  const file = await response.arrayBuffer();
  const character = readCharacter(new Uint8Array(file), id);
  let known: Promise<string> | undefined;
  fingerprints.set(character, () => (known ??= digest(file)));
  castOf(project).set(id, character);
  return character;
}

/** Opens whom a recipe fits its clip to, so that it can be run. */
export async function openCastOf(project: string, steps: readonly RecipeStep[]): Promise<void> {
  const id = characterIn(steps);
  // One that is missing is said by the recipe itself.
  if (id !== null) await openCharacter(project, id).catch(() => {});
}

/** Whom a recipe fits its clip to, as a digest of the file; null for nobody, or one that is not open. */
export async function fingerprintOf(project: string, steps: readonly RecipeStep[]): Promise<string | null> {
  const id = characterIn(steps);
  const character = id === null ? undefined : castOf(project).get(id);
  const known = character && fingerprints.get(character);
  return known ? known() : null;
}

/** A character's skin as the stage draws it. */
export function skinMesh({ skin }: Character): BodyMesh {
  const { positions, normals, colours, joints, weights, bindPositions, bindRotations } = skin;
  const strongest = new Uint16Array(joints.length / 4);
  for (let v = 0; v < strongest.length; v++) {
    let best = v * 4;
    for (let i = v * 4; i < v * 4 + 4; i++) if (weights[i] > weights[best]) best = i;
    strongest[v] = joints[best];
  }
  return { positions, normals, indices: skin.indices, joints: strongest, skin: { joints, weights, colours, bindPositions, bindRotations } };
}
