import type {
  KeyCurve,
  LayerLane,
  RootCurve,
  RootFeet,
  ValueKey,
  ChoiceLimits,
  Contact,
  Crossfade,
  Dial,
  Dials,
  Fields,
  Join,
  Look,
  SeamPlacing,
  SegmentSettings,
  Stepping,
  Travel,
} from '@warper/core';
import {
  CHOICE_FIELDS,
  CONTACT_HANDS,
  DIALS,
  InputError,
  JOIN_KINDS,
  KEY_CURVES,
  LOOK_LIMITS,
  ROOT_CURVES,
  SEAM_FIELDS,
  SETTINGS,
  defined,
  dialsSchema,
} from '@warper/core';
import { closest } from 'fastest-levenshtein';
import Joi from 'joi';

/** A cue sheet: the beats of every character in order. Headings and turns in degrees, positions in metres. */
export interface CueSheet {
  readonly format: 'warper-cues';
  readonly version: 1;
  readonly rate: number | string;
  readonly name?: string;
  /** How joins are made that no cue sets itself: by the plain rules (default), or chosen by what they measure. */
  readonly seams?: 'plain' | 'auto';
  /** Files whose clips may be put between two that do not join, beside those of the cues. */
  readonly bridges?: readonly string[];
  readonly characters: readonly CueCharacter[];
}

/** One character's beats. */
export interface CueCharacter {
  readonly name: string;
  readonly body?: string;
  readonly scale?: number;
  readonly start?: { readonly x?: number; readonly z?: number; readonly heading?: number };
  readonly footLock?: boolean;
  /** How the character performs whatever it plays: arms further out, lower, wider. */
  readonly dials?: Dials;
  readonly cues: readonly Cue[];
  /** Bottom first. */
  readonly layers?: readonly CueLayer[];
}

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
  readonly contacts?: readonly CueContact[];
}

/** A hand that stays in its place; it is there at once and let go in 6 frames, unless said otherwise. */
export type CueContact = Pick<Contact, 'hand' | 'start' | 'end'> & Partial<Contact>;

/** What the head follows: a place in metres, or a character by name; all else as in `Look`. */
export interface CueLook extends Partial<Omit<Look, 'at'>> {
  readonly at: readonly [number, number, number] | string;
}

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

/** Settings of a segment that a sheet says otherwise than the scene does. */
type SaidOtherwise = 'hold' | 'travel' | 'seam';

/** Which part of which clip, and how it is played: settings of a segment (see `SETTINGS`), all of which may be left out. */
export interface CuePart extends Partial<Omit<SegmentSettings, SaidOtherwise>> {
  readonly clip: string;
  readonly take?: string;
  readonly scale?: number;
  readonly hold?: { readonly start?: number; readonly end?: number };
  /** The user's own steps: spans of samples by joint. */
  readonly steps?: Readonly<Record<string, readonly (readonly [number, number])[]>>;
}

/** One beat, and how it joins the beat before. */
export interface Cue extends CuePart {
  readonly gap?: number;
  readonly travel?: Travel | 'in-place';
  /** Trims both sides to the best pair of samples within so many frames of the end before and of this start. */
  readonly match?: { readonly within: number };
  readonly seam?: CueSeam;
  /** That the join is chosen by what it measures, and what the choice keeps to. */
  readonly choose?: CueChoice;
}

/** Limits of a choice, all of which may be left out. */
export type CueChoice = Partial<Omit<ChoiceLimits, 'bridges'>> & { readonly bridge?: boolean };

/** The join to the beat before: settings of a seam, all of which may be left out. */
export interface CueSeam
  extends
    Partial<Omit<SeamPlacing, 'nudge' | 'gap' | 'auto' | 'chosen' | 'limits'>>,
    Partial<Omit<Crossfade, 'kind'>>,
    Partial<Omit<Stepping, 'kind'>> {
  readonly kind?: Join['kind'];
  readonly frames?: number;
  readonly overlap?: number | 'auto';
  readonly nudge?: { readonly x?: number; readonly z?: number; readonly turn?: number };
}

const metres = Joi.number().min(-1e6).max(1e6);
const whole = Joi.number().integer();
const word = Joi.string().min(1).max(1000);

/** The rules of those fields of an entity that a sheet may set. */
const rulesFor = (fields: Fields, ...where: readonly ('part' | 'beat')[]): Record<string, Joi.Schema> =>
  Object.fromEntries(
    Object.entries(fields).flatMap(([name, field]) =>
      field.cue && where.includes(field.cue) ? [[name, field.cueSchema ?? field.schema]] : [],
    ),
  );

/** What beats and layers have in common. */
const PART = {
  clip: word.required(),
  take: word,
  scale: Joi.number().greater(0).max(1e6),
  ...rulesFor(SETTINGS, 'part'),
  steps: Joi.object().pattern(
    Joi.string(),
    Joi.array()
      .items(Joi.array().ordered(whole.min(0).required(), whole.min(1).required()))
      .max(100_000),
  ),
} as const;

const { bridges, ...choiceFields } = CHOICE_FIELDS;

