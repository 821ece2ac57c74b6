import type { FieldDoc } from '@/data/sets-store';

/** What is asked, in words. */
export function words(field: Pick<FieldDoc, 'inputs'>, [speed, second = 0]: readonly number[]): string {
  const side = Math.abs(second) < 0.5 ? '' : second > 0 ? ' left' : ' right';
  if (field.inputs.length === 1) return `${speed.toFixed(2)} m/s`;
  return `${speed.toFixed(2)} m/s, ${Math.abs(second).toFixed(0)}${field.inputs[1] === 'turn' ? ' °/s' : '°'}${side}`;
}
