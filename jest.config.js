const shared = {
  transform: {
    '^.+\\.(tsx?|mjs)$|(meshoptimizer|three/build|three/examples|p-limit|yocto-queue|react-hotkeys-hook/.+)/.+\\.js$': [
      '@swc/jest',
      {
        jsc: { parser: { syntax: 'typescript', tsx: true }, transform: { react: { runtime: 'automatic' } }, target: 'es2022' },
        module: { type: 'commonjs' },
      },
    ],
  },
  moduleNameMapper: {
    '^@lantern/motion$': '<rootDir>/packages/motion/src/index.ts',
    '^@lantern/capture$': '<rootDir>/packages/capture/src/index.ts',
    '^@lantern/cast$': '<rootDir>/packages/cast/src/index.ts',
    '^@lantern/drive$': '<rootDir>/packages/drive/src/index.ts',
    '^@lantern/unpack$': '<rootDir>/packages/unpack/src/index.ts',
    '^@/(.*)$': '<rootDir>/apps/studio/src/$1',
    // How things look is looked at in a browser.
    '\\.css$': '<rootDir>/scripts/jest-empty.ts',
    // Nor is it worked out for every element what its style is: see there.
    '^@emotion/sheet$': '<rootDir>/scripts/jest-sheet.ts',
  },
  // The dependencies that ship no CommonJS.
  transformIgnorePatterns: [
    '/node_modules/(?!(property-graph|three|p-limit|yocto-queue|react-hotkeys-hook|d3-[a-z-]+|internmap|meshoptimizer|ndarray-pixels|ktx-parse)/)',
  ],
  testEnvironment: 'node',
  // Every use of a global within a test's context is a look-up through an interceptor, which makes code full of sums several times
  // slower than it is anywhere else: those that are in loops are handed to each module as its own names.
  sandboxInjectedGlobals: [
    ...['Math', 'Number', 'Infinity', 'Array', 'Object', 'Map', 'Set', 'String', 'DataView'],
    ...['Float32Array', 'Float64Array', 'Int8Array', 'Int16Array', 'Int32Array', 'Uint8Array', 'Uint16Array', 'Uint32Array'],
  ],
  rootDir: '.',
};

/**
 * Computing is tested as it runs: in Node itself, where what all files of tests need is read once, and sums go as fast as they do
 * anywhere else. What such a test changes for everybody (a global, a clock, a module) it would change for the files after it:
 * a test that has to is called *.alone.test.ts, and gets a world of its own.
 */
const bare = {
  runner: 'jest-light-runner',
  setupFiles: ['<rootDir>/scripts/jest-typescript.mjs'],
  rootDir: '.',
};

export default {
  // A slow machine is no failure: waits within a test say what did not come.
  testTimeout: 600_000,
  projects: [
    {
      ...bare,
      displayName: 'unit',
      testMatch: [
        '<rootDir>/packages/*/tests/**/*.test.ts',
        '<rootDir>/apps/cli/tests/**/*.test.ts',
        '<rootDir>/apps/studio/tests/unit/**/*.test.ts',
      ],
      testPathIgnorePatterns: ['\\.alone\\.test\\.ts$'],
    },
    // Parts of the screen, each in a document without a browser.
    {
      ...shared,
      displayName: 'components',
      testMatch: ['<rootDir>/apps/studio/tests/unit/**/*.test.tsx'],
      setupFiles: ['<rootDir>/scripts/jest-dom.ts', '<rootDir>/scripts/jest-react.ts'],
    },
    { ...shared, displayName: 'alone', testMatch: ['<rootDir>/apps/studio/tests/unit/**/*.alone.test.ts'] },
    // Long runs over many seeds, whole sets, and the command line as a process, after the unit tests.
    { ...bare, displayName: 'slow', testMatch: ['<rootDir>/packages/*/slow/**/*.test.ts', '<rootDir>/apps/cli/slow/**/*.test.ts'] },
    { ...bare, displayName: 'database', testMatch: ['<rootDir>/apps/studio/tests/*.test.ts'] },
    { ...shared, displayName: 'interface', testEnvironment: '<rootDir>/e2e/environment.ts', testMatch: ['<rootDir>/e2e/**/*.test.ts'] },
  ],
};
