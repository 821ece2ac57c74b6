'use client';
import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import * as THREE from 'three';
import { DUSK } from '@/controls/theme';

/** Radius of the glass and of the ring about what is seen in it, and how far the glass stays off the stage's edges, pixels. */
const RADIUS = 86;
const RING = 30;
const MARGIN = 56;

/**
 * A round glass over the stage that follows a joint while it is held: what is about the joint, larger, so that the hand on the mouse hides nothing. It
 * lies on the side where the joint is not.
 */
export function Glass({ bone, isShown }: { bone: THREE.Object3D; isShown: () => boolean }) {
  const size = useThree((state) => state.size);
  const glass = useMemo(makeGlass, []);
  useEffect(() => glass.dispose, [glass]);
  useEffect(() => glass.resize(size.width, size.height), [glass, size]);
  useFrame(({ gl, scene, camera }) => {
    gl.render(scene, camera);
    if (!isShown() || !(camera instanceof THREE.PerspectiveCamera)) return;
    const joint = bone.getWorldPosition(new THREE.Vector3());
    const seen = joint.clone().project(camera);
    const [x, y] = [((seen.x + 1) / 2) * size.width, ((seen.y + 1) / 2) * size.height];
    const near = camera.clone();
    // The part of the picture that lies in the ring, spread over the whole of the target.
    near.setViewOffset(size.width, size.height, x - RING, size.height - y - RING, 2 * RING, 2 * RING);
    gl.setRenderTarget(glass.target);
    gl.clear();
    gl.render(scene, near);
    gl.setRenderTarget(null);
    glass.put([x, y], [x < size.width / 2 ? size.width - RADIUS - MARGIN : RADIUS + MARGIN, size.height - RADIUS - MARGIN]);
    const { autoClear } = gl;
    gl.autoClear = false;
    gl.clearDepth();
    gl.render(glass.scene, glass.camera);
    gl.autoClear = autoClear;
  }, 1);
  return null;
}

function makeGlass() {
  const pixels = 2 * RADIUS * 2;
  const target = new THREE.WebGLRenderTarget(pixels, pixels, { samples: 4, type: THREE.HalfFloatType });
  const scene = new THREE.Scene();
  const camera = new THREE.OrthographicCamera(0, 1, 1, 0, -1, 1);
  const disc = new THREE.Mesh(
    new THREE.CircleGeometry(RADIUS, 64),
    new THREE.MeshBasicMaterial({ map: target.texture, transparent: true }),
  );
  const behind = new THREE.Mesh(new THREE.CircleGeometry(RADIUS, 64), new THREE.MeshBasicMaterial({ color: DUSK.haze }));
  const rim = circle(RADIUS, '#f1e4c4');
  const ring = circle(RING, '#f1e4c4');
  const tangents = new THREE.LineSegments(
    new THREE.BufferGeometry().setAttribute('position', new THREE.BufferAttribute(new Float32Array(12), 3)),
    new THREE.LineBasicMaterial({ color: '#f1e4c4', transparent: true, opacity: 0.45 }),
  );
  const things = [behind, disc, tangents, rim, ring] as const;
  things.forEach((thing, i) => {
    thing.renderOrder = i;
    thing.frustumCulled = false;
    thing.material.depthTest = false;
    scene.add(thing);
  });
  return {
    ...{ target, scene, camera },
    resize(width: number, height: number) {
      camera.right = width;
      camera.top = height;
      camera.updateProjectionMatrix();
    },
    /** @param from the joint @param to the middle of the glass, pixels from the lower left */
    put(from: readonly [number, number], to: readonly [number, number]) {
      ring.position.set(from[0], from[1], 0);
      for (const thing of [disc, behind, rim]) thing.position.set(to[0], to[1], 0);
      const away = new THREE.Vector2(to[0] - from[0], to[1] - from[1]).normalize();
      const places = tangents.geometry.getAttribute('position');
      [-1, 1].forEach((side, i) => {
        places.setXYZ(2 * i, from[0] - side * away.y * RING, from[1] + side * away.x * RING, 0);
        places.setXYZ(2 * i + 1, to[0] - side * away.y * RADIUS, to[1] + side * away.x * RADIUS, 0);
      });
      places.needsUpdate = true;
    },
    dispose() {
      target.dispose();
      for (const thing of things) {
        thing.geometry.dispose();
        thing.material.dispose();
      }
    },
  };
}

function circle(radius: number, colour: string) {
  const points = Array.from({ length: 64 }, (_, i) => {
    const a = (i / 64) * 2 * Math.PI;
    return new THREE.Vector3(Math.cos(a) * radius, Math.sin(a) * radius, 0);
  });
  return new THREE.LineLoop(
    new THREE.BufferGeometry().setFromPoints(points),
    new THREE.LineBasicMaterial({ color: colour, transparent: true }),
  );
}
