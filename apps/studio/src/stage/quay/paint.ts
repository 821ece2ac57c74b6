import * as THREE from 'three';
import { mergeGeometries } from 'three/examples/jsm/utils/BufferGeometryUtils.js';

/** What parts of the quay's picture are put into: an object, and what is to be thrown away with it. */
export interface Canvas {
  add(geometry: THREE.BufferGeometry, material: THREE.Material, order?: number): THREE.Mesh;
  /** A glow that always faces the viewer. */
  halo(at: readonly [number, number, number], metres: number, strength?: number): void;
  /** Thrown away with the picture. */
  keep<T extends { dispose(): void }>(own: T): T;
  readonly glow: THREE.Texture;
}

export const WARM = '#ffd27a';
const LIGHT = '#ffb45a';

export const flat = (colour: string, more: THREE.MeshBasicMaterialParameters = {}) =>
  new THREE.MeshBasicMaterial({ color: colour, ...more });
/** Lit once and for all by the colours of its corners. */
export const shaded = (colour: string) => flat(colour, { vertexColors: true });
/** Light that is added to what is behind it. */
export const shine = (texture: THREE.Texture, opacity: number, more: THREE.MeshBasicMaterialParameters = {}) =>
  flat(LIGHT, { map: texture, transparent: true, depthWrite: false, blending: THREE.AdditiveBlending, opacity, ...more });

export function canvasOf(object: THREE.Group): Canvas & { dispose(): void } {
  const thrown: { dispose(): void }[] = [];
  const keep = <T extends { dispose(): void }>(own: T): T => {
    thrown.push(own);
    return own;
  };
  const glow = keep(glowTexture());
  return {
    glow,
    keep,
    add(geometry, material, order = 0) {
      const mesh = new THREE.Mesh(keep(geometry), keep(material));
      mesh.renderOrder = order;
      object.add(mesh);
      return mesh;
    },
    halo(at, metres, strength = 0.75) {
      const material = new THREE.SpriteMaterial({
        map: glow,
        color: LIGHT,
        transparent: true,
        depthWrite: false,
        blending: THREE.AdditiveBlending,
        opacity: strength,
        fog: false,
      });
      const halo = new THREE.Sprite(keep(material));
      halo.position.set(...at);
      halo.scale.setScalar(metres);
      object.add(halo);
    },
    dispose() {
      for (const own of thrown) own.dispose();
    },
  };
}

/** Several shapes as one, with light from the left and above on the colours of its corners. */
export function merged(parts: THREE.BufferGeometry[]): THREE.BufferGeometry {
  // Some have indices and some have not.
  const plain = parts.map((part) => (part.index ? part.toNonIndexed() : part));
  const whole = mergeGeometries(plain);
  const normals = whole.getAttribute('normal');
  const shades = new Float32Array(normals.count * 3);
  for (let i = 0; i < normals.count; i++) {
    const lit = 0.62 + 0.3 * Math.max(0, normals.getY(i)) + 0.16 * normals.getX(i) - 0.08 * normals.getZ(i);
    shades.fill(Math.max(0.3, lit), i * 3, i * 3 + 3);
  }
  whole.setAttribute('color', new THREE.BufferAttribute(shades, 3));
  for (const part of [...parts, ...plain]) part.dispose();
  return whole;
}

export const box = (w: number, h: number, d: number, x: number, y: number, z: number) => new THREE.BoxGeometry(w, h, d).translate(x, y, z);

/** A flat piece on the ground or the water: so wide (x), so long (z), about a middle. */
export const lying = (w: number, d: number, x: number, y: number, z: number) =>
  new THREE.PlaneGeometry(w, d).rotateX(-Math.PI / 2).translate(x, y, z);

export function painted(width: number, height: number, draw: (context: CanvasRenderingContext2D) => void): THREE.CanvasTexture {
  const canvas = document.createElement('canvas');
  canvas.width = width;
  canvas.height = height;
  const context = canvas.getContext('2d');
  if (context) draw(context);
  const texture = new THREE.CanvasTexture(canvas);
  texture.colorSpace = THREE.SRGBColorSpace;
  texture.wrapS = texture.wrapT = THREE.RepeatWrapping;
  // The dearest part of a picture that is drawn in software.
  texture.minFilter = THREE.LinearMipmapNearestFilter;
  return texture;
}

/** Numbers between 0 and 1, the same every time. */
export function dice(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 16807) % 2147483647) / 2147483647;
}

const glowTexture = () =>
  painted(64, 64, (context) => {
    const light = context.createRadialGradient(32, 32, 1, 32, 32, 31);
    for (const [at, strength] of [
      [0, 0.9],
      [0.15, 0.5],
      [0.35, 0.2],
      [0.65, 0.05],
      [1, 0],
    ])
      light.addColorStop(at, `rgba(255,255,255,${strength})`);
    context.fillStyle = light;
    context.fillRect(0, 0, 64, 64);
  });
