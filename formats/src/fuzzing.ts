import fc from 'fast-check';
import { InputError } from '@warper/core';
import { readMotionFile } from './read';

/** One change of a file's bytes; places are shares of its length. */
export type Mutation =
  | { readonly kind: 'byte'; readonly at: number; readonly value: number }
  | { readonly kind: 'cut'; readonly at: number; readonly length: number }
  | { readonly kind: 'repeat'; readonly at: number; readonly length: number; readonly times: number }
  | { readonly kind: 'text' | 'over'; readonly at: number; readonly text: string };

/** What breaks readers: numbers beyond all measure, structure where none belongs, endless strings. */
const NASTY = [
  'NaN',
  '-1',
  '1e999',
  '4294967295',
  '99999999999999999999',
  '{',
  '}'.repeat(40),
  '['.repeat(400),
  '"',
  '\u0000',
  'JOINT x {'.repeat(60),
  '{"a":'.repeat(300),
  'a'.repeat(5000),
  '\n\n',
];

// Not `fc.double`, which likes numbers next to nothing: all places are to be as likely.
const share = fc.integer({ min: 0, max: 999_999 }).map((n) => n / 1e6);

/** A few changes of a file. */
export const mutations = (): fc.Arbitrary<Mutation[]> =>
  fc.array(
    fc.oneof(
      // Most of what is left readable enough to go wrong later: single bytes and digits, nothing moved.
      {
        weight: 4,
        arbitrary: fc.record({
          kind: fc.constant('byte' as const),
          at: share,
          value: fc.oneof(fc.integer({ min: 0, max: 255 }), fc.integer({ min: 48, max: 57 })),
        }),
      },
      fc.record({ kind: fc.constant('cut' as const), at: share, length: fc.integer({ min: 1, max: 400 }) }),
      fc.record({
        kind: fc.constant('repeat' as const),
        at: share,
        length: fc.integer({ min: 1, max: 200 }),
        times: fc.integer({ min: 2, max: 30 }),
      }),
      fc.record({
        kind: fc.constantFrom('text' as const, 'over' as const),
        at: share,
        text: fc.constantFrom(...NASTY),
      }),
    ),
    { minLength: 1, maxLength: 4 },
  );

/** The bytes of a file after some changes. */
export function mutate(bytes: Uint8Array, changes: readonly Mutation[]): Uint8Array {
  let out = bytes;
  for (const change of changes) {
    const at = Math.floor(change.at * out.length);
    const part = (from: number, to: number): Uint8Array => out.subarray(from, to);
    switch (change.kind) {
      case 'byte':
        out = join(part(0, at), Uint8Array.of(change.value), part(at + 1, out.length));
        break;
      case 'cut':
        out = join(part(0, at), part(at + change.length, out.length));
        break;
      case 'repeat':
        out = join(
          part(0, at),
          ...Array.from({ length: change.times }, () => part(at, at + change.length)),
          part(at, out.length),
        );
        break;
      case 'over':
        out = out.slice();
        out.set(new TextEncoder().encode(change.text).subarray(0, out.length - at), at);
        break;
      case 'text':
        out = join(part(0, at), new TextEncoder().encode(change.text), part(at, out.length));
    }
  }
  return out;
}

function join(...parts: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const p of parts) {
    out.set(p, at);
    at += p.length;
  }
  return out;
}

/** One value of a JSON document in place of another; the place is a share of all its values. */
export interface JsonMutation {
  readonly at: number;
  readonly value: unknown;
}

/** Values of the wrong type, or of none. */
const ODD: readonly unknown[] = [
  null,
  true,
  '',
  'hips',
  '1e-9',
  -1,
  0,
  0.5,
  1e-300,
  1e300,
  1_000_000_000,
  4_294_967_295,
  [],
  {},
  [0, 'x', null],
  'POSITION',
];

/** A few values of a JSON document that are something else. */
export const jsonMutations = (): fc.Arbitrary<JsonMutation[]> =>
  fc.array(fc.record({ at: share, value: fc.constantFrom(...ODD) }), { minLength: 1, maxLength: 3 });

/** A document with some of its values replaced, wherever they are. */
export function mutateJson(document: unknown, changes: readonly JsonMutation[]): unknown {
  const copy = structuredClone(document);
  for (const { at, value } of changes) {
    const places: (readonly [Record<string, unknown>, string])[] = [];
    const visit = (node: unknown): void => {
      if (typeof node !== 'object' || node === null) return;
      for (const key of Object.keys(node)) {
        places.push([node as Record<string, unknown>, key]);
        visit((node as Record<string, unknown>)[key]);
      }
    };
    visit(copy);
    const [parent, key] = places[Math.floor(at * places.length)]!;
    parent[key] = structuredClone(value);
  }
  return copy;
}

/** The JSON of a GLB's first chunk, and the GLB with another in its place. */
export function glbJson(bytes: Uint8Array): unknown {
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  return JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + view.getUint32(12, true))));
}

/** A GLB with another document. */
export function withGlbJson(bytes: Uint8Array, document: unknown): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  const text = new TextEncoder().encode(JSON.stringify(document));
  const body = join(text, new Uint8Array((4 - (text.length % 4)) % 4).fill(0x20));
  const rest = bytes.subarray(20 + view.getUint32(12, true));
  const out = join(bytes.subarray(0, 20), body, rest);
  const header = new DataView(out.buffer);
  header.setUint32(8, out.length, true);
  header.setUint32(12, body.length, true);
  return out;
}

/** Longest that reading a small damaged file may take, milliseconds: far more than it does, even on a busy machine. */
const LONGEST = 10_000;

/**
 * Reads a damaged file. It must be read, or refused with an error that says where and what to do, before long.
 *
 * @returns whether it was read
 * @throws Error where it failed in any other way
 */
export async function readDamaged(bytes: Uint8Array, file: string): Promise<boolean> {
  const since = Date.now();
  try {
    await readMotionFile(bytes, file);
    return true;
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    if (error.message === '' || error.hint === '')
      throw new Error(`The error ${error.code} says nothing: "${error.message}" "${error.hint}"`, {
        cause: error,
      });
    return false;
  } finally {
    const took = Date.now() - since;
    // eslint-disable-next-line no-unsafe-finally
    if (took > LONGEST) throw new Error(`Reading took ${took} ms.`);
  }
}
