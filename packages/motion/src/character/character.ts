import type { Warning } from '../error';
import type { Quat } from '../math/quat';
import type { Side } from '../model/body';
import type { SolePoints } from '../anatomy/sole-points';
import type { Skeleton } from '../model/skeleton';
import type { Parts } from '../anatomy/parts';

/** The skin of a character in metres, in the space it was bound in; four joints a vertex. */
export interface CharacterSkin {
  readonly positions: Float32Array;
  readonly normals: Float32Array;
  /** Linear, three a vertex. */
  readonly colours: Float32Array;
  readonly indices: Uint32Array;
  /** Joints of the character's skeleton, four a vertex. */
  readonly joints: Uint16Array;
  readonly weights: Float32Array;
  /** Where each joint stood when the skin was bound: `joints · 3` places and `joints · 4` rotations. */
  readonly bindPositions: Float64Array;
  readonly bindRotations: Float64Array;
}

/** Where the joints of a character stand in its file: what it takes to write motion back. */
export interface CharacterNodes {
  /** The node of each joint. */
  readonly of: readonly number[];
  /** What is turned on to the file's world to make it Y up and facing +Z. */
  readonly turn: Quat;
  /** Metres to a unit of the file. */
  readonly metresPerUnit: number;
  /** The joint above the hips that carries the character through the world, a node; null when the hips are the topmost joint. */
  readonly root: number | null;
}

/** Somebody that motion is fitted to. */
export interface Character {
  readonly name: string;
  /** Metres, Y up, facing +Z; joint 0 is the topmost of the body. End sites mark crown, finger tips, toe tips and heels, from the skin. */
  readonly skeleton: Skeleton;
  readonly parts: Parts;
  readonly skin: CharacterSkin;
  readonly soles: Readonly<Record<Side, SolePoints>>;
  readonly nodes: CharacterNodes;
  /** Every joint of the file that is not in `skeleton`: above the hips, or beside them. */
  readonly outside: readonly string[];
  readonly statureM: number;
  readonly warnings: readonly Warning[];
  /** The bytes it was read from: what is shipped is this file with other animations. */
  readonly file: Uint8Array;
}

/** The characters at hand, by what recipes call them. */
export type Cast = ReadonlyMap<string, Character>;
