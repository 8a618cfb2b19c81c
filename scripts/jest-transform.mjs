// TypeScript for Jest, by swc. Jest runs tests in a context of Node's vm, where each look at a global takes half a microsecond instead of
// some nanoseconds: a loop that says Math.abs spends its time on finding Math. So each module finds the plain ones once, at its first line.
import { createTransformer as bySwc } from '@swc/jest';

/** Globals that no test replaces. */
const PLAIN = [
  ...['Math', 'Number', 'Array', 'Object', 'String', 'Boolean', 'JSON', 'Map', 'Set', 'WeakMap', 'NaN', 'Infinity', 'isNaN', 'Symbol'],
  ...['Int8Array', 'Uint8Array', 'Uint8ClampedArray', 'Int16Array', 'Uint16Array', 'Int32Array', 'Uint32Array'],
  ...['Float32Array', 'Float64Array', 'ArrayBuffer', 'DataView'],
];
const LINE = `const { ${PLAIN.join(', ')} } = globalThis; `;

/** @typedef {[source: string, path: string, options: import('@jest/transform').TransformOptions<unknown>]} Asked */

/**
 * Swc's transformer with these options, whose modules begin with the line above.
 * @param {Parameters<typeof bySwc>[0]} options
 */
export const createTransformer = (options) => {
  const swc = /** @type {Required<ReturnType<typeof bySwc>>} */ (bySwc(options));
  return {
    ...swc,
    /** @param {Asked} asked */
    process(...asked) {
      const made = swc.process(...asked);
      return { ...made, code: LINE + made.code };
    },
    /** @param {Asked} asked */
    async processAsync(...asked) {
      const made = await swc.processAsync(...asked);
      return { ...made, code: LINE + made.code };
    },
    /** @param {Asked} asked */
    getCacheKey: (...asked) => `${swc.getCacheKey(...asked)}-plain`,
  };
};
export default { createTransformer };
