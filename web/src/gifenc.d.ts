/** The parts of gifenc that are used; it has no types of its own. */
declare module 'gifenc' {
  export type Palette = number[][];
  export function quantize(rgba: Uint8ClampedArray, colours: number): Palette;
  export function applyPalette(rgba: Uint8ClampedArray, palette: Palette): Uint8Array;
  export function GIFEncoder(): {
    writeFrame(
      index: Uint8Array,
      width: number,
      height: number,
      options: { readonly palette: Palette; readonly delay: number },
    ): void;
    finish(): void;
    bytes(): Uint8Array<ArrayBuffer>;
  };
}
