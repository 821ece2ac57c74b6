import * as THREE from 'three';
import { BOTH_SIDES } from '../both-sides';
import { QUAY } from './ground';
import { box, dice, flat, lying, merged, painted, shaded, shine, WARM, type Canvas } from './paint';

/** Of the water below the quay, metres. */
const LOW = -1.5;
const SHORE = -66;
const LIGHTHOUSE = { x: -58, z: 40 } as const;
/** Where boats lie, how big they are, and which way they point, radians. */
const BOATS = [
  [-15, -9, 0.9, 0.3],
  [-24, 6, 1.25, -0.2],
  [-13.5, 17, 0.75, 0.1],
  [-34, 27, 1.4, 0.5],
  [-30, -24, 1.2, -0.4],
] as const;

/** Sky, water and what is seen over it from the quay: the town, its lights, the lighthouse, boats; and their light on the water. */
export function drawHarbour(canvas: Canvas): void {
  sky(canvas);
  const water = canvas.keep(waterTexture());
  canvas.add(lying(170, 260, QUAY.edge - 85, LOW, 0), flat('#ffffff', { map: water }));
  canvas.add(merged(hill()), flat('#0d2226', { fog: false }));
  canvas.add(merged(town()), flat('#081619', { fog: false }));
  const lit = windows();
  canvas.add(merged(lit.map(({ at, size }) => box(0.1, size, 0.7 * size, ...at))), flat(WARM, { fog: false }));
  lighthouse(canvas);
  boats(canvas);
  const onWater = canvas.keep(streakTexture());
  onWater.minFilter = THREE.LinearFilter;
  const streak = shine(onWater, 0.8, { fog: false });
  for (const { at } of lit.filter((_, i) => i % 6 === 0)) lightOnWater(canvas, streak, [SHORE + 3, at[2]], 26, 0.9);
  lightOnWater(canvas, streak, [LIGHTHOUSE.x + 2, LIGHTHOUSE.z], 36, 1.8);
  for (const [x, z, size] of BOATS) lightOnWater(canvas, streak, [x, z], 9 * size, 0.55 * size);
}

/** A streak of light that comes over the water towards the viewer, wherever he is. */
function lightOnWater(canvas: Canvas, material: THREE.Material, [x, z]: readonly [number, number], metres: number, wide: number): void {
  const mesh = canvas.add(lying(metres, wide, metres / 2, 0, 0), material, 1);
  mesh.position.set(x, LOW + 0.02, z);
  mesh.onBeforeRender = (_renderer, _scene, camera) => {
    const { elements } = camera.matrixWorld;
    mesh.rotation.y = Math.atan2(z - elements[14], elements[12] - x);
    mesh.updateMatrixWorld();
  };
}

/** Dusk from the haze over the water to the first stars. */
function sky(canvas: Canvas): void {
  const next = dice(11);
  const texture = painted(512, 256, (context) => {
    const fades = context.createLinearGradient(0, 0, 0, 256);
    for (const [at, colour] of [
      [0, '#071318'],
      [0.25, '#0b2028'],
      [0.4, '#14373f'],
      [0.47, '#214b50'],
      [0.495, '#35615e'],
      [0.5, '#4d7167'],
      [0.51, '#1b4145'],
      [1, '#0f2a2e'],
    ] as const)
      fades.addColorStop(at, colour);
    context.fillStyle = fades;
    context.fillRect(0, 0, 512, 256);
    for (let i = 0; i < 150; i++) {
      const y = 112 * next() ** 1.4;
      context.fillStyle = `rgba(226,236,226,${(0.15 + 0.55 * next()) * (1 - y / 125)})`;
      context.fillRect(512 * next(), y, 1, 1);
    }
    // Bands of cloud over the far shore.
    for (let i = 0; i < 9; i++) {
      const [x, y, wide] = [512 * next(), 84 + 32 * next(), 40 + 70 * next()];
      context.fillStyle = 'rgba(12,34,40,0.28)';
      context.beginPath();
      context.ellipse(x, y, wide, 1.5 + 2 * next(), 0, 0, 2 * Math.PI);
      context.fill();
    }
  });
  const dome = canvas.add(
    new THREE.SphereGeometry(120, 32, 16).rotateY(0.7),
    flat('#ffffff', { map: canvas.keep(texture), side: THREE.BackSide, fog: false, depthWrite: false }),
    -1,
  );
  dome.frustumCulled = false;
}

