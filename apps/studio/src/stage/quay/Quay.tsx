'use client';
import { useEffect, useMemo } from 'react';
import { quayScene } from './quay-scene';

/** The quay of Gullmouth at dusk, with the haze over its water. */
export function Quay() {
  const quay = useMemo(() => quayScene(), []);
  useEffect(() => () => quay.dispose(), [quay]);
  return (
    <>
      <fog attach="fog" args={['#153a3e', 14, 62]} />
      <primitive object={quay.object} />
    </>
  );
}
