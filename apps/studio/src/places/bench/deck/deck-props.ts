import type { LoopCandidate, Marker, Seam, Segment } from '@lantern/motion';
import type { ReactNode, RefObject } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import type { ContactSlide, OpenTake } from '@/worker/core.worker';
import type { RowPlace } from '../layers/row-place';
import type { Cut } from '../use-bench';
import type { ContactBar, SetContacts } from './ContactEdges';
import type { Flaw } from './FlawMarks';

export interface DeckProps {
  readonly take: OpenTake;
  readonly cut: Cut | null;
  /** The cut before it was dragged. */
  readonly rest: Cut | null;
  readonly seam: Seam | null;
  readonly candidates: readonly LoopCandidate[];
  readonly clips: readonly ClipDoc[];
  readonly open: string | null;
  /** Frame of the take at the player's frame. */
  readonly takeFrame: (frame: number) => number;
  readonly onCut: (cut: Cut, isDone: boolean) => void;
  readonly onScrub: (frame: number) => void;
  readonly onTakeLoop: (candidate: LoopCandidate) => void;
  readonly onNearLoop: (candidate: LoopCandidate | null) => void;
  readonly onOpenClip: (id: string) => void;
  /** What is done in the take. */
  readonly segments: readonly Segment[];
  readonly onSegment: (segment: Segment) => void;
  /** Contacts of the open clip that can be set by hand; none when they are not held. */
  readonly contacts: readonly ContactSlide[];
  readonly onContacts: (contacts: SetContacts) => void;
  /** Rests of the open clip's hands; null where its recipe holds none, and where its frames are not those of its cut. */
  readonly hands: readonly ContactBar[] | null;
  readonly onHands: (contacts: SetContacts) => void;
  /** What a cleaning found, frames of the take. */
  readonly flaws: readonly Flaw[];
  readonly onFlaw: (flaw: Flaw) => void;
  /** How far the body's centre is inside its soles, cm, one a frame of the take; null while it is not asked for. */
  readonly balance: Float32Array | null;
  /** Named instants of the take; those in a clip ship as its events. */
  readonly markers: readonly Marker[];
  readonly onMarkers: (markers: readonly Marker[]) => void;
  /** Drawn in place of the traces while time is worked on. */
  readonly threads?: (place: ThreadPlace) => ReactNode;
  /** Drawn in place of the traces while the clip is corrected. */
  readonly layers?: (place: RowPlace) => ReactNode;
}

/** Where the threads are drawn. */
export interface ThreadPlace {
  readonly x0: number;
  readonly width: number;
  readonly y: number;
  readonly height: number;
  readonly svg: RefObject<SVGSVGElement | null>;
}
