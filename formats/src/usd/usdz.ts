import { zipSync } from 'fflate';

/** Files in a package begin at multiples of so many bytes (USDZ File Format Specification 1.3, "Layout"). */
const ALIGNED = 64;
/** Bytes of a zip's local header before the name, and of an extra field before its content. */
const HEADER = { local: 30, extra: 4 } as const;
/** Id of the extra field that only fills: one that no other use has taken. */
const FILLING = 0x1986;

/** A USD layer as a package of it alone (".usdz"): not packed, and aligned. */
export function usdz(layer: Uint8Array, name: string): Uint8Array {
  const file = `${name}.usda`;
  const length = new TextEncoder().encode(file).length;
  const before = HEADER.local + length + HEADER.extra;
  const filling = new Uint8Array((ALIGNED - (before % ALIGNED)) % ALIGNED);
  return zipSync({ [file]: [layer, { level: 0, extra: { [FILLING]: filling } }] });
}
