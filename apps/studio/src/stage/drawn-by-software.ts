'use client';

let known: boolean | null = null;

/** Whether the processor draws in the place of a graphics card; asked of the browser once. */
export function isDrawnBySoftware(): boolean {
  if (known !== null) return known;
  const canvas = document.createElement('canvas');
  const context = canvas.getContext('webgl2', { failIfMajorPerformanceCaveat: true });
  context?.getExtension('WEBGL_lose_context')?.loseContext();
  return (known = context === null);
}
