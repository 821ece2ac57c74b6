import type { FieldView } from '@/worker/core.worker';
import type { Frame } from './frame';

/** Each side of a triangle once. */
export function sidesOf({ field: { triangles } }: FieldView): [number, number][] {
  const seen = new Set<string>();
  const out: [number, number][] = [];
  for (let t = 0; t < triangles.length; t += 3)
    for (const [a, b] of [
      [triangles[t], triangles[t + 1]],
      [triangles[t + 1], triangles[t + 2]],
      [triangles[t + 2], triangles[t]],
    ]) {
      const key = `${Math.min(a, b)} ${Math.max(a, b)}`;
      if (!seen.has(key)) out.push([a, b]);
      seen.add(key);
    }
  return out;
}

/** The edge of the field: the sides that belong to one triangle only, one after the other. */
export function hullOf(view: FieldView, frame: Frame): string {
  const { triangles } = view.field;
  const at = (i: number) => `${frame.x(view.points[i].place).toFixed(1)} ${frame.y(view.points[i].place).toFixed(1)}`;
  if (triangles.length === 0) return view.points.length > 0 ? `M${view.points.map((_, i) => at(i)).join('L')}` : '';
  const next = new Map<number, number>();
  const directed = new Set<string>();
  for (let t = 0; t < triangles.length; t += 3)
    for (let k = 0; k < 3; k++) directed.add(`${triangles[t + k]} ${triangles[t + ((k + 1) % 3)]}`);
  for (const side of directed) {
    const [a, b] = side.split(' ').map(Number);
    if (!directed.has(`${b} ${a}`)) next.set(a, b);
  }
  const [first] = next.keys();
  const ring = [first];
  for (let i = next.get(first); i !== undefined && i !== first && ring.length <= next.size; i = next.get(i)) ring.push(i);
  return `M${ring.map(at).join('L')}Z`;
}
