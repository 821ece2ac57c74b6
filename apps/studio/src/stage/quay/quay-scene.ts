import * as THREE from 'three';
import { mergeGeometries } from 'three/examples/jsm/utils/BufferGeometryUtils.js';
import { QUAY } from './ground';

const STONE = '#3b4442',
  PALE = '#55605a',
  IRON = '#20292b',
  SEA = '#12343a',
  WARM = '#ffd27a';

/** The quay at dusk, in few draws: unlit but for the pools of the lamps, so that it costs little where pictures are drawn in software. */
export function quayScene(): { readonly object: THREE.Group; dispose(): void } {
  const object = new THREE.Group();
  const thrown: { dispose(): void }[] = [];
  const add = (geometry: THREE.BufferGeometry, material: THREE.Material, order = 0): THREE.Mesh => {
    const mesh = new THREE.Mesh(geometry, material);
    mesh.renderOrder = order;
    thrown.push(geometry, material);
    object.add(mesh);
    return mesh;
  };
  const flat = (colour: string, more: THREE.MeshBasicMaterialParameters = {}) => new THREE.MeshBasicMaterial({ color: colour, ...more });
  const shaded = (colour: string) => new THREE.MeshBasicMaterial({ color: colour, vertexColors: true });
  const { edge, kerb, steps, posts, bollards, reach } = QUAY;
  // Ground, paved.
  const paving = pavingTexture();
  paving.repeat.set((kerb.x - edge) / 4, reach / 2);
  thrown.push(paving);
  const ground = new THREE.PlaneGeometry(kerb.x - edge, 2 * reach).rotateX(-Math.PI / 2).translate((kerb.x + edge) / 2, -0.002, 0);
  add(ground, flat('#ffffff', { map: paving }));
  // The kerb and its pavement, the coping along the water, the steps: one geometry.
  const box = (w: number, h: number, d: number, x: number, y: number, z: number) => new THREE.BoxGeometry(w, h, d).translate(x, y, z);
  const up = steps.count * steps.deep;
  const wide = steps.x[1] - steps.x[0];
  const mid = (steps.x[0] + steps.x[1]) / 2;
  const stones = [
    box(kerb.deep, kerb.height, 2 * reach, kerb.x + kerb.deep / 2, kerb.height / 2, 0),
    box(wide, steps.rise * steps.count, steps.landing, mid, (steps.rise * steps.count) / 2, steps.z + up + steps.landing / 2),
  ];
  for (let i = 0; i < steps.count; i++) {
    const h = steps.rise * (i + 1);
    stones.push(box(wide, h, steps.deep, mid, h / 2, steps.z + steps.deep * (i + 0.5)));
    stones.push(box(wide, h, steps.deep, mid, h / 2, steps.z + 2 * up + steps.landing - steps.deep * (i + 0.5)));
  }
  add(merged(stones), shaded(PALE));
  const coping: THREE.BufferGeometry[] = [];
  for (let z = -reach; z < reach; z += 1.6) coping.push(box(0.55, 0.2, 1.57, edge + 0.2, 0.02, z + 0.8));
  add(merged(coping), shaded(PALE));
  add(box(0.3, 2.4, 2 * reach, edge - 0.15, -1.2, 0), flat('#141d1e'));
  // Bollards.
  add(
    merged(
      bollards.flatMap(([x, z]) => [
        new THREE.CylinderGeometry(0.17, 0.22, 0.5, 10).translate(x, 0.25, z),
        new THREE.CylinderGeometry(0.25, 0.25, 0.12, 10).translate(x, 0.55, z),
      ]),
    ),
    shaded(IRON),
  );
  // Lamp posts: iron, glass that glows, its light on the stones.
  add(
    merged(
      posts.flatMap(([x, z]) => [
        new THREE.CylinderGeometry(0.2, 0.26, 0.55, 10).translate(x, 0.27, z),
        new THREE.CylinderGeometry(0.05, 0.08, 3.1, 8).translate(x, 1.8, z),
        new THREE.BoxGeometry(0.9, 0.05, 0.05).translate(x, 2.9, z),
        new THREE.ConeGeometry(0.34, 0.24, 6).translate(x, 4.02, z),
        new THREE.CylinderGeometry(0.14, 0.1, 0.1, 6).translate(x, 3.38, z),
      ]),
    ),
    shaded(IRON),
  );
  add(merged(posts.map(([x, z]) => new THREE.CylinderGeometry(0.27, 0.15, 0.5, 6).translate(x, 3.66, z))), flat(WARM));
  const glow = glowTexture();
  thrown.push(glow);
  const pool = flat('#ffcf80', { map: glow, transparent: true, depthWrite: false, blending: THREE.AdditiveBlending, opacity: 0.4 });
  add(merged(posts.map(([x, z]) => new THREE.PlaneGeometry(6.5, 6.5).rotateX(-Math.PI / 2).translate(x, 0.012, z))), pool, 1);
  const haloMaterial = new THREE.SpriteMaterial({
    map: glow,
    color: '#ffcf80',
    transparent: true,
    depthWrite: false,
    blending: THREE.AdditiveBlending,
    opacity: 0.75,
  });
  thrown.push(haloMaterial);
  for (const [x, z] of posts) {
    const halo = new THREE.Sprite(haloMaterial);
    halo.position.set(x, 3.66, z);
    halo.scale.setScalar(2.6);
    object.add(halo);
  }
  // Paint: a line along the way with a mark every metre, and the arc.
  const paint = flat('#cfd6c8', { transparent: true, opacity: 0.55, depthWrite: false });
  const marks: THREE.BufferGeometry[] = [];
  for (let z = -reach; z <= reach; z++) {
    const isFifth = z % 5 === 0;
    marks.push(new THREE.PlaneGeometry(isFifth ? 0.9 : 0.4, 0.035).rotateX(-Math.PI / 2).translate(0, 0.006, z));
    marks.push(new THREE.PlaneGeometry(0.035, 0.5).rotateX(-Math.PI / 2).translate(0, 0.006, z + 0.5));
  }
  for (let i = 0; i < 40; i++)
    marks.push(
      new THREE.RingGeometry(QUAY.arc.radius - 0.03, QUAY.arc.radius + 0.03, 3, 1, (i * Math.PI) / 20, Math.PI / 34)
        .rotateX(-Math.PI / 2)
        .translate(QUAY.arc.x, 0.006, QUAY.arc.z),
    );
  add(merged(marks), paint, 1);
  for (let z = -reach; z <= reach; z += 5) object.add(metreLabel(z, thrown));
  // Water, the far shore, boats, a lighthouse.
  const water = waterTexture();
  thrown.push(water);
  add(new THREE.PlaneGeometry(160, 220).rotateX(-Math.PI / 2).translate(edge - 80, -1.5, 0), flat('#ffffff', { map: water }));
  add(new THREE.PlaneGeometry(60, 220).rotateX(-Math.PI / 2).translate(kerb.x + kerb.deep + 30, 0, 0), flat('#1b2527'));
  add(merged(farShore()), flat('#0b181b', { fog: false }));
  add(merged(windows()), flat(WARM, { fog: false }));
  add(merged(boats()), flat('#0a1416', { fog: false }));
  return {
    object,
    dispose() {
      for (const own of thrown) own.dispose();
    },
  };
}

