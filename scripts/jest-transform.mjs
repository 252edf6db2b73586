// TypeScript for Jest through swc, with the globals of a module as constants of its own. Jest runs every module in a
// context of `node:vm`, where looking up a global such as Math costs more than the arithmetic with it (Jest's option
// sandboxInjectedGlobals says so, and helps CommonJS only). The tests of the core take two thirds of the time this way.
import swc from '@swc/jest';

const GLOBALS = [
  'Array',
  'Float32Array',
  'Float64Array',
  'JSON',
  'Map',
  'Math',
  'Number',
  'Object',
  'Set',
  'String',
];
const HEAD = `const { ${GLOBALS.join(', ')} } = globalThis; `;

const transformer = swc.createTransformer({
  jsc: {
    parser: { syntax: 'typescript', tsx: true },
    target: 'es2022',
    transform: { react: { runtime: 'automatic' } },
  },
  module: { type: 'es6' },
});

const withGlobals = (result) => ({ ...result, code: HEAD + result.code });

export default {
  canInstrument: transformer.canInstrument,
  process: (...given) => withGlobals(transformer.process(...given)),
  processAsync: async (...given) => withGlobals(await transformer.processAsync(...given)),
  getCacheKey: (...given) => transformer.getCacheKey(...given) + HEAD,
};
