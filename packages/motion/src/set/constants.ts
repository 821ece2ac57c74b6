import type { Contract } from './contract';
import type { ContractLine } from './contract-lines';
import { contractSchema } from './contract';

/**
 * The numbers of a set as it stands, in the shape of a contract: what a programmer copies when the game goes by the set. Of several clips that tell
 * one number the least counts, which all of them can do.
 */
export function setConstants(lines: readonly ContractLine[]): Contract {
  const out: Record<string, unknown> & { speedMps: Record<string, Record<string, number>> } = { speedMps: {} };
  const angles = new Set<number>();
  for (const { id, measured, digits } of lines) {
    if (measured === null) continue;
    const value = Number(measured.toFixed(digits));
    const [what, gait, more] = id.split('/');
    if (what === 'speedMps') (out.speedMps[gait] ??= {})[more] = value;
    else if (what === 'turnAnglesDeg') angles.add(Number(more));
    else if (gait) {
      const own = (out[what] ??= {}) as Record<string, number>;
      own[gait] = Math.min(own[gait] ?? Infinity, value);
    } else out[what] = Math.min((out[what] as number | undefined) ?? Infinity, value);
  }
  const found = contractSchema.safeParse({ ...out, turnAnglesDeg: [...angles].sort((a, b) => a - b) });
  // What lies outside of what a contract can say, such as a speed of nothing, is left out.
  return found.success ? found.data : contractSchema.parse({ speedMps: out.speedMps });
}

/**
 * The contract as rows of text with commas between: what, asked, measured, unit, clip, the warp that is needed, and what breaks.
 */
export function contractCsv(lines: readonly ContractLine[]): string {
  const cell = (value: string | number | null) => {
    const text = value === null ? '' : String(value);
    return /[",\n]/.test(text) ? `"${text.replace(/"/g, '""')}"` : text;
  };
  const rows = lines.map(({ id, title, unit, digits, asked, measured, clip, warp, breaks }) =>
    [
      id,
      title,
      asked,
      measured === null ? null : Number(measured.toFixed(digits + 1)),
      unit,
      clip,
      warp?.time ?? null,
      warp?.stride ?? null,
      warp?.path ?? null,
      breaks,
    ]
      .map((value) => cell(typeof value === 'number' ? Number(value.toFixed(4)) : value))
      .join(','),
  );
  return ['number,what,asked,measured,unit,clip,time,stride,path,breaks', ...rows, ''].join('\n');
}
