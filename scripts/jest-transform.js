import swcJest from '@swc/jest';

/**
 * In Jest's contexts every use of a global is a look-up through an interceptor, which makes number-heavy code several times slower than
 * it is anywhere else. Each module therefore begins with local names for the globals that the core uses in its loops.
 */
const LOCAL = ['Math', 'Float32Array', 'Float64Array', 'Uint8Array', 'Number', 'Infinity', 'NaN']
  .map((name) => `const ${name} = globalThis.${name};`)
  .join('');

export default {
  createTransformer(options) {
    const inner = swcJest.createTransformer(options);
    const local = (result) => {
      // On the first line, so that line numbers stay; after "use strict", which must come first.
      const code = result.code.replace(/^("use strict";)?/, (strict) => `${strict}${LOCAL}`);
      return { ...result, code };
    };
    return {
      ...inner,
      process: (...args) => local(inner.process(...args)),
      getCacheKey: (...args) => `${inner.getCacheKey(...args)}-local-1`,
    };
  },
};
