/** Which values are seen: the one at the top, the one at the bottom, and the pixels between. */
export interface Scale {
  readonly top: number;
  readonly bottom: number;
  readonly height: number;
}

export const yOf = ({ top, bottom, height }: Scale, value: number): number =>
  ((top - value) / (top - bottom)) * height;

export const valueOf = ({ top, bottom, height }: Scale, y: number): number =>
  top - (y / height) * (top - bottom);

/** What of a scale stays free above and below what it is fitted to. */
const MARGIN = 0.12;
/** The least that is shown at once, in the unit of the curves. */
const LEAST = 0.01;

/** The values that show curves whole between two frames. */
export function fittedScale(
  curves: readonly {
    readonly valueAt: (frame: number) => number;
    readonly frames: Float64Array;
    readonly values: Float64Array;
  }[],
  from: number,
  to: number,
): Pick<Scale, 'top' | 'bottom'> {
  let [least, greatest] = [Infinity, -Infinity];
  const take = (v: number): void => {
    least = Math.min(least, v);
    greatest = Math.max(greatest, v);
  };
  for (const { valueAt, frames, values } of curves) {
    for (let i = 0; i <= 64; i++) take(valueAt(from + ((to - from) * i) / 64));
    frames.forEach((f, i) => f >= from && f <= to && take(values[i] ?? 0));
  }
  if (greatest < least) return { top: 100, bottom: 0 };
  const span = Math.max(LEAST, greatest - least, Math.abs(greatest) * 0.02);
  const middle = (least + greatest) / 2;
  return { top: middle + span * (0.5 + MARGIN), bottom: middle - span * (0.5 + MARGIN) };
}

/** Zoomed by a factor at a height, pixels. */
export function zoomedScale(scale: Scale, y: number, by: number): Scale {
  const value = valueOf(scale, y);
  return { ...scale, top: value + (scale.top - value) * by, bottom: value + (scale.bottom - value) * by };
}

/** Moved by pixels. */
export function movedScale(scale: Scale, down: number): Scale {
  const by = (down / scale.height) * (scale.top - scale.bottom);
  return { ...scale, top: scale.top + by, bottom: scale.bottom + by };
}

/** Round values for lines across, about 40 pixels apart. */
export function valueTicks({ top, bottom, height }: Scale): number[] {
  const wanted = ((top - bottom) / height) * 40;
  const power = 10 ** Math.floor(Math.log10(wanted));
  const step = power * ([1, 2, 5, 10].find((k) => k * power >= wanted) ?? 10);
  const ticks: number[] = [];
  for (let v = Math.ceil(bottom / step) * step; v <= top; v += step) ticks.push(Number(v.toPrecision(12)));
  return ticks;
}
