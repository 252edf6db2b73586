/**
 * A value that follows from others: what it is called, how many results are kept, and how it is made. Inputs are told
 * apart by identity (objects) or by value (numbers, texts, booleans, null), so objects must not change once they are inputs.
 */
export interface Derivation<Inputs extends readonly unknown[], Result> {
  readonly name: string;
  /** Results kept; the one unused for longest goes first. */
  readonly keep: number;
  readonly derive: (memory: Memory, ...inputs: Inputs) => Result;
}

/** Names a derivation; `derive` may recall others from the memory that it is given. */
export const derivation = <Inputs extends readonly unknown[], Result>(
  name: string,
  keep: number,
  derive: (memory: Memory, ...inputs: Inputs) => Result,
): Derivation<Inputs, Result> => ({ name, keep, derive });

/** Equal contents kept under one object. */
const MOST_INTERNED = 20_000;

/** A result in the memory; wrapped, so that undefined can be one. */
interface Kept {
  readonly value: unknown;
}

/**
 * Keeps derived values, so that they are made once for the same inputs. It holds nothing that cannot be made again: with
 * or without it, full or dropped, results are the same to the bit. Each library owns one; nothing is kept outside of it.
 */
export class Memory {
  private readonly results = new Map<Derivation<never, unknown>, Map<string, Kept>>();
  private numbers = new WeakMap<object, number>();
  private interned = new Map<string, object>();
  private nextNumber = 1;

  /** @param scale factor on how much each derivation keeps; 0 keeps nothing, for tests */
  constructor(private readonly scale = 1) {}

  /** The derived value for these inputs. */
  recall<Inputs extends readonly unknown[], Result>(
    of: Derivation<Inputs, Result>,
    ...inputs: Inputs
  ): Result {
    const most = Math.floor(of.keep * this.scale);
    if (most < 1) return of.derive(this, ...inputs);
    let kept = this.results.get(of);
    if (!kept) this.results.set(of, (kept = new Map()));
    const key = this.keyOf(inputs);
    const cached = kept.get(key);
    if (cached) {
      // Maps keep the order of insertion: what is used goes to the end.
      kept.delete(key);
      kept.set(key, cached);
      return cached.value as Result;
    }
    const value = of.derive(this, ...inputs);
    kept.set(key, { value });
    if (kept.size > most) kept.delete(kept.keys().next().value!);
    return value;
  }

  /**
   * One object for all plain values of equal content, so that results can be shared between them.
   *
   * @param text what says that contents are equal: different for different contents
   */
  intern<T extends object>(text: string, make: () => T): T {
    let one = this.interned.get(text);
    if (!one) {
      if (this.interned.size >= MOST_INTERNED) this.interned.clear();
      this.interned.set(text, (one = make()));
    }
    return one as T;
  }

  /** Lets go of everything; what is asked for next is made again. */
  drop(): void {
    this.results.clear();
    this.interned.clear();
    this.numbers = new WeakMap();
  }

  /** How many results are kept, of one derivation or of all. */
  size(of?: Derivation<never, unknown>): number {
    if (of) return this.results.get(of)?.size ?? 0;
    let sum = 0;
    for (const kept of this.results.values()) sum += kept.size;
    return sum;
  }

  private keyOf(inputs: readonly unknown[]): string {
    let key = '';
    for (let i = 0; i < inputs.length; i++) key += this.partOf(inputs[i]);
    return key;
  }

  private partOf(input: unknown): string {
    if (input !== null && (typeof input === 'object' || typeof input === 'function')) {
      let number = this.numbers.get(input);
      if (number === undefined) this.numbers.set(input, (number = this.nextNumber++));
      return `#${number}|`;
    }
    if (typeof input === 'number' && input !== 0) return `${input}|`;
    if (typeof input === 'string') return `"${input.length}:${input}|`;
    // -0 and 0 lead to different bits.
    return Object.is(input, -0) ? '-0|' : `${String(input)}|`;
  }
}
