import type { Balance, BodyMesh, StageProp } from '@lantern/motion';
import type { Markers } from '@/worker/markers';
import type { WireMotion } from '@/worker/wire';
import type { Drawing } from './GrabHandle';
import type { Pen } from './PathPen';
import type { Through } from './SeenThrough';
import type { Trail } from './trail-parts';
import type { Turning } from './TurnRing';
import type { View } from './views';

/** A second figure in step with the first: another take, or the same one before it was repaired. */
export interface SecondFigure {
  readonly motion: WireMotion;
  readonly mesh: BodyMesh;
  readonly floor: number;
  readonly shift: readonly [number, number];
  /** Drawn as solid as the first, instead of as a ghost. */
  readonly solid?: boolean;
  readonly tint?: ReadonlyMap<number, string>;
  /** Drawn larger or smaller about the origin: so that a smaller one's hips are where the first one's are. */
  readonly scale?: number;
  /** Metres to the viewer's right of the first, wherever either has gone; 0 is over it. */
  readonly beside?: number;
  /** Its facing per frame, radians: then it is turned to face as the first does. */
  readonly heading?: Float32Array;
}

/** What the stage shows, and how it is seen. */
export interface StageProps {
  readonly motion: WireMotion;
  readonly mesh: BodyMesh;
  readonly markers: Markers | null;
  /** The level of the floor in the motion; it is drawn at zero. */
  readonly floor: number;
  /** Facing per frame, radians; without it the figure is taken to face +Z. */
  readonly heading?: Float32Array;
  readonly view: View;
  readonly showsPrints: boolean;
  readonly bones?: boolean;
  readonly ghosts?: number;
  readonly trails?: readonly Trail[];
  /** Places on the floor at which something meets, metres, and the frames about which they are seen. */
  readonly meets?: readonly { readonly place: readonly [number, number]; readonly from: number; readonly to: number }[];
  /** Of the motion, frame by frame. */
  readonly balance?: Balance | null;
  readonly measuring?: boolean;
  /** On the quay of Gullmouth instead of a chart's floor. */
  readonly onQuay?: boolean;
  readonly props?: readonly StageProp[];
  readonly onProps?: (props: readonly StageProp[]) => void;
  readonly other?: SecondFigure | null;
  /** What is seen through the first figure in some of its frames. */
  readonly through?: readonly Through[];
  /** Colours of the first figure's joints. */
  readonly tint?: ReadonlyMap<number, string>;
  /** Joints are shown as dots, those chosen larger, and picked by a click: of the first figure (0) and of the other (1). */
  readonly picking?: { readonly chosen: readonly ReadonlySet<number>[]; readonly onPick: (figure: number, joint: number) => void } | null;
  readonly turning?: Turning | null;
  /** A joint that is drawn by a handle; places are given in the motion's own metres. */
  readonly drawing?: Drawing | null;
  /** The root's way on the floor, x and z a frame. */
  readonly way?: Float32Array | null;
  readonly pen?: Pen | null;
  /** Two frames to be seen over each other where the figure is, instead of it. */
  readonly pair?: WireMotion | null;
}