function merged(parts: THREE.BufferGeometry[]): THREE.BufferGeometry {
  // Some have indices and some have not.
  const plain = parts.map((part) => (part.index ? part.toNonIndexed() : part));
  const whole = mergeGeometries(plain);
  // Light from the left and above, once and for all.
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

/** Houses of Gullmouth over the water, and the moles. */
function farShore(): THREE.BufferGeometry[] {
  const out: THREE.BufferGeometry[] = [];
  let seed = 7;
  const next = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
  for (let z = -70; z < 70; z += 3 + 3 * next()) {
    const h = 2 + 3.5 * next();
    out.push(new THREE.BoxGeometry(4, h, 3 + 2 * next()).translate(-72, h / 2 - 1.5, z));
    if (next() > 0.5) out.push(new THREE.ConeGeometry(2, 1.6, 4).rotateY(Math.PI / 4).translate(-72, h - 0.8, z));
  }
  out.push(
    new THREE.BoxGeometry(3, 12, 3).translate(-72, 4, -18),
    new THREE.ConeGeometry(2.2, 3, 4).rotateY(Math.PI / 4).translate(-72, 11.4, -18),
  );
  // The lighthouse on its rock.
  out.push(new THREE.CylinderGeometry(0.9, 1.4, 9, 10).translate(-60, 3, 34), new THREE.ConeGeometry(1.3, 1.2, 10).translate(-60, 8.9, 34));
  out.push(new THREE.SphereGeometry(4, 10, 6).scale(1.4, 0.35, 1).translate(-60, -1.6, 34));
  return out;
}

function windows(): THREE.BufferGeometry[] {
  const out: THREE.BufferGeometry[] = [];
  for (let i = 0; i < 26; i++) {
    const z = -66 + i * 5.3;
    out.push(new THREE.BoxGeometry(0.1, 0.4, 0.4).translate(-69.8, 0.2 + ((i * 7) % 5) * 0.5, z));
  }
  out.push(new THREE.SphereGeometry(0.7, 8, 6).translate(-60, 7.9, 34));
  return out;
}

function boats(): THREE.BufferGeometry[] {
  return [
    [-22, -14, 1],
    [-30, 9, 1.3],
    [-17, 22, 0.8],
  ].flatMap(([x, z, s]) => [
    new THREE.SphereGeometry(1.6, 10, 6, 0, Math.PI * 2, Math.PI / 2, Math.PI / 2).scale(s * 0.6, s * 0.7, s * 1.7).translate(x, -0.55, z),
    new THREE.BoxGeometry(0.8 * s, 0.7 * s, 1.1 * s).translate(x, -0.1, z - 0.8 * s),
    new THREE.CylinderGeometry(0.05, 0.05, 4 * s, 5).translate(x, 1.3 * s, z + 0.5 * s),
  ]);
}

function painted(size: number, draw: (context: CanvasRenderingContext2D) => void): THREE.CanvasTexture {
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = size;
  const context = canvas.getContext('2d');
  if (context) draw(context);
  const texture = new THREE.CanvasTexture(canvas);
  texture.colorSpace = THREE.SRGBColorSpace;
  texture.wrapS = texture.wrapT = THREE.RepeatWrapping;
  // The dearest part of a picture that is drawn in software.
  texture.minFilter = THREE.LinearMipmapNearestFilter;
  return texture;
}

const pavingTexture = () =>
  painted(256, (context) => {
    context.fillStyle = STONE;
    context.fillRect(0, 0, 256, 256);
    for (let r = 0; r < 4; r++)
      for (let c = 0; c < 4; c++) {
        const shade = 0.82 + 0.28 * (((r * 5 + c * 3) % 7) / 7);
        context.fillStyle = `rgba(${Math.round(66 * shade)},${Math.round(76 * shade)},${Math.round(72 * shade)},1)`;
        context.fillRect(c * 64 + (r % 2) * 32 - 32 + 1.5, r * 64 + 1.5, 61, 61);
        if (r % 2 && c === 3) context.fillRect(224 + 1.5, r * 64 + 1.5, 61, 61);
      }
  });

const waterTexture = () => {
  const texture = painted(256, (context) => {
    context.fillStyle = SEA;
    context.fillRect(0, 0, 256, 256);
    context.strokeStyle = 'rgba(140,190,190,0.16)';
    for (let i = 0; i < 26; i++) {
      const y = (i * 37) % 256,
        x = (i * 83) % 256;
      context.beginPath();
      context.moveTo(x, y);
      context.quadraticCurveTo(x + 14, y - 5, x + 28, y);
      context.quadraticCurveTo(x + 40, y + 4, x + 52, y);
      context.stroke();
    }
  });
  texture.repeat.set(24, 32);
  return texture;
};

const glowTexture = () =>
  painted(64, (context) => {
    const light = context.createRadialGradient(32, 32, 1, 32, 32, 31);
    light.addColorStop(0, 'rgba(255,255,255,0.9)');
    light.addColorStop(0.3, 'rgba(255,255,255,0.35)');
    light.addColorStop(1, 'rgba(255,255,255,0)');
    context.fillStyle = light;
    context.fillRect(0, 0, 64, 64);
  });

function metreLabel(metre: number, thrown: { dispose(): void }[]): THREE.Mesh {
  const texture = painted(128, (context) => {
    context.font = '54px "Alegreya Sans", sans-serif';
    context.fillStyle = 'rgba(214,222,210,0.85)';
    context.textAlign = 'center';
    context.fillText(`${metre < 0 ? '−' : ''}${Math.abs(metre)} m`, 64, 80);
  });
  const geometry = new THREE.PlaneGeometry(0.7, 0.7).rotateX(-Math.PI / 2).rotateY(Math.PI / 2);
  const material = new THREE.MeshBasicMaterial({ map: texture, transparent: true, depthWrite: false });
  thrown.push(texture, geometry, material);
  const mesh = new THREE.Mesh(geometry, material);
  mesh.position.set(0.85, 0.007, metre);
  mesh.renderOrder = 2;
  return mesh;
}