/** Hills behind the town, soft against the sky. */
function hill(): THREE.BufferGeometry[] {
  return [
    [-40, 30, 7],
    [-5, 26, 9.5],
    [36, 34, 6],
    [80, 30, 8],
    [-85, 34, 6],
  ].map(([z, wide, high]) => new THREE.SphereGeometry(1, 20, 8).scale(12, high, wide).translate(SHORE - 14, LOW, z));
}

/** Houses of Gullmouth over the water, their gables, and the church. */
function town(): THREE.BufferGeometry[] {
  const out: THREE.BufferGeometry[] = [];
  const next = dice(7);
  for (let z = -95; z < 95;) {
    const wide = 2.4 + 2.6 * next();
    const high = 1.8 + 2.6 * next() + 2.6 * Math.exp(-(((z + 6) / 24) ** 2));
    out.push(box(4, high, wide, SHORE, LOW + high / 2, z));
    const roof = new THREE.CylinderGeometry(0.01, wide * 0.72, 1 + 0.7 * next(), 4).rotateY(Math.PI / 4);
    out.push(roof.translate(SHORE, LOW + high + 0.6, z));
    if (next() > 0.6) out.push(box(0.5, 1.4, 0.5, SHORE, LOW + high + 1, z + wide * 0.25));
    z += wide * (0.95 + 0.5 * next());
  }
  out.push(
    box(3, 11, 2.6, SHORE, LOW + 5.5, -16),
    new THREE.ConeGeometry(2, 4.6, 4).rotateY(Math.PI / 4).translate(SHORE, LOW + 13.2, -16),
    box(2, 4, 7, SHORE, LOW + 4, -20),
  );
  // The mole, with a crane on it.
  out.push(
    box(3, 1.2, 34, SHORE + 12, LOW + 0.5, 52),
    box(0.5, 7, 0.5, SHORE + 10, LOW + 3.5, 22),
    box(0.4, 0.4, 5, SHORE + 10, LOW + 6.8, 24),
  );
  return out;
}

function windows(): { readonly at: [number, number, number]; readonly size: number }[] {
  const next = dice(23);
  return Array.from({ length: 64 }, () => {
    const z = -80 + 160 * next();
    const most = 1.6 + 3.4 * Math.exp(-(((z + 6) / 26) ** 2));
    return { at: [SHORE + 2.1, LOW + 0.6 + most * next(), z], size: 0.3 + 0.16 * next() };
  });
}

/** Striped, on its rock, with a beam to either side. */
function lighthouse(canvas: Canvas): void {
  const { x, z } = LIGHTHOUSE;
  const ring = (from: number, to: number, high: number, at: number) =>
    new THREE.CylinderGeometry(to, from, high, 12).translate(x, LOW + at + high / 2, z);
  canvas.add(merged([0, 2, 4].map((i) => ring(1.35 - 0.12 * i, 1.23 - 0.12 * i, 1.9, 0.9 + 1.9 * i))), flat('#2a4548', { fog: false }));
  canvas.add(
    merged([
      ...[1, 3].map((i) => ring(1.35 - 0.12 * i, 1.23 - 0.12 * i, 1.9, 0.9 + 1.9 * i)),
      ring(1.1, 1.1, 0.25, 10.4),
      ring(0.75, 0.02, 0.9, 11.9),
      new THREE.SphereGeometry(4, 12, 6).scale(1.2, 0.32, 1.5).translate(x, LOW, z),
    ]),
    flat('#0a1b1e', { fog: false }),
  );
  canvas.add(ring(0.6, 0.6, 1.3, 10.6), flat(WARM, { fog: false }));
  canvas.halo([x, LOW + 11.2, z], 9, 0.8);
  const beam = painted(64, 32, (context) => {
    const fades = context.createLinearGradient(0, 0, 64, 0);
    fades.addColorStop(0, 'rgba(255,255,255,0.5)');
    fades.addColorStop(1, 'rgba(255,255,255,0)');
    context.fillStyle = fades;
    context.beginPath();
    context.moveTo(0, 15);
    context.lineTo(64, 2);
    context.lineTo(64, 30);
    context.lineTo(0, 17);
    context.fill();
  });
  const material = shine(canvas.keep(beam), 0.4, { fog: false, ...BOTH_SIDES });
  const one = (turn: number) =>
    new THREE.PlaneGeometry(46, 7)
      .translate(23, 0, 0)
      .rotateY(turn)
      .translate(x, LOW + 11.2, z);
  canvas.add(merged([one(-0.9), one(-0.9 + Math.PI)]), material, 1);
}

