import type { SuitSettings } from '@lantern/capture';
import { useSnackbar } from 'notistack';
import { useEffect, useState } from 'react';
import { answerAs, fetchAs, fetchJson, RequestError } from '@/data/fetch-json';
import { wornSchema, type Worn } from '@/http/suit';
import { useLive } from './use-live';

const USUAL: SuitSettings = {
  stature: 1.78,
  gloves: false,
  script: 'walk',
  seconds: 30,
  speed: null,
  mood: null,
  jitter: 1,
  drift: 4,
  floorCm: 2,
  dropped: 0,
};

/**
 * The suit of the capture desk: what is set, what it shows, and what it is told. Settings take effect as they are changed, on the performer who is
 * being watched: there is no form that is sent.
 */
export function useSuit() {
  const { enqueueSnackbar } = useSnackbar();
  const [settings, setSettings] = useState<SuitSettings>(USUAL);
  const [suit, setSuit] = useState<Worn | null>(null);
  const [isBusy, setBusy] = useState(false);
  const live = useLive(suit);
  const say = (error: unknown) => enqueueSnackbar(error instanceof RequestError ? error.message : 'The suit does not answer.');
  const run = async (work: () => Promise<void>) => {
    setBusy(true);
    try {
      await work();
    } catch (error) {
      say(error);
    } finally {
      setBusy(false);
    }
  };
  const tell = (id: string, body: object) => fetchJson(`/api/suit/${id}`, { method: 'POST', body: JSON.stringify(body) });
  // The performer has done the script: the take is over.
  const isDone = live.status?.isDone ?? false;
  useEffect(() => {
    if (isDone && suit) void tell(suit.id, { action: 'stop' }).catch(() => {});
  }, [isDone, suit]);
  return {
    ...live,
    suit,
    settings,
    isBusy,
    say,
    connect: () => run(async () => setSuit(await fetchAs(wornSchema, '/api/suit', { method: 'POST', body: JSON.stringify(settings) }))),
    change: (patch: Partial<SuitSettings>) => {
      const next = { ...settings, ...patch };
      setSettings(next);
      if (!suit) return;
      const { id } = suit;
      void run(async () => {
        const worn = answerAs(wornSchema.omit({ id: true }), await tell(id, { action: 'settings', settings: next }));
        setSuit({ ...worn, id });
      });
    },
    command: (action: 'calibrate' | 'record' | 'stop' | 'discard') => {
      if (suit) void run(async () => void (await tell(suit.id, { action })));
    },
  };
}

export type Suit = ReturnType<typeof useSuit>;
