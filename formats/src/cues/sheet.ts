import type { FitMode } from '@warper/core';
import { InputError } from '@warper/core';
import { closest } from 'fastest-levenshtein';
import Joi from 'joi';

/** A cue sheet: the beats of every character in order. Headings and turns in degrees, positions in metres. */
export interface CueSheet {
  readonly format: 'warper-cues';
  readonly version: 1;
  readonly rate: number | string;
  readonly name?: string;
  readonly characters: readonly CueCharacter[];
}

/** One character's beats. */
export interface CueCharacter {
  readonly name: string;
  readonly body?: string;
  readonly scale?: number;
  readonly start?: { readonly x?: number; readonly z?: number; readonly heading?: number };
  readonly cues: readonly Cue[];
}

/** One beat: which part of which clip, how often, how fast, and how it joins the beat before. */
export interface Cue {
  readonly clip: string;
  readonly take?: string;
  readonly scale?: number;
  readonly in?: number;
  readonly out?: number;
  readonly repeat?: number;
  readonly loop?: boolean;
  readonly speed?: number;
  readonly length?: number;
  readonly gap?: number;
  readonly travel?: 'recorded' | 'in place' | 'in-place';
  readonly seam?: CueSeam;
}

/** The join to the beat before. */
export interface CueSeam {
  readonly kind?: 'crossfade' | 'cut' | 'settle';
  readonly frames?: number;
  readonly overlap?: number;
  readonly fit?: FitMode;
  readonly facing?: boolean;
  readonly height?: boolean;
  readonly curve?: 'smooth' | 'linear';
  readonly nudge?: { readonly x?: number; readonly z?: number; readonly turn?: number };
}

const metres = Joi.number().min(-1e6).max(1e6);
const whole = Joi.number().integer();
const word = Joi.string().min(1).max(1000);

/** Values of the contract that do not exist yet; each is refused by name rather than as unknown. */
const NOT_YET: Readonly<Record<string, (value: unknown) => boolean>> = {
  layers: () => true,
  travel: (v) => v === 'restored',
  overlap: (v) => v === 'auto',
};

/** The fits that have a name. */
const FITS = [
  'whole body',
  'planted foot',
  'hips',
  'left foot',
  'right foot',
  'left hand',
  'right hand',
  'free',
] as const;

const KEYS = {
  sheet: {
    format: Joi.valid('warper-cues').required(),
    version: Joi.valid(1).required(),
    rate: Joi.alternatives(Joi.number().greater(0).max(10_000), Joi.string().max(40)).required(),
    name: word,
    characters: Joi.array().min(1).max(1000).required(),
  },
  character: {
    name: word.required(),
    body: word,
    scale: Joi.number().greater(0).max(1e6),
    start: Joi.object(),
    cues: Joi.array().min(1).max(100_000).required(),
    layers: Joi.any(),
  },
  start: { x: metres, z: metres, heading: metres },
  cue: {
    clip: word.required(),
    take: word,
    scale: Joi.number().greater(0).max(1e6),
    in: Joi.number().min(0),
    out: Joi.number().greater(0),
    repeat: Joi.number().greater(0).max(100_000),
    loop: Joi.boolean(),
    speed: Joi.number().greater(0).max(1000),
    length: whole.min(1).max(1e7),
    gap: whole.min(0).max(1e7),
    travel: Joi.valid('recorded', 'in place', 'in-place'),
    seam: Joi.object(),
  },
  seam: {
    kind: Joi.valid('crossfade', 'cut', 'settle'),
    overlap: whole.min(0).max(1e7),
    fit: Joi.alternatives(Joi.valid(...FITS), Joi.object({ joint: word.required() })),
    facing: Joi.boolean(),
    height: Joi.boolean(),
    curve: Joi.valid('smooth', 'linear'),
    nudge: Joi.object(),
    frames: whole.min(1).max(10_000),
  },
  nudge: { x: metres, z: metres, turn: metres },
} as const;

/**
 * Checks a cue sheet.
 *
 * @throws InputError `cues` with the path of what is wrong; an unknown key names the nearest known one; `not-yet` for
 * what is described but cannot be done so far
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
  });
  return sheet;
}

function checkCue(cue: Cue, index: number, path: string): void {
  const fail = (message: string, key: string, hint = ''): never => {
    throw new InputError('cues', message, { place: { path: `${path}.${key}` }, hint });
  };
  if (cue.length !== undefined && cue.speed !== undefined) {
    fail('A cue has either a length or a speed, not both.', 'length', 'A length sets the speed.');
  }
  if (!cue.seam) return;
  if (index === 0) fail('The first cue has no seam: nothing comes before it.', 'seam');
  const seam = check<CueSeam>(cue.seam, 'seam', `${path}.seam`);
  if (seam.nudge) check(seam.nudge, 'nudge', `${path}.seam.nudge`);
  if (seam.frames !== undefined && seam.kind !== 'settle') {
    fail(
      'Only a seam that settles has frames.',
      'seam.frames',
      'Make its kind "settle", or give a crossfade its overlap.',
    );
  }
  if ((seam.kind === 'cut' || seam.kind === 'settle') && (seam.overlap ?? 0) > 0) {
    fail(`A ${seam.kind} has no overlap.`, 'seam.overlap', 'Leave it out, or make the seam a crossfade.');
  }
  if ((cue.gap ?? 0) > 0 && ((seam.overlap ?? 0) > 0 || seam.kind === 'crossfade')) {
    fail('A cue has either a gap or an overlap, not both.', 'gap');
  }
}

function check<T>(value: unknown, kind: keyof typeof KEYS, path: string): T {
  const keys: Readonly<Record<string, Joi.Schema>> = KEYS[kind];
  const here = path || 'the sheet';
  if (typeof value !== 'object' || value === null || Array.isArray(value)) {
    throw new InputError('cues', `Expected an object for ${here}.`, { place: { path } });
  }
  for (const [key, v] of Object.entries(value)) {
    const at = path ? `${path}.${key}` : key;
    if (!(key in keys)) {
      throw new InputError('unknown-key', `Unknown key "${key}" in ${here}.`, {
        place: { path: at },
        hint: `Did you mean "${closest(key, Object.keys(keys))}"?`,
      });
    }
    if (NOT_YET[key]?.(v)) {
      throw new InputError('not-yet', `"${key}": ${JSON.stringify(v)} cannot be done yet.`, {
        place: { path: at },
        hint: 'Leave it out for now.',
      });
    }
  }
  const { error } = Joi.object(keys).validate(value, { convert: false });
  if (error) {
    const inner = error.details[0]!.path.join('.');
    throw new InputError('cues', `${error.message.replace(/"/g, '')} in ${here}.`, {
      place: { path: [path, inner].filter(Boolean).join('.') },
    });
  }
  return value as T;
}