/** The rules of limits by what a sheet calls them. */
const CHOICE_KEYS = {
  ...Object.fromEntries(Object.entries(choiceFields).map(([name, field]) => [name, field.schema])),
  bridge: bridges.schema,
};

const KEYS = {
  sheet: {
    format: Joi.valid('warper-cues').required(),
    version: Joi.valid(1).required(),
    rate: Joi.alternatives(Joi.number().greater(0).max(10_000), Joi.string().max(40)).required(),
    name: word,
    seams: Joi.valid('plain', 'auto'),
    bridges: Joi.array().items(word).max(1000),
    characters: Joi.array().min(1).max(1000).required(),
  },
  character: {
    name: word.required(),
    body: word,
    scale: Joi.number().greater(0).max(1e6),
    start: Joi.object(),
    footLock: Joi.boolean(),
    dials: dialsSchema,
    cues: Joi.array().min(1).max(100_000).required(),
    layers: Joi.array().max(1000),
  },
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
    contacts: Joi.array().max(1000),
  },
  contact: {
    hand: Joi.valid(...CONTACT_HANDS).required(),
    start: whole.required(),
    end: whole.greater(Joi.ref('start')).required(),
    fadeIn: whole.min(0).max(1e6),
    fadeOut: whole.min(0).max(1e6),
  },
  dialKeys: Object.fromEntries(Object.keys(DIALS).map((name) => [name, Joi.array().max(100_000)])),
  look: {
    at: Joi.alternatives(word, Joi.array().items(metres).length(3)).required(),
    lag: Joi.number().min(0).max(LOOK_LIMITS.lag),
    turn: Joi.number().min(0).max(LOOK_LIMITS.turn),
    tilt: Joi.number().min(0).max(LOOK_LIMITS.tilt),
    chest: Joi.number().min(0).max(1),
  },
  span: {
    start: whole.required(),
    end: whole,
    fadeIn: whole.min(0).max(1e6),
    fadeOut: whole.min(0).max(1e6),
  },
  root: Object.fromEntries(ROOT_CURVES.map((name) => [name, Joi.array().max(100_000)])),
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
  start: { x: metres, z: metres, heading: metres },
  cue: {
    ...PART,
    ...rulesFor(SETTINGS, 'beat'),
    gap: whole.min(0).max(1e7),
    match: Joi.object(),
    choose: Joi.object(),
  },
  choose: CHOICE_KEYS,
  layerCue: {
    ...PART,
    at: whole.required(),
    fadeIn: whole.min(0).max(1e7),
    fadeOut: whole.min(0).max(1e7),
  },
  mark: {
    frame: whole.min(1).required(),
    x: metres.required(),
    z: metres.required(),
    heading: metres.required(),
  },
  match: { within: whole.min(1).max(1e6).required() },
  hold: { start: whole.min(0).max(1e7), end: whole.min(0).max(1e7) },
  seam: {
    kind: Joi.valid(...Object.keys(JOIN_KINDS)),
    overlap: Joi.alternatives(whole.min(0).max(1e7), Joi.valid('auto')),
    ...rulesFor(SEAM_FIELDS, 'part'),
    ...Object.assign({}, ...Object.values(JOIN_KINDS).map((kind) => rulesFor(kind, 'part'))),
  },
  nudge: { x: metres, z: metres, turn: metres },
} as const;

/**
 * Checks a cue sheet.
 *
 * @throws InputError `cues` with the path of what is wrong; an unknown key names the nearest known one
 */
export function parseCueSheet(value: unknown): CueSheet {
  const sheet = check<CueSheet>(value, 'sheet', '');
  sheet.characters.forEach((raw, i) => {
    const path = `characters[${i}]`;
    const character = check<CueCharacter>(raw, 'character', path);
    if (character.start) check(character.start, 'start', `${path}.start`);
    character.cues.forEach((cue, j) =>
      checkCue(check<Cue>(cue, 'cue', `${path}.cues[${j}]`), j, `${path}.cues[${j}]`),
    );
    character.layers?.forEach((layer, j) => checkLayer(layer, `${path}.layers[${j}]`));
  });
  return sheet;
}

function checkLayer(value: unknown, path: string): void {
  const layer = check<CueLayer>(value, 'layer', path);
  layer.cues?.forEach((cue, k) =>
    checkPart(check<LayerCue>(cue, 'layerCue', `${path}.cues[${k}]`), `${path}.cues[${k}]`),
  );
  for (const [joint, keys] of Object.entries(layer.keys ?? {})) {
    const at = `${path}.keys.${joint}`;
    if (!Array.isArray(keys))
      throw new InputError('cues', `Expected a list for ${at}.`, { place: { path: at } });
    keys.forEach((key, k) => check(key, 'key', `${at}[${k}]`));
  }
  if (layer.span) check(layer.span, 'span', `${path}.span`);
  if (layer.look) check(layer.look, 'look', `${path}.look`);
  layer.contacts?.forEach((contact, k) => check(contact, 'contact', `${path}.contacts[${k}]`));
  checkValueKeys(layer.root, 'root', `${path}.root`);
  checkValueKeys(layer.dials, 'dialKeys', `${path}.dials`);
}

