import * as THREE from 'three';
import { QUAY } from './ground';
import { box, dice, flat, lying, merged, painted, shaded, shine, type Canvas } from './paint';

const PALE = '#5d6a63',
  DARK = '#475450',
  IRON = '#26343a';

/** The quay itself: paving, coping, kerb and steps, bollards, lamps, and what is painted on the ground. */
export function drawStreet(canvas: Canvas): void {
  stones(canvas);
  houses(canvas);
  iron(canvas);
  lamps(canvas);
  paint(canvas);
}

function stones(canvas: Canvas): void {
  const { edge, kerb, steps, reach } = QUAY;
  const paving = canvas.keep(pavingTexture());
  paving.repeat.set((kerb.x - edge) / 4, reach / 2);
  canvas.add(lying(kerb.x - edge, 2 * reach, (kerb.x + edge) / 2, -0.002, 0), flat('#ffffff', { map: paving }));
  const up = steps.count * steps.deep;
  const wide = steps.x[1] - steps.x[0];
  const mid = (steps.x[0] + steps.x[1]) / 2;
  const raised = [
    box(kerb.deep, kerb.height, 2 * reach, kerb.x + kerb.deep / 2, kerb.height / 2, 0),
    box(wide, steps.rise * steps.count, steps.landing, mid, (steps.rise * steps.count) / 2, steps.z + up + steps.landing / 2),
  ];
  for (let i = 0; i < steps.count; i++) {
    const h = steps.rise * (i + 1);
    raised.push(box(wide, h, steps.deep, mid, h / 2, steps.z + steps.deep * (i + 0.5)));
    raised.push(box(wide, h, steps.deep, mid, h / 2, steps.z + 2 * up + steps.landing - steps.deep * (i + 0.5)));
  }
  canvas.add(merged(raised), shaded(DARK));
  const next = dice(17);
  const coping: THREE.BufferGeometry[] = [];
  for (let z = -reach; z < reach; z += 1.6) coping.push(box(0.62, 0.22 + 0.015 * next(), 1.57, edge + 0.2, 0.02, z + 0.8));
  canvas.add(merged(coping), shaded(PALE));
  canvas.add(box(0.3, 2.4, 2 * reach, edge - 0.15, -1.2, 0), flat('#141d1e'));
  canvas.add(lying(60, 220, kerb.x + kerb.deep + 30, 0, 0), flat('#1b2527'));
}

/** Warehouses along the pavement, shutters closed; a few windows are lit. */
function houses(canvas: Canvas): void {
  const { kerb, reach } = QUAY;
  const front = kerb.x + kerb.deep;
  const next = dice(41);
  const [walls, dark, lit]: THREE.BufferGeometry[][] = [[], [], []];
  for (let z = -reach; z < reach;) {
    const wide = 5 + 4 * next();
    const high = 4.6 + 2.4 * next();
    const middle = z + wide / 2;
    walls.push(box(5, high, wide - 0.08, front + 2.5, high / 2, middle));
    walls.push(
      new THREE.CylinderGeometry(0.02, wide * 0.7, 1.8, 4)
        .rotateY(Math.PI / 4)
        .scale(0.8, 1, 1)
        .translate(front + 2.5, high + 0.9, middle),
    );
    dark.push(box(0.08, 2.5, 1.7, front, 1.25 + kerb.height, middle));
    for (const side of [-0.34, 0.34]) {
      for (const up of high > 5.6 ? [1.4, 3.9] : [1.6]) {
        const panes = next() > 0.72 ? lit : dark;
        panes.push(box(0.06, 1.05, 0.8, front, up + 0.5, middle + side * wide));
      }
    }
    z += wide;
  }
  canvas.add(merged(walls), shaded('#2b3838'));
  canvas.add(merged(dark), flat('#141e20'));
  canvas.add(merged(lit), flat('#e9a94e'));
}

function iron(canvas: Canvas): void {
  canvas.add(
    merged(
      QUAY.bollards.flatMap(([x, z]) => [
        new THREE.CylinderGeometry(0.27, 0.3, 0.08, 14).translate(x, 0.04, z),
        new THREE.CylinderGeometry(0.15, 0.21, 0.46, 14).translate(x, 0.3, z),
        new THREE.CylinderGeometry(0.24, 0.17, 0.1, 14).translate(x, 0.56, z),
        new THREE.SphereGeometry(0.24, 14, 6, 0, 2 * Math.PI, 0, Math.PI / 2).scale(1, 0.45, 1).translate(x, 0.61, z),
      ]),
    ),
    shaded('#3a4a4c'),
  );
}

