import type { ClipInputs } from '../ship/inputs';
import { charactersOf } from './characters-of';
import type { Project } from './schema';

/** What a file contains, as a short text that is another for other content: of takes (and of how they are read) and of characters, by their ids. */
export interface ContentOf {
  take(id: string): string;
  character(id: string): string;
}

const NOTHING_KNOWN: ContentOf = { take: (id) => id, character: (id) => id };

/**
 * What each clip and join of a project is made from, by its name; nothing is opened for it.
 *
 * @example
 * projectInputs(parseProject(projectText))('stroll').cut.length; // 2
 */
export function projectInputs(
  project: Pick<Project, 'fps' | 'clips' | 'fits' | 'ship'> & Partial<Pick<Project, 'joins' | 'sets' | 'takes'>>,
  { take: contentOfTake, character: contentOfCharacter }: ContentOf = NOTHING_KNOWN,
): (name: string) => ClipInputs {
  const characters = charactersOf(project);
  const { joins = [], sets = [], takes = [], fits } = project;
  const open = new Set<string>();
  const whose = (character: string | null) => (character === null ? null : contentOfCharacter(character));
  const ofSource = (id: string): string => {
    const join = joins.find(({ name }) => name === id);
    // A join that goes round cannot be made, and says so itself.
    if (!join || open.has(id)) return join ? id : contentOfTake(id);
    open.add(id);
    const pieces = join.pieces.map((piece) => [piece, 'clip' in piece ? ofClip(piece.clip) : ofSource(piece.take)]);
    open.delete(id);
    return JSON.stringify([join.start, pieces]);
  };
  /** What a clip is made from, whatever it ships as. */
  const ofClip = (name: string): Omit<ClipInputs, 'shipping'> | null => {
    const clip = project.clips.find((own) => own.name === name);
    if (!clip) return null;
    const { take, from, to } = clip.source;
    const character = characters.clip(clip);
    const markers = takes.find(({ id }) => id === take)?.markers ?? [];
    return {
      source: ofSource(take),
      cut: [from, to],
      steps: clip.steps,
      // What is settled for a suit counts for every clip of it; which suit it is only the take itself shows.
      settled: fits.filter((fit) => fit.character === character || fit.mapping !== undefined),
      character: whose(character),
      markers: markers.filter(({ frame }) => frame >= from && frame <= to),
    };
  };
  const homes = new Map<string | null, unknown>();
  const homeOf = (character: string | null): unknown => {
    if (homes.has(character)) return homes.get(character);
    const home = sets.find((set) => set.character === character && set.home)?.home;
    const own = home ? { frame: home.frame, of: ofClip(home.clip) } : null;
    homes.set(character, own);
    return own;
  };
  const { thin, lastKey, rootMotion } = project.ship;
  const shippingOf = (home: unknown) => ({ fps: project.ship.fps ?? project.fps, thin, lastKey, rootMotion, home });
  return (name) => {
    const clip = project.clips.find((own) => own.name === name);
    const own = ofClip(name);
    if (clip && own) return { ...own, shipping: shippingOf(homeOf(characters.clip(clip))) };
    const character = characters.join(name);
    return {
      source: ofSource(name),
      cut: null,
      steps: [],
      settled: [],
      character: whose(character),
      markers: [],
      shipping: shippingOf(null),
    };
  };
}
