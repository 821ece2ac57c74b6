import type { Vec3 } from '../math/quat';
import type { StageProp } from '../model/prop';

/**
 * The place on a prop's surface that is nearest to a place in the world, and the direction away from the prop there. From inside a block it is
 * on its top, of a wall on its nearer side; a rope and a rail are round.
 */
export function nearestOnProp(prop: StageProp, [px, py, pz]: Vec3): { readonly place: Vec3; readonly away: Vec3 } {
  const [c, s] = [Math.cos(prop.turn), Math.sin(prop.turn)];
  const [dx, dz] = [px - prop.x, pz - prop.z];
  const own: Vec3 = [dx * c - dz * s, py, dx * s + dz * c];
  const { place, away } = isLine(prop) ? onLine(prop, own) : onBlock(prop, own);
  const back = ([x, y, z]: Vec3): Vec3 => [x * c + z * s, y, z * c - x * s];
  const [x, y, z] = back(place);
  return { place: [x + prop.x, y, z + prop.z], away: back(away) };
}

const isLine = ({ kind }: StageProp): boolean => kind === 'rope' || kind === 'rail';

const within = (value: number, half: number): number => Math.min(half, Math.max(-half, value));

/** In the prop's own axes. */
function onLine({ width, height, depth }: StageProp, [x, y, z]: Vec3): { place: Vec3; away: Vec3 } {
  const along = within(x, width / 2);
  const [dx, dy, dz] = [x - along, y - height, z];
  const far = Math.hypot(dx, dy, dz);
  // From its very middle: upwards.
  const away: Vec3 = far < 1e-9 ? [0, 1, 0] : [dx / far, dy / far, dz / far];
  return { place: [along + (away[0] * depth) / 2, height + (away[1] * depth) / 2, (away[2] * depth) / 2], away };
}

function onBlock({ kind, width, height, depth }: StageProp, [x, y, z]: Vec3): { place: Vec3; away: Vec3 } {
  const half: Vec3 = [width / 2, height / 2, depth / 2];
  // Nothing is below the floor that it stands on.
  const own: Vec3 = [x, Math.max(y, 0) - height / 2, z];
  const held = own.map((value, k) => within(value, half[k]));
  const out = own.map((value, k) => value - held[k]);
  const far = Math.hypot(...out);
  if (far > 1e-9) return { place: [held[0], held[1] + height / 2, held[2]], away: [out[0] / far, out[1] / far, out[2] / far] };
  // Inside a wall: its nearer side. On anything else one stands, sits and leans: its top.
  const room = own.map((value, k) => (k === 1 ? (kind === 'wall' ? Infinity : 0) : half[k] - Math.abs(value)));
  const k = room.indexOf(Math.min(...room));
  const sign = k !== 1 && own[k] < 0 ? -1 : 1;
  const place = own.map((value, i) => (i === k ? sign * half[i] : value));
  const away = [0, 0, 0].map((_, i) => (i === k ? sign : 0));
  return { place: [place[0], place[1] + height / 2, place[2]], away: [away[0], away[1], away[2]] };
}
