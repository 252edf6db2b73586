import { createRequire } from 'node:module';

// Bundlers take this package's module; Node takes what it offers to `require`, in which it finds no names.
export const { GIFEncoder, applyPalette, quantize } = createRequire(import.meta.url)('gifenc');