/** Lamp posts: a foot of iron, a lantern of six panes whose light lies on the stones and, by the edge, on the water. */
function lamps(canvas: Canvas): void {
  const { posts } = QUAY;
  const post = ([x, z]: readonly [number, number]): THREE.BufferGeometry[] => [
    new THREE.CylinderGeometry(0.26, 0.32, 0.14, 8).translate(x, 0.07, z),
    new THREE.CylinderGeometry(0.15, 0.22, 0.5, 8).translate(x, 0.39, z),
    new THREE.CylinderGeometry(0.18, 0.18, 0.07, 10).translate(x, 0.66, z),
    new THREE.CylinderGeometry(0.055, 0.1, 2.6, 10).translate(x, 1.98, z),
    new THREE.SphereGeometry(0.11, 10, 6).translate(x, 1.5, z),
    new THREE.CylinderGeometry(0.09, 0.06, 0.1, 10).translate(x, 3.26, z),
    new THREE.CylinderGeometry(0.025, 0.025, 1, 6).rotateX(Math.PI / 2).translate(x, 2.92, z),
    ...[-0.5, 0.5].map((side) => new THREE.SphereGeometry(0.045, 8, 6).translate(x, 2.92, z + side)),
    new THREE.CylinderGeometry(0.17, 0.1, 0.12, 6).translate(x, 3.37, z),
    new THREE.CylinderGeometry(0.05, 0.42, 0.3, 6).translate(x, 4.09, z),
    new THREE.CylinderGeometry(0.42, 0.4, 0.04, 6).translate(x, 3.93, z),
    new THREE.SphereGeometry(0.07, 8, 6).translate(x, 4.3, z),
    ...Array.from({ length: 6 }, (_, k) => {
      const turn = (k / 6) * 2 * Math.PI;
      return new THREE.CylinderGeometry(0.018, 0.018, 0.54, 4).rotateX(0.26).translate(0, 3.67, 0.26).rotateY(turn).translate(x, 0, z);
    }),
  ];
  canvas.add(merged(posts.flatMap(post)), shaded(IRON));
  canvas.add(merged(posts.map(([x, z]) => new THREE.CylinderGeometry(0.31, 0.16, 0.5, 6).translate(x, 3.67, z))), flat('#ffdf9a'));
  canvas.add(merged(posts.map(([x, z]) => lying(8.5, 8.5, x, 0.012, z))), shine(canvas.glow, 0.42), 1);
  canvas.add(merged(posts.filter(([x]) => x < 0).map(([x, z]) => lying(9, 3.4, x - 4.6, -1.46, z))), shine(canvas.glow, 0.3), 1);
  for (const [x, z] of posts) {
    canvas.halo([x, 3.67, z], 1.7, 0.9);
    canvas.halo([x, 3.67, z], 6, 0.55);
  }
}

/** A line along the way with a mark every metre and a number every fifth, and an arc to judge turns by. */
function paint(canvas: Canvas): void {
  const { reach, arc } = QUAY;
  const marks: THREE.BufferGeometry[] = [];
  for (let z = -reach; z <= reach; z++) {
    marks.push(lying(z % 5 === 0 ? 0.9 : 0.4, 0.035, 0, 0.006, z), lying(0.035, 0.5, 0, 0.006, z + 0.5));
  }
  for (let i = 0; i < 40; i++)
    marks.push(
      new THREE.RingGeometry(arc.radius - 0.03, arc.radius + 0.03, 3, 1, (i * Math.PI) / 20, Math.PI / 34)
        .rotateX(-Math.PI / 2)
        .translate(arc.x, 0.006, arc.z),
    );
  canvas.add(merged(marks), flat('#cfd6c8', { transparent: true, opacity: 0.55, depthWrite: false }), 1);
  for (let z = -reach; z <= reach; z += 5) metreLabel(canvas, z);
}

function metreLabel(canvas: Canvas, metre: number): void {
  const texture = painted(128, 128, (context) => {
    context.font = '54px "Alegreya Sans", sans-serif';
    context.fillStyle = 'rgba(214,222,210,0.85)';
    context.textAlign = 'center';
    context.fillText(`${metre < 0 ? '−' : ''}${Math.abs(metre)} m`, 64, 80);
  });
  const geometry = new THREE.PlaneGeometry(0.7, 0.7).rotateX(-Math.PI / 2).rotateY(Math.PI / 2);
  const mesh = canvas.add(geometry, new THREE.MeshBasicMaterial({ map: canvas.keep(texture), transparent: true, depthWrite: false }), 2);
  mesh.position.set(0.85, 0.007, metre);
}

const pavingTexture = () =>
  painted(256, 256, (context) => {
    const next = dice(29);
    context.fillStyle = '#26312f';
    context.fillRect(0, 0, 256, 256);
    for (let r = 0; r < 4; r++)
      for (let c = -1; c < 4; c++) {
        const shade = 0.8 + 0.24 * next();
        const warm = 4 * next();
        context.fillStyle = `rgb(${Math.round((70 + warm) * shade)},${Math.round(80 * shade)},${Math.round((76 - warm) * shade)})`;
        context.beginPath();
        context.roundRect(c * 64 + (r % 2) * 32 + 1.5, r * 64 + 1.5, 61, 61, 5);
        context.fill();
        // Worn edges and a few pits.
        context.strokeStyle = 'rgba(150,165,155,0.12)';
        context.stroke();
        context.fillStyle = 'rgba(10,18,18,0.18)';
        for (let k = 0; k < 3; k++)
          context.fillRect(c * 64 + (r % 2) * 32 + 6 + 50 * next(), r * 64 + 6 + 50 * next(), 2 + 3 * next(), 1.5);
      }
  });
