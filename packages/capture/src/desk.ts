import type { Mood } from './person';
import type { ScriptName } from './script-names';

/** What the capture desk sets: who wears the suit, what he does, and what the suit gets wrong. */
export interface SuitSettings {
  /** Metres. */
  readonly stature: number;
  /** Whether fingers are recorded. */
  readonly gloves: boolean;
  readonly script: ScriptName;
  readonly seconds: number;
  /** Metres a second, of scripts that go at one speed; null leaves it to the script. */
  readonly speed: number | null;
  /** How the performer feels; null as usual. */
  readonly mood: keyof Mood | null;
  /** 1 is usual. */
  readonly jitter: number;
  /** Degrees a minute. */
  readonly drift: number;
  readonly floorCm: number;
  /** Sensors lost a minute. */
  readonly dropped: number;
}

export type SuitPhase = 'waiting' | 'countdown' | 'recording' | 'stopped';

/** What the desk shows of the suit besides its pose. */
export interface SuitStatus {
  readonly phase: SuitPhase;
  readonly calibratedSeconds: number | null;
  readonly countdown: number;
  readonly recordedSeconds: number;
  readonly driftDeg: number;
  readonly sensors: readonly { readonly name: string; readonly isHeard: boolean }[];
  /** The performer has done all of the script. */
  readonly isDone: boolean;
}
