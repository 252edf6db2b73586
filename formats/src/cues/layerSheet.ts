import type { Contact, Dial, KeyCurve, LayerLane, RootCurve, RootFeet, ValueKey } from '@warper/core';
import { CONTACT_HANDS, DIALS, InputError, KEY_CURVES, ROOT_CURVES } from '@warper/core';
import Joi from 'joi';
import { check, metres, whole, word } from './checkKeys';
import type { CueLook } from './lookSheet';
import { checkLook } from './lookSheet';
import type { CuePart } from './partSheet';
import { PART, checkPart } from './partSheet';

/** What replaces, or adds to, the beats below it on some bones. */
export interface CueLayer {
  readonly name: string;
  readonly kind?: 'override' | 'additive';
  readonly mask?: readonly (string | { readonly bone: string; readonly weight?: number })[];
  readonly softness?: number;
  readonly weight?: number | readonly (readonly [number, number])[];
  readonly weightShape?: LayerLane['weightShape'];
  readonly reference?: 'first' | 'rest' | number;
  readonly span?: CueSpan;
  readonly cues?: readonly LayerCue[];
  readonly keys?: Readonly<Record<string, readonly CueKey[]>>;
  /** Keys that move the whole character. */
  readonly root?: Readonly<Partial<Record<RootCurve, readonly CueRootKey[]>>>;
  readonly carriesOn?: boolean;
  readonly feet?: RootFeet;
  /** Keys of dials. */
  readonly dials?: Readonly<Partial<Record<Dial, readonly CueRootKey[]>>>;
  readonly look?: CueLook;
  /** Name of the layer that it is linked with, as its left or right; all else of it is as that one has it. */
  readonly otherSideOf?: string;
  readonly contacts?: readonly CueContact[];
}

/** A hand that stays in its place; it is there at once and let go in 6 frames, unless said otherwise. */
export type CueContact = Pick<Contact, 'hand' | 'start' | 'end'> & Partial<Contact>;

/** When a layer does something: to the end where it has none. */
export interface CueSpan {
  readonly start: number;
  readonly end?: number;
  readonly fadeIn?: number;
  readonly fadeOut?: number;
}

/** Metres, or degrees, at a frame; slopes a frame. */
export type CueRootKey = Pick<ValueKey, 'frame' | 'value'> &
  Partial<Pick<ValueKey, 'curve'>> & { readonly tangent?: number; readonly into?: number };

/** One use of a clip on a layer. */
export interface LayerCue extends CuePart {
  readonly at: number;
  readonly fadeIn?: number;
  readonly fadeOut?: number;
}

/** A joint's rotation at a frame, in degrees about its own x, y and z, turned in the order x, y, z. */
export interface CueKey {
  readonly frame: number;
  readonly turn: readonly [number, number, number];
  readonly curve?: KeyCurve;
  /** Degrees a frame about x, y and z with which a free key is left, and arrived at where `into` does not say otherwise. */
  readonly tangent?: readonly [number, number, number];
  readonly into?: readonly [number, number, number];
}

const KEYS = {
  layer: {
    name: word.required(),
    kind: Joi.valid('override', 'additive'),
    mask: Joi.array()
      .items(word, Joi.object({ bone: word.required(), weight: Joi.number().min(0).max(1) }))
      .max(5000),
    softness: whole.min(0).max(100),
    weight: Joi.alternatives(
      Joi.number().min(0).max(1),
      Joi.array()
        .items(Joi.array().ordered(metres.required(), Joi.number().min(0).max(1).required()))
        .max(10_000),
    ),
    weightShape: Joi.valid('linear', 'smooth'),
    reference: Joi.alternatives(Joi.valid('first', 'rest'), Joi.number().min(0).max(1e7)),
    span: Joi.object(),
    cues: Joi.array().max(100_000),
    keys: Joi.object(),
    root: Joi.object(),
    carriesOn: Joi.boolean(),
    feet: Joi.valid('slide', 'hold', 'step'),
    dials: Joi.object(),
    look: Joi.object(),
    otherSideOf: word,
    contacts: Joi.array().max(1000),
  },
  contact: {
    hand: Joi.valid(...CONTACT_HANDS).required(),
    start: whole.required(),
    end: whole.greater(Joi.ref('start')).required(),
    fadeIn: whole.min(0).max(1e6),
    fadeOut: whole.min(0).max(1e6),
  },
  span: {
    start: whole.required(),
    end: whole,
    fadeIn: whole.min(0).max(1e6),
    fadeOut: whole.min(0).max(1e6),
  },
  root: Object.fromEntries(ROOT_CURVES.map((name) => [name, Joi.array().max(100_000)])),
  dialKeys: Object.fromEntries(Object.keys(DIALS).map((name) => [name, Joi.array().max(100_000)])),
  rootKey: {
    frame: whole.required(),
    value: metres.required(),
    curve: Joi.valid(...KEY_CURVES),
    tangent: metres,
    into: metres,
  },
  key: {
    frame: whole.required(),
    turn: Joi.array().items(metres).length(3).required(),
    curve: Joi.valid(...KEY_CURVES),
    tangent: Joi.array().items(metres).length(3),
    into: Joi.array().items(metres).length(3),
  },
  layerCue: {
    ...PART,
    at: whole.required(),
    fadeIn: whole.min(0).max(1e7),
    fadeOut: whole.min(0).max(1e7),
  },
} as const;

/** Checks a layer of a character with all that is on it. */
export function checkLayer(value: unknown, path: string): void {
  const layer = check<CueLayer>(value, KEYS.layer, path);
  layer.cues?.forEach((cue, k) =>
    checkPart(check<LayerCue>(cue, KEYS.layerCue, `${path}.cues[${k}]`), `${path}.cues[${k}]`),
  );
  for (const [joint, keys] of Object.entries(layer.keys ?? {})) {
    const at = `${path}.keys.${joint}`;
    if (!Array.isArray(keys))
      throw new InputError('cues', `Expected a list for ${at}.`, { place: { path: at } });
    keys.forEach((key, k) => check(key, KEYS.key, `${at}[${k}]`));
  }
  if (layer.span) check(layer.span, KEYS.span, `${path}.span`);
  checkLook(layer.look, `${path}.look`);
  checkOtherSide(layer, path);
  layer.contacts?.forEach((contact, k) => check(contact, KEYS.contact, `${path}.contacts[${k}]`));
  checkValueKeys(layer.root, 'root', `${path}.root`);
  checkValueKeys(layer.dials, 'dialKeys', `${path}.dials`);
}

/** The other side of a layer has nothing of its own. */
function checkOtherSide({ name: _, otherSideOf, ...own }: CueLayer, path: string): void {
  const [first] = Object.keys(own);
  if (otherSideOf === undefined || first === undefined) return;
  throw new InputError('cues', `The other side of ${otherSideOf} has ${first} as that layer has it.`, {
    place: { path: `${path}.${first}` },
    hint: 'Leave it out, or "otherSideOf".',
  });
}

/** Lists of keys of numbers by name. */
function checkValueKeys(lists: object | undefined, kind: 'root' | 'dialKeys', path: string): void {
  if (!lists) return;
  for (const [name, keys] of Object.entries(
    check<Record<string, readonly unknown[]>>(lists, KEYS[kind], path),
  ))
    keys.forEach((key, k) => check(key, KEYS.rootKey, `${path}.${name}[${k}]`));
}
