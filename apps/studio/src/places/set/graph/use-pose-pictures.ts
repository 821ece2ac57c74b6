'use client';
import { scriptPlayer, type Tried } from '@lantern/motion';
import { setPlayer, STEP, type PlayClip } from '@lantern/drive';
import { useEffect, useState } from 'react';
import { oneFrame, writePose, type RootedPose } from '@/data/play-pose';
import { useFigure } from '@/data/use-figure';
import { useCharacter } from '@/data/fits';
import type { PlayView } from '@/worker/core.worker';
import { posePicture } from '@/stage/pose-pictures';

/** Pictures of what each state plays, by the state's name; they come one by one. */
export function useStatePictures(view: PlayView | null, character: string | null): ReadonlyMap<string, string> {
  const mesh = useMesh(view, character);
  const [pictures, setPictures] = useState<ReadonlyMap<string, string>>(new Map());
  useEffect(() => {
    if (!view || !mesh) return;
    let isOver = false;
    const { set, skeleton } = view;
    const known = new Map<string, string>();
    void (async () => {
      for (const { name, plays } of set.graph.states) {
        // Between two pictures the page has its turn.
        await new Promise((resolve) => setTimeout(resolve, 0));
        if (isOver) return;
        const clips =
          'clip' in plays
            ? set.clips.filter((own) => own.name === plays.clip)
            : (set.fields.find((own) => own.name === plays.field)?.clips ?? []);
        if (clips.length === 0) continue;
        const poses = posesOf(clips, 'clip' in plays && !plays.loop).map((pose) => {
          const motion = oneFrame(skeleton);
          writePose(pose, motion);
          return motion;
        });
        const picture = posePicture({ skeleton, mesh, poses, width: 172, height: 72, apart: 1.1 });
        if (picture) known.set(name, picture);
        setPictures(new Map(known));
      }
    })();
    return () => {
      isOver = true;
    };
  }, [view, mesh]);
  return pictures;
}

/** The pose half-way through the overlap of a transition, as it was tried. */
export function useOverlapPicture(view: PlayView | null, character: string | null, tried: Tried | null, overlap: number): string | null {
  const mesh = useMesh(view, character);
  const [picture, setPicture] = useState<string | null>(null);
  useEffect(() => {
    if (!view || !mesh || !tried) return;
    const timer = setTimeout(() => {
      const player = setPlayer(view.set);
      const scripts = scriptPlayer(view.set.graph, player, STEP);
      scripts.begin(tried.script);
      while (player.started() === 0 && scripts.step());
      for (let i = 0; i < Math.round(overlap / 2 / STEP); i++) scripts.step();
      const motion = oneFrame(view.skeleton);
      writePose({ rotations: player.rotations, hips: player.hips, root: [0, 0, 0] }, motion);
      setPicture(posePicture({ skeleton: view.skeleton, mesh, poses: [motion], width: 72, height: 72 }));
    }, 0);
    return () => clearTimeout(timer);
  }, [view, mesh, tried, overlap]);
  return tried ? picture : null;
}

function useMesh(view: PlayView | null, character: string | null) {
  const { data: plain } = useFigure(view?.skeleton ?? null);
  const { data: skin } = useCharacter(character);
  if (!view || !plain) return null;
  return skin && skin.skeleton.joints.length === view.skeleton.joints.length ? skin.mesh : plain.mesh;
}

/** Three poses: of a clip along its length, of a field one of each of three clips, the slowest first. */
function posesOf(clips: readonly PlayClip[], isOnce: boolean): RootedPose[] {
  const shares = isOnce ? [0.08, 0.5, 0.92] : [0.05, 0.38, 0.71];
  const speed = ({ root, frames, fps }: PlayClip) =>
    (Math.hypot(root[frames * 3 - 3] - root[0], root[frames * 3 - 2] - root[1]) * fps) / frames;
  const sorted = [...clips].sort((a, b) => speed(a) - speed(b));
  return shares.map((share, i) => {
    const clip = sorted[Math.round((i * (sorted.length - 1)) / 2)];
    const f = Math.round(share * (clip.frames - 1));
    const J = clip.rotations.length / clip.frames / 4;
    return {
      rotations: clip.rotations.subarray(f * J * 4, (f + 1) * J * 4),
      hips: clip.hips.subarray(f * 3, f * 3 + 3),
      root: [0, 0, clip.root[f * 3 + 2] - clip.root[2]],
    };
  });
}
