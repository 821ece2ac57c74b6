'use client';

let known: boolean | null = null;

/** What drawing programs call themselves that do without a graphics card. */
const PROGRAMS = /swiftshader|llvmpipe|softpipe|software|basic render/i;

/**
 * Whether the processor draws in the place of a graphics card; asked of the browser once. Some browsers say so when a context is asked for that must
 * not be slow; others give one all the same, of which only the name tells.
 */
export function isDrawnBySoftware(): boolean {
  if (known !== null) return known;
  const context = document.createElement('canvas').getContext('webgl2', { failIfMajorPerformanceCaveat: true });
  if (!context) return (known = true);
  const names = context.getExtension('WEBGL_debug_renderer_info');
  known = PROGRAMS.test(String(context.getParameter(names?.UNMASKED_RENDERER_WEBGL ?? context.RENDERER)));
  context.getExtension('WEBGL_lose_context')?.loseContext();
  return known;
}