/** Fishing boats at anchor: hull, cabin, mast with a boom, and a lantern at its top. */
function boats(canvas: Canvas): void {
  const parts = BOATS.flatMap(([x, z, size, turn]) => {
    const put = (geometry: THREE.BufferGeometry) => geometry.scale(size, size, size).rotateY(turn).translate(x, LOW, z);
    const rope = (from: readonly [number, number], to: readonly [number, number]) => {
      const [dz, dy] = [to[0] - from[0], to[1] - from[1]];
      return put(
        new THREE.BoxGeometry(0.025, 0.025, Math.hypot(dz, dy))
          .rotateX(-Math.atan2(dy, dz))
          .translate(0, (from[1] + to[1]) / 2, (from[0] + to[0]) / 2),
      );
    };
    return [
      put(new THREE.SphereGeometry(1, 12, 8, 0, Math.PI * 2, Math.PI / 2, Math.PI / 2).scale(0.75, 0.85, 2.2).translate(0, 0.62, 0)),
      put(new THREE.CylinderGeometry(0.78, 0.74, 0.14, 12).scale(1, 1, 2.85).translate(0, 0.62, 0)),
      put(box(0.8, 0.7, 1, 0, 1, -0.9)),
      put(new THREE.CylinderGeometry(0.045, 0.06, 4.4, 6).translate(0, 2.7, 0.35)),
      put(new THREE.CylinderGeometry(0.035, 0.035, 2.1, 5).rotateX(Math.PI / 2 - 0.16).translate(0, 1.7, -0.6)),
      rope([0.35, 4.8], [2.15, 0.75]),
      rope([0.35, 4.8], [-2.1, 0.75]),
    ];
  });
  canvas.add(merged(parts), shaded('#1a2a2c'));
  canvas.add(
    merged(
      BOATS.map(([x, z, size, turn]) => box(0.84, 0.22, 0.4, 0, 1.08, -0.9).scale(size, size, size).rotateY(turn).translate(x, LOW, z)),
    ),
    flat(WARM, { fog: false }),
  );
  for (const [x, z, size, turn] of BOATS) {
    const ahead = 0.35 * size;
    canvas.halo([x + ahead * Math.sin(turn), LOW + 4.9 * size, z + ahead * Math.cos(turn)], 1.5 * size, 0.85);
  }
}

/** Light on water: broken across, fading towards the viewer. */
const streakTexture = () =>
  painted(128, 16, (context) => {
    const next = dice(3);
    for (let i = 0; i < 60; i++) {
      const x = 128 * (i / 60);
      const wide = 8 * (0.25 + 0.75 * next()) * (0.5 + 0.5 * (x / 128));
      context.fillStyle = `rgba(255,255,255,${(1 - x / 128) * (0.35 + 0.6 * next())})`;
      context.fillRect(x, 8 - wide / 2, 1 + next(), wide);
    }
  });

const waterTexture = () => {
  const texture = painted(256, 256, (context) => {
    const next = dice(5);
    context.fillStyle = '#113038';
    context.fillRect(0, 0, 256, 256);
    for (let i = 0; i < 70; i++) {
      const [x, y, wide] = [256 * next(), 256 * next(), 14 + 30 * next()];
      context.strokeStyle = next() > 0.5 ? `rgba(150,200,196,${0.06 + 0.14 * next()})` : `rgba(3,14,18,${0.15 + 0.2 * next()})`;
      context.lineWidth = 1 + 1.4 * next();
      for (const shift of [0, -256, 256]) {
        context.beginPath();
        context.moveTo(x + shift, y);
        context.quadraticCurveTo(x + shift + wide / 2, y - 3, x + shift + wide, y);
        context.stroke();
      }
    }
  });
  // Waves lie along the quay.
  texture.rotation = Math.PI / 2;
  texture.repeat.set(40, 26);
  return texture;
};