/** Lists of keys of numbers by name. */
function checkValueKeys(lists: object | undefined, kind: 'root' | 'dialKeys', path: string): void {
  if (!lists) return;
  for (const [name, keys] of Object.entries(check<Record<string, readonly unknown[]>>(lists, kind, path)))
    keys.forEach((key, k) => check(key, 'rootKey', `${path}.${name}[${k}]`));
}

const failAt =
  (path: string) =>
  (message: string, key: string, hint = ''): never => {
    throw new InputError('cues', message, { place: { path: `${path}.${key}` }, hint });
  };

/** What no schema of one key can say about a part of a clip. */
function checkPart(cue: CuePart, path: string): void {
  const fail = failAt(path);
  if (cue.length !== undefined && cue.speed !== undefined) {
    fail('A cue has either a length or a speed, not both.', 'length', 'A length sets the speed.');
  }
  if (cue.hold) check(cue.hold, 'hold', `${path}.hold`);
  checkRising(cue.speedCurve, 'speedCurve', fail);
}

function checkRising(
  points: readonly (readonly [number, number])[] | null | undefined,
  key: string,
  fail: ReturnType<typeof failAt>,
): void {
  points?.forEach(([x, y], i) => {
    const before = points[i - 1];
    if (before && (x <= before[0] || y < before[1])) {
      fail(
        `Point ${i + 1} of the curve lies before, or below, the one before it.`,
        key,
        'Places grow and values never fall.',
      );
    }
  });
}

function checkCue(cue: Cue, index: number, path: string): void {
  const fail = failAt(path);
  checkPart(cue, path);
  const marks = cue.marks?.map((m, i) => check<{ frame: number }>(m, 'mark', `${path}.marks[${i}]`)) ?? [];
  marks.forEach((m, i) => {
    if (i > 0 && m.frame <= defined(marks[i - 1]).frame)
      fail('Marks come in order of their frames.', `marks[${i}].frame`);
  });
  if (cue.travel === 'path' && !cue.path)
    fail('Travel along a path needs a path.', 'travel', 'Give its points: "path": [[x, z], ...].');
  if (cue.path && cue.travel !== 'path')
    fail('A path is for travel along it.', 'path', 'Add "travel": "path".');
  if (cue.match) {
    check(cue.match, 'match', `${path}.match`);
    if (index === 0) fail('The first cue has nothing before it to match.', 'match');
  }
  if (cue.choose) {
    check(cue.choose, 'choose', `${path}.choose`);
    if (index === 0) fail('The first cue has nothing before it to join.', 'choose');
    if (cue.seam ?? cue.match ?? cue.gap)
      fail(
        'A cue either has its join chosen or says itself what it is.',
        'choose',
        'Leave out "choose", or "seam", "match" and "gap".',
      );
  }
  if (!cue.seam) return;
  if (index === 0) fail('The first cue has no seam: nothing comes before it.', 'seam');
  const seam = check<CueSeam>(cue.seam, 'seam', `${path}.seam`);
  if (seam.nudge) check(seam.nudge, 'nudge', `${path}.seam.nudge`);
  if (typeof seam.curve === 'object') checkRising(seam.curve, 'seam.curve', fail);
  const overlaps = seam.overlap !== undefined && seam.overlap !== 0;
  if (seam.frames !== undefined && seam.kind !== 'settle') {
    fail(
      'Only a seam that settles has frames.',
      'seam.frames',
      'Make its kind "settle", or give a crossfade its overlap.',
    );
  }
  if ((seam.kind === 'cut' || seam.kind === 'settle') && overlaps) {
    fail(`A ${seam.kind} has no overlap.`, 'seam.overlap', 'Leave it out, or make the seam a crossfade.');
  }
  if (seam.kind === 'step' && seam.overlap === 0)
    fail('A step takes frames.', 'seam.overlap', 'Give it 7 or more at 30 frames a second.');
  if ((cue.gap ?? 0) > 0 && (overlaps || seam.kind === 'crossfade' || seam.kind === 'step')) {
    fail('A cue has either a gap or an overlap, not both.', 'gap');
  }
}

function check<T>(value: unknown, kind: keyof typeof KEYS, path: string): T {
  const keys: Readonly<Record<string, Joi.Schema>> = KEYS[kind];
  const here = path || 'the sheet';
  if (typeof value !== 'object' || value === null || Array.isArray(value)) {
    throw new InputError('cues', `Expected an object for ${here}.`, { place: { path } });
  }
  for (const key of Object.keys(value)) {
    const at = path ? `${path}.${key}` : key;
    if (!(key in keys)) {
      throw new InputError('unknown-key', `Unknown key "${key}" in ${here}.`, {
        place: { path: at },
        hint: `Did you mean "${closest(key, Object.keys(keys))}"?`,
      });
    }
  }
  const { error } = Joi.object(keys).validate(value, { convert: false });
  if (error) {
    const inner = defined(error.details[0]).path.join('.');
    throw new InputError('cues', `${error.message.replace(/"/g, '')} in ${here}.`, {
      place: { path: [path, inner].filter(Boolean).join('.') },
    });
  }
  return value as T;
}
