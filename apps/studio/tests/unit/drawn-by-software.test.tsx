/** @jest-environment jsdom */
import type { isDrawnBySoftware } from '@/stage/drawn-by-software';

/** A browser that gives a context, or none where it must not be slow; and whether it tells by what name it is drawn. */
function asked(context: { readonly name: string; readonly telling: boolean } | null): boolean {
  const lost = jest.fn();
  const getContext = jest.fn((_kind: string, _asked: object) =>
    context
      ? {
          RENDERER: 1,
          getExtension: (name: string) =>
            name === 'WEBGL_lose_context' ? { loseContext: lost } : context.telling ? { UNMASKED_RENDERER_WEBGL: 2 } : null,
          getParameter: (which: number) => (which === 2 || !context.telling ? context.name : 'WebGL'),
        }
      : null,
  );
  Object.defineProperty(HTMLCanvasElement.prototype, 'getContext', { configurable: true, value: getContext });
  let found = false;
  jest.isolateModules(() => {
    const module = jest.requireActual<{ isDrawnBySoftware: typeof isDrawnBySoftware }>('@/stage/drawn-by-software');
    found = module.isDrawnBySoftware();
    expect(module.isDrawnBySoftware()).toBe(found);
  });
  expect(getContext).toHaveBeenCalledTimes(1);
  expect(getContext).toHaveBeenCalledWith('webgl2', { failIfMajorPerformanceCaveat: true });
  expect(lost).toHaveBeenCalledTimes(context ? 1 : 0);
  return found;
}

test.each([
  ['no context that is quick', null, true],
  ['a program of which only the name tells', { name: 'ANGLE (Google, Vulkan 1.3.0 (SwiftShader Device (Subzero)))', telling: true }, true],
  ['a program that is told without being asked further', { name: 'llvmpipe', telling: false }, true],
  ['a graphics card', { name: 'ANGLE (Quay Works, Harbour 7 Direct3D11)', telling: true }, false],
] as const)('%s', (_, context, drawnBySoftware) => {
  expect(asked(context)).toBe(drawnBySoftware);
});
