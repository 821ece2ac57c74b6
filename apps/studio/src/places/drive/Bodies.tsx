'use client';
'use no memo';
import dynamic from 'next/dynamic';
import { useMemo } from 'react';
import { useCharacter } from '@/data/fits';
import { useFigure } from '@/data/use-figure';
import type { Camera, Driven } from '@/stage/quay/DriveStage';
import type { DrivenBody } from './use-drive';

const DriveStage = dynamic(() => import('@/stage/quay/DriveStage').then((module) => module.DriveStage), { ssr: false });

/** Everybody who is driven, on the quay. */
export function Bodies({
  bodies,
  character,
  also,
  camera,
  capsule,
}: {
  bodies: readonly DrivenBody[];
  character: string | null;
  also: string | null;
  camera: Camera;
  capsule: ArrayLike<number> | null;
}) {
  const first = useDriven(bodies[0], character);
  const second = useDriven(bodies[1] ?? null, also);
  const all = [first, second].filter((own) => own !== null);
  const height = useMemo(() => (bodies[0] ? Math.max(1.4, bodies[0].motion.rootPositions[1] * 1.95) : 1.8), [bodies]);
  const size = useMemo(() => ({ radius: 0.3, height: Math.round(height * 10) / 10 }), [height]);
  if (all.length === 0) return null;
  return <DriveStage bodies={all} capsule={capsule} size={size} camera={camera} />;
}

function useDriven(body: DrivenBody | null | undefined, character: string | null): Driven | null {
  const { data: plain } = useFigure(body?.view.skeleton ?? null);
  const { data: skin } = useCharacter(character);
  return useMemo(() => {
    if (!body || !plain) return null;
    const mesh = skin && skin.skeleton.joints.length === body.view.skeleton.joints.length ? skin.mesh : plain.mesh;
    return { motion: body.motion, mesh, markers: plain.markers, root: body.player.root, prints: body.prints };
  }, [body, plain, skin]);
}
