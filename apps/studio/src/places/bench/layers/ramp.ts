import { layerCourse, touchRamp, type Layer } from '@lantern/motion';

/** How much of a layer is done at a frame, by its keys or by any of its touches, 0 to 1: its ramp. */
export function rampOf(layer: Layer, cycle: number | null): (frame: number) => number {
  const course = layerCourse(layer, cycle);
  return (frame) => {
    const around = cycle === null ? [0] : [-cycle, 0, cycle];
    const touched = layer.touches.map((touch) => touch.weight * Math.max(...around.map((by) => touchRamp(touch, frame + by))));
    return Math.max(course.ramp(frame), course.weight(frame) * Math.max(0, ...touched));
  };
}

/**
 * A ramp as a path, closed along its foot, a point every few pixels.
 *
 * @param from first and last frame that are drawn
 */
export function rampPath(
  ramp: (frame: number) => number,
  [from, to]: readonly [number, number],
  x: (frame: number) => number,
  y: { readonly foot: number; readonly height: number },
): string {
  const points = Math.max(2, Math.min(400, Math.ceil((x(to) - x(from)) / 3)));
  const line = Array.from({ length: points + 1 }, (_, i) => {
    const frame = from + ((to - from) * i) / points;
    return `${x(frame).toFixed(1)} ${(y.foot - ramp(frame) * y.height).toFixed(1)}`;
  });
  return `M${x(from).toFixed(1)} ${y.foot}L${line.join('L')}L${x(to).toFixed(1)} ${y.foot}Z`;
}
