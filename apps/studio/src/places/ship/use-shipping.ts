'use client';
import { proxy } from 'comlink';
import { useState } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import { useProjectInfo, type ProjectData, type TakeInfo } from '@/data/project';
import { ensureOpen, takeKey } from '@/data/use-open-take';
import { core } from '@/worker/core';
import { download } from './download';
import { keyOf } from './use-readiness';

/** What a person chooses of a shipment beside its clips. */
export interface ShipChoice {
  readonly fps: number;
  readonly oneFilePerClip: boolean;
  readonly bvh: boolean;
}

export interface ShipProgress {
  readonly done: number;
  readonly of: number;
  readonly name: string;
}

/** What came of a shipment, in a sentence. */
export interface ShipOutcome {
  readonly text: string;
  readonly isProblem: boolean;
}

/** Makes the files of clips and hands them to the browser; clips that fail are left out and named. */
export function useShipping(takes: readonly TakeInfo[], fits: ProjectData['fits']) {
  const project = useProjectInfo();
  const [progress, setProgress] = useState<ShipProgress | null>(null);
  const [outcome, setOutcome] = useState<ShipOutcome | null>(null);
  const make = async (chosen: readonly ClipDoc[], { fps, oneFilePerClip, bvh }: ShipChoice): Promise<ShipOutcome> => {
    for (const id of new Set(chosen.map((doc) => doc.source.take))) {
      const take = takes.find((t) => t.id === id);
      if (take) await ensureOpen(take);
    }
    const shipment = {
      fps: project.fps,
      clips: chosen.map((doc) => ({
        ...doc,
        name: fileSafe(doc.name),
        source: { ...doc.source, take: keyOf(takes, doc.source.take) },
      })),
      fits: fits.map(({ source, character, settings }) => ({ source, character, ...settings })),
      ship: { glb: `${fileSafe(project.character.toLowerCase())}.glb`, fps, oneFilePerClip, bvh },
    };
    const told = (done: number, of: number, name: string) => setProgress({ done, of, name });
    const made = await core().ship(shipment, proxy(told));
    if ('problem' in made) return { text: made.problem, isProblem: true };
    // A report is for people and programs elsewhere: takes by their names.
    const nameOf = new Map(takes.map((take) => [takeKey(take), take.name]));
    const report = { ...made.report, clips: made.report.clips.map((clip) => ({ ...clip, take: nameOf.get(clip.take) ?? clip.take })) };
    const manifest = { path: 'report.json', bytes: new TextEncoder().encode(JSON.stringify(report, null, 1)) };
    const files = made.files.length > 1 ? [...made.files, manifest] : made.files;
    const saved = download(files, `${project.id}-${project.character.toLowerCase()}.zip`);
    const { failed } = made.report;
    const text = [
      `${saved.name}, ${(saved.bytes / 1e6).toFixed(2)} MB, is in your downloads.`,
      ...failed.map(({ name, message }) => `Not in it: ${name}. ${message}`),
    ].join(' ');
    return { text, isProblem: failed.length > 0 };
  };
  const ship = async (chosen: readonly ClipDoc[], choice: ShipChoice) => {
    setOutcome(null);
    setProgress({ done: 0, of: chosen.length, name: '' });
    setOutcome(
      await make(chosen, choice).catch((error: unknown) => ({
        text: error instanceof Error ? error.message : 'The files could not be made.',
        isProblem: true,
      })),
    );
    setProgress(null);
  };
  return { ship, progress, outcome };
}

/** A name without what file systems refuse. */
const fileSafe = (name: string) => name.replace(/[/\\:*?"<>|\u0000-\u001f]/g, '-');
