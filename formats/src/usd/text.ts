/**
 * Pieces of USD text (OpenUSD's ".usda" layers; AOUSD Core Specification 1.0, "Text file format"). Numbers are as short as they can be at
 * a hundredth of a millimetre, or a hundred-thousandth of a rotation's component.
 */

const DIGITS = 6;

/** A number without an exponent or a needless end. */
export function usdNumber(value: number): string {
  const text = value.toFixed(DIGITS).replace(/\.?0+$/, '');
  return text === '-0' ? '0' : text;
}

export const usdString = (text: string): string =>
  // eslint-disable-next-line no-control-regex
  `"${text.replace(/[\\"]/g, '\\$&').replace(/[\u0000-\u001f]/g, ' ')}"`;

/** Numbers in threes, as (x, y, z). */
export function usdVectors(values: ArrayLike<number>, count = values.length / 3): string {
  const parts: string[] = [];
  for (let i = 0; i < count; i++)
    parts.push(
      `(${usdNumber(values[i * 3]!)}, ${usdNumber(values[i * 3 + 1]!)}, ${usdNumber(values[i * 3 + 2]!)})`,
    );
  return `[${parts.join(', ')}]`;
}

/** Quaternions xyzw as (w, x, y, z), the order of USD. */
export function usdQuaternions(values: ArrayLike<number>): string {
  const parts: string[] = [];
  for (let i = 0; i + 3 < values.length; i += 4)
    parts.push(
      `(${usdNumber(values[i + 3]!)}, ${usdNumber(values[i]!)}, ${usdNumber(values[i + 1]!)}, ${usdNumber(values[i + 2]!)})`,
    );
  return `[${parts.join(', ')}]`;
}

/** A matrix of 16 numbers, column by column as glTF has them, as USD's rows: its vectors are rows, and multiply from the left. */
export function usdMatrix(m: ArrayLike<number>): string {
  const row = (i: number): string => `(${[0, 1, 2, 3].map((k) => usdPrecise(m[i * 4 + k]!)).join(', ')})`;
  return `(${[0, 1, 2, 3].map(row).join(', ')})`;
}

/** A number of a matrix that is multiplied on: as exactly as it is. */
const usdPrecise = (value: number): string => String(Number(value.toPrecision(9)));

/** Names of prims: letters, digits and underscores, none twice among siblings. */
export function usdNames(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name) => {
    const plain = name.replace(/[^A-Za-z0-9_]/g, '_').replace(/^(?=[0-9])|^$/, '_');
    let free = plain;
    for (let n = 2; taken.has(free); n++) free = `${plain}_${n}`;
    taken.add(free);
    return free;
  });
}
