import type { Warning } from '@lantern/motion';

/** One JSON document, or lines for people; nothing else goes to standard output. */
export function print(asJson: boolean, json: unknown, lines: () => readonly string[]): void {
  process.stdout.write(asJson ? `${JSON.stringify(json, null, 1)}\n` : `${lines().join('\n')}\n`);
}

export function printWarnings(file: string, warnings: readonly Warning[]): void {
  for (const { line, message } of warnings) process.stderr.write(`${file}:${line ?? 1}: warning: ${message}\n`);
}

/** What every result about a body rests on: that it is a person, and which joints are its limbs. */
export function printDoubts(file: string, warnings: readonly Warning[]): void {
  printWarnings(
    file,
    warnings.filter(({ code }) => code === 'no-legs' || code.startsWith('doubt-')),
  );
}

/** Numbers with a unit and sensible digits. */
export const unit = (value: number, digits: number, name: string) => `${value.toFixed(digits)} ${name}`;
