import type { ChoiceLimits, Crossfade, Dials, Join, SeamPlacing, Stepping, Travel } from '@warper/core';
import { CHOICE_FIELDS, JOIN_KINDS, SEAM_FIELDS, SETTINGS, defined, dialsSchema } from '@warper/core';
import Joi from 'joi';
import type { CueAlternate, CueVersion } from './alternateSheet';
import { MOST_OTHERS, checkAlternates } from './alternateSheet';
import { check, failAt, metres, whole, word } from './checkKeys';
import type { CueCamera, CueShot } from './filmSheet';
import { checkFilming } from './filmSheet';
import type { CueLayer } from './layerSheet';
import { checkLayer } from './layerSheet';
import type { CueLook } from './lookSheet';
import { checkLook } from './lookSheet';
import type { CueProp } from './propSheet';
import { checkProp } from './propSheet';
import type { CueLink, CueMarker, CueMeeting, CuePush } from './stagingSheet';
import { checkMeeting, checkStaging } from './stagingSheet';
import type { CueLine, CueSound, CueSoundLane } from './soundSheet';
import { checkSounds } from './soundSheet';
import type { CueTether } from './tetherSheet';
import { checkTether } from './tetherSheet';
import type { CuePart } from './partSheet';
import { PART, checkPart, checkRising, rulesFor } from './partSheet';

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
  /** Who or what is held by whom, or reaches for what. */
  readonly tethers?: readonly CueTether[];
  readonly markers?: readonly CueMarker[];
  /** What waits for what. */
  readonly links?: readonly CueLink[];
  /** Who is pushed. */
  readonly pushes?: readonly CuePush[];
  readonly cameras?: readonly CueCamera[];
  /** What is seen by which camera, in order. */
  readonly shots?: readonly CueShot[];
  /** Width of the picture by its height; 16 / 9 unless it is told. */
  readonly aspect?: number;
  readonly sounds?: readonly CueSound[];
  readonly soundLanes?: readonly CueSoundLane[];
  /** What is said. */
  readonly lines?: readonly CueLine[];
  /** What the scene is called as one of its alternates. */
  readonly alternate?: CueVersion;
  /** Other versions of it. */
  readonly alternates?: readonly CueAlternate[];
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
  /** What the head follows throughout. */
  readonly look?: CueLook;
  /** What it is, where it is a prop. */
  readonly prop?: CueProp;
  /** May be left out of a prop. */
  readonly cues?: readonly Cue[];
  /** Bottom first. */
  readonly layers?: readonly CueLayer[];
}

/** One beat, and how it joins the beat before. */
export interface Cue extends CuePart {
  readonly gap?: number;
  /** What the head follows meanwhile, in place of what the character's does. */
  readonly look?: CueLook;
  /** Whom the character meets. */
  readonly meet?: CueMeeting;
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
    tethers: Joi.array().max(10_000),
    markers: Joi.array().max(10_000),
    links: Joi.array().max(10_000),
    pushes: Joi.array().max(1000),
    cameras: Joi.array().max(1000),
    shots: Joi.array().max(10_000),
    aspect: Joi.number().min(0.2).max(5),
    sounds: Joi.array().max(10_000),
    soundLanes: Joi.array().max(1000),
    lines: Joi.array().max(10_000),
    alternate: Joi.object(),
    alternates: Joi.array().max(MOST_OTHERS),
  },
  character: {
    name: word.required(),
    body: word,
    scale: Joi.number().greater(0).max(1e6),
    start: Joi.object(),
    footLock: Joi.boolean(),
    dials: dialsSchema,
    look: Joi.object(),
    prop: Joi.object(),
    cues: Joi.array().min(1).max(100_000),
    layers: Joi.array().max(1000),
  },
  start: { x: metres, z: metres, heading: metres },
  cue: {
    ...PART,
    ...rulesFor(SETTINGS, 'beat'),
    gap: whole.min(0).max(1e7),
    look: Joi.object(),
    meet: Joi.object(),
    match: Joi.object(),
    choose: Joi.object(),
  },
  choose: CHOICE_KEYS,
  mark: {
    frame: whole.min(1).required(),
    x: metres.required(),
    z: metres.required(),
    heading: metres.required(),
  },
  match: { within: whole.min(1).max(1e6).required() },
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
  const sheet = check<CueSheet>(value, KEYS.sheet, '');
  sheet.characters.forEach((raw, i) => checkCharacter(raw, `characters[${i}]`));
  sheet.tethers?.forEach((tether, i) => checkTether(tether, `tethers[${i}]`));
  checkStaging(sheet);
  checkFilming(sheet);
  checkSounds(sheet);
  checkAlternates(sheet, checkCharacter);
  return sheet;
}

function checkCharacter(raw: unknown, path: string): void {
  const character = check<CueCharacter>(raw, KEYS.character, path);
  if (character.start) check(character.start, KEYS.start, `${path}.start`);
  checkLook(character.look, `${path}.look`);
  checkProp(character.prop, `${path}.prop`);
  if (!character.cues && !character.prop) failAt(path)('Whoever is no prop needs cues.', 'cues');
  if (character.prop && (character.prop.shape === 'own file') !== (character.body !== undefined))
    failAt(path)('A prop is made in code, or is "own file" and names its body.', 'body');
  character.cues?.forEach((cue, j) =>
    checkCue(check<Cue>(cue, KEYS.cue, `${path}.cues[${j}]`), j, `${path}.cues[${j}]`),
  );
  character.layers?.forEach((layer, j) => checkLayer(layer, `${path}.layers[${j}]`));
}

function checkCue(cue: Cue, index: number, path: string): void {
  const fail = failAt(path);
  checkPart(cue, path);
  checkLook(cue.look, `${path}.look`);
  checkMeeting(cue.meet, `${path}.meet`);
  const marks = cue.marks?.map((m, i) => check<{ frame: number }>(m, KEYS.mark, `${path}.marks[${i}]`)) ?? [];
  marks.forEach((m, i) => {
    if (i > 0 && m.frame <= defined(marks[i - 1]).frame)
      fail('Marks come in order of their frames.', `marks[${i}].frame`);
  });
  if (cue.travel === 'path' && !cue.path)
    fail('Travel along a path needs a path.', 'travel', 'Give its points: "path": [[x, z], ...].');
  if (cue.path && cue.travel !== 'path')
    fail('A path is for travel along it.', 'path', 'Add "travel": "path".');
  if (cue.match) {
    check(cue.match, KEYS.match, `${path}.match`);
    if (index === 0) fail('The first cue has nothing before it to match.', 'match');
  }
  if (cue.choose) {
    check(cue.choose, KEYS.choose, `${path}.choose`);
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
  const seam = check<CueSeam>(cue.seam, KEYS.seam, `${path}.seam`);
  if (seam.nudge) check(seam.nudge, KEYS.nudge, `${path}.seam.nudge`);
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
