import { InputError } from '@warper/core';

const SPACE = 32;
const NEWLINE = 10;
const MINUS = 45;
const ZERO = 48;
/** The point, counted from the digit zero. */
const POINT = 46 - ZERO;
/** Up to 15 digits are whole numbers that a float holds exactly, so one division gives the nearest value. */
const EXACT_DIGITS = 15;

/** Walks the words and numbers of a text file, byte by byte, and knows the line it is on. */
export class Cursor {
  private at = 0;
  /** Line of the next word, counted from 1. */
  line = 1;

  constructor(private readonly bytes: Uint8Array) {
    // A byte order mark is no word.
    if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) this.at = 3;
  }

  /** Skips white space; with `stay` only up to the end of the line. Returns whether anything is left there. */
  private advance(stay: boolean): boolean {
    const { bytes } = this;
    while (this.at < bytes.length) {
      const c = bytes[this.at]!;
      if (c > SPACE) return true;
      if (c === NEWLINE) {
        if (stay) return false;
        this.line++;
      }
      this.at++;
    }
    return false;
  }

  /** The next word on this or a later line; empty at the end of the file. */
  word(): string {
    return this.advance(false) ? this.take() : '';
  }

  /** The next word without moving on. */
  peek(): string {
    const [at, line] = [this.at, this.line];
    const word = this.word();
    this.at = at;
    this.line = line;
    return word;
  }

  private take(): string {
    const start = this.at;
    while (this.at < this.bytes.length && this.bytes[this.at]! > SPACE) this.at++;
    return decode(this.bytes.subarray(start, Math.min(this.at, start + 1000)));
  }

  /** What is left of this line, trimmed. */
  rest(): string {
    const start = this.at;
    while (this.at < this.bytes.length && this.bytes[this.at] !== NEWLINE) this.at++;
    return decode(this.bytes.subarray(start, Math.min(this.at, start + 1000))).trim();
  }

  /** Whether another word stands on this line. */
  hasOnLine(): boolean {
    return this.advance(true);
  }

  /** Moves to the next line that has a word; false at the end of the file. */
  nextLine(): boolean {
    return this.advance(false);
  }

  /** Reads a number on this line, NaN where the next word is none. Plain decimals are read without a string. */
  number(): number {
    const { bytes } = this;
    const start = this.at;
    let i = start;
    let sign = 1;
    if (bytes[i] === 45) {
      sign = -1;
      i++;
    } else if (bytes[i] === 43) i++;
    let digits = 0;
    let value = 0;
    let places = 0;
    let point = false;
    for (; i < bytes.length; i++) {
      const c = bytes[i]!;
      if (c >= 48 && c <= 57) {
        value = value * 10 + (c - 48);
        digits++;
        if (point) places++;
      } else if (c === 46 && !point) point = true;
      else break;
    }
    const plain = i >= bytes.length || bytes[i]! <= SPACE;
    if (plain && digits > 0 && digits <= EXACT_DIGITS && places <= 22) {
      this.at = i;
      return (sign * value) / POWERS[places]!;
    }
    const word = this.take();
    return /^[-+]?(\d+\.?\d*|\.\d+)([eE][-+]?\d+)?$/.test(word) ? Number(word) : NaN;
  }

  /**
   * Reads numbers on this line into `out` from offset `o` on.
   *
   * @returns how many there were, up to `count`; the first word that is no finite number ends them
   */
  numbers(out: Float64Array, o: number, count: number): number {
    const { bytes } = this;
    const end = bytes.length;
    let at = this.at;
    for (let n = 0; n < count; n++) {
      while (at < end && bytes[at]! <= SPACE && bytes[at] !== NEWLINE) at++;
      const start = at;
      const negative = bytes[at] === MINUS;
      if (negative) at++;
      let digits = 0;
      let value = 0;
      let point = -1;
      for (; at < end; at++) {
        const c = bytes[at]! - ZERO;
        if (c >= 0 && c <= 9) {
          value = value * 10 + c;
          digits++;
        } else if (c === POINT && point < 0) point = digits;
        else break;
      }
      // Plain decimals; anything else is read by the long way.
      if (digits > 0 && digits <= EXACT_DIGITS && (at >= end || bytes[at]! <= SPACE)) {
        const whole = point < 0 ? value : value / POWERS[digits - point]!;
        out[o + n] = negative ? 0 - whole : whole;
        continue;
      }
      this.at = start;
      const word = this.hasOnLine() ? this.number() : NaN;
      if (!Number.isFinite(word)) return n;
      out[o + n] = word;
      at = this.at;
    }
    this.at = at;
    return count;
  }

  /** An error at the current line. */
  error(code: string, message: string, hint = 'Export the file again.'): InputError {
    return new InputError(code, message, { place: { line: this.line }, hint });
  }
}

const POWERS = Array.from({ length: 23 }, (_, i) => Number(`1e${i}`));
const decoder = new TextDecoder();
const decode = (bytes: Uint8Array): string => decoder.decode(bytes);
