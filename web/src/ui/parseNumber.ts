import { frameOfTimecode, parseRate } from '@warper/core';

/** What a number field reads: sums, brackets and units. */
export interface NumberUnits {
  /** Frames a second, so that `2s` and `10f` can be read; without it units of time are refused. */
  readonly framesPerSecond?: number;
}

/**
 * Reads what was typed into a number field: `124+54`, `(3-1)*8`, `1,5`; in fields of frames also `2s`, `10f` and
 * timecode such as `00:00:02:10`.
 * Null where it is none of that.
 */
export function parseNumber(text: string, units: NumberUnits = {}): number | null {
  const tokens = text.replace(/,/g, '.').match(/\d+(?::\d+)*[:;]\d+|\d+(?:\.\d*)?|\.\d+|[-+*/()×]|[a-z°]+/gi);
  if (!tokens || tokens.join('') !== text.replace(/,/g, '.').replace(/\s+/g, '')) return null;
  let at = 0;
  const take = (): string | undefined => tokens[at++];
  const peek = (): string | undefined => tokens[at];
  const unit = (value: number): number => {
    const word = peek();
    if (!word || !/[a-z°]/i.test(word)) return value;
    take();
    if (word === 's' && units.framesPerSecond) return value * units.framesPerSecond;
    if (word === 'f' && units.framesPerSecond) return value;
    if (['m', '°', 'x'].includes(word)) return value;
    if (word === 'cm') return value / 100;
    return NaN;
  };
  const timecode = (token: string): number =>
    (units.framesPerSecond && frameOfTimecode(token, parseRate(units.framesPerSecond))) ?? NaN;
  const factor = (): number => {
    const token = take();
    if (token === '-') return -factor();
    if (token === '+') return factor();
    if (token === '(') {
      const value = sum();
      return take() === ')' ? value : NaN;
    }
    if (token && /[:;]/.test(token)) return timecode(token);
    return token !== undefined && /^[\d.]/.test(token) ? unit(Number(token)) : NaN;
  };
  const product = (): number => {
    let value = factor();
    while (['*', '×', '/'].includes(peek() ?? ''))
      value = take() === '/' ? value / factor() : value * factor();
    return value;
  };
  const sum = (): number => {
    let value = product();
    while (['+', '-'].includes(peek() ?? '')) value = take() === '-' ? value - product() : value + product();
    return value;
  };
  const value = sum();
  return at === tokens.length && Number.isFinite(value) ? value : null;
}
