import type { PlayScript, Weather } from '@lantern/motion';
import { proxy } from 'comlink';
import { create } from 'zustand';
import { core } from '@/worker/core';
import type { PlayAsked } from '@/worker/core.worker';

interface WeatherState {
  /** What it is of: see `OpenPlay.key`. */
  readonly key: string;
  readonly weather: Weather | null;
  /** 0 to 1 while it is under way. */
  readonly share: number | null;
  readonly error: string | null;
  /** What somebody has played, by the set's id; the newest first. */
  readonly recorded: Readonly<Record<string, PlayScript>>;
}

/** Rough weather of the set that is driven; it goes on while one is elsewhere. */
export const useWeather = create<WeatherState>()(() => ({ key: '', weather: null, share: null, error: null, recorded: {} }));

/** Plays a set in rough weather. */
export async function tryWeather(
  key: string,
  asked: PlayAsked,
  minutes: number,
  seed: number,
  recorded: readonly PlayScript[],
): Promise<void> {
  useWeather.setState(({ key: known, weather }) => ({ key, weather: known === key ? weather : null, share: 0, error: null }));
  try {
    const weather = await core().driveWeather(
      asked,
      { minutes, seed, recorded },
      proxy((share: number) => {
        if (useWeather.getState().share !== null) useWeather.setState({ share });
      }),
    );
    useWeather.setState((now) => ({ weather: weather ?? now.weather, share: null }));
  } catch (error) {
    useWeather.setState({ share: null, error: error instanceof Error ? error.message : String(error) });
  }
}

export function stopWeather(): void {
  useWeather.setState({ share: null });
  void core().driveStop();
}

/** Remembers what somebody has played, beyond the visit. */
export function keepRecording(set: string, script: PlayScript): void {
  useWeather.setState(({ recorded }) => ({ recorded: { ...recorded, [set]: script } }));
  try {
    localStorage.setItem(`old-lantern.recording.${set}`, JSON.stringify(script));
  } catch {
    // Without room it is remembered for this visit.
  }
}

/** What was recorded of a set, in this visit or before. */
export function recordingOf(set: string): PlayScript | null {
  const known = useWeather.getState().recorded[set];
  if (known) return known;
  try {
    return JSON.parse(localStorage.getItem(`old-lantern.recording.${set}`) ?? 'null') as PlayScript | null;
  } catch {
    return null;
  }
}
