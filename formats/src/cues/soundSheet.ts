import type { Line, Sound, SoundLane, Surface } from '@warper/core';
import {
  GAIN,
  InputError,
  PLAIN_LINE,
  PLAIN_SOUND,
  PLAIN_SOUND_LANE,
  SURFACES,
  defined,
  steadyBeats,
} from '@warper/core';
import Joi from 'joi';
import type { SoundFile } from '../sound/soundFile';
import { check, failAt, whole, word } from './checkKeys';
import type { PlacedEdit } from './placedEdit';
import type { CueSheet } from './sheet';
import type { Tethered } from './tetherSheet';

/** A sound on a lane; what is left out of a lane's name is a lane of its own for all that name none. */
export interface CueSound extends Partial<
  Pick<Sound, 'name' | 'in' | 'out' | 'repeat' | 'gain' | 'fadeIn' | 'fadeOut' | 'muted' | 'beats'>
> {
  readonly file: string;
  readonly lane?: string;
  readonly start: number;
  /** A steady beat, in place of its beats one by one: beats a minute, and the second of the file at which one falls. */
  readonly tempo?: { readonly beatsPerMinute: number; readonly first?: number };
}

/** A sound lane, where it is more than a name. */
export interface CueSoundLane extends Partial<Pick<SoundLane, 'gain' | 'muted'>> {
  readonly name: string;
  /** Whose steps are heard on it, by name. */
  readonly steps?: { readonly character: string; readonly surface?: Surface };
}

/** What somebody says. */
export interface CueLine extends Pick<Line, 'text' | 'start' | 'end'> {
  readonly speaker?: string;
}

const seconds = Joi.number().min(0).max(7200);
const gain = Joi.number().min(GAIN.least).max(GAIN.most);
const atFrame = whole.min(-1e7).max(1e7).required();
const SOUND = {
  file: word.required(),
  lane: word,
  name: word,
  start: atFrame,
  in: seconds,
  out: seconds,
  repeat: Joi.number().min(0.01).max(10_000),
  gain,
  fadeIn: seconds,
  fadeOut: seconds,
  muted: Joi.boolean(),
  beats: Joi.array().items(seconds).max(20_000),
  tempo: Joi.object(),
};
const TEMPO = { beatsPerMinute: Joi.number().min(10).max(1000).required(), first: seconds };
const LANE = { name: word.required(), gain, muted: Joi.boolean(), steps: Joi.object() };
const STEPS = { character: word.required(), surface: Joi.valid(...SURFACES) };
const LINE = {
  text: Joi.string().min(1).max(2000).required(),
  speaker: word,
  start: atFrame,
  end: whole.greater(Joi.ref('start')).max(1e7).required(),
};

type Sounding = Pick<CueSheet, 'sounds' | 'soundLanes' | 'lines'>;

/** Checks the sounds and lines of a sheet. */
export function checkSounds({ sounds = [], soundLanes = [], lines = [] }: Sounding): void {
  soundLanes.forEach((raw, i) => {
    const path = `soundLanes[${i}]`;
    const lane = check<CueSoundLane>(raw, LANE, path);
    if (lane.steps) check(lane.steps, STEPS, `${path}.steps`);
    if (soundLanes.findIndex((l) => l.name === lane.name) < i)
      failAt(path)(
        `There are two sound lanes called ${lane.name}.`,
        'name',
        'Give one of them another name.',
      );
  });
  sounds.forEach((raw, i) => {
    const path = `sounds[${i}]`;
    const sound = check<CueSound>(raw, SOUND, path);
    if (sound.tempo) check(sound.tempo, TEMPO, `${path}.tempo`);
    if (sound.tempo && sound.beats)
      failAt(path)('A sound has either its beats or a tempo.', 'tempo', 'Leave one of them out.');
  });
  lines.forEach((line, i) => check<CueLine>(line, LINE, `lines[${i}]`));
}

/** What a lane is called whose sounds name none. */
const PLAIN_NAME = 'Sounds';

/** The edits that put the sounds and lines of a sheet; of each sound the file, as it was looked at. */
export function soundEdits(
  sheet: CueSheet,
  cast: readonly Tethered[],
  files: readonly SoundFile[],
): PlacedEdit[] {
  const own = sheet.soundLanes ?? [];
  const named = [...own.map((l) => l.name), ...(sheet.sounds ?? []).map((s) => s.lane ?? PLAIN_NAME)];
  const names = [...new Set(named)];
  const lanes = names.map((name, i): PlacedEdit => {
    const { steps, ...values } = own[i] ?? { name };
    const path = `soundLanes[${i}]`;
    const lane = {
      ...PLAIN_SOUND_LANE,
      ...values,
      id: `sl${i + 1}`,
      steps: steps ? stepsOf(steps, cast, path) : null,
    };
    return { path, edit: { type: 'sound lane', lane } };
  });
  const sounds = (sheet.sounds ?? []).map((cue, i): PlacedEdit => {
    const lane = `sl${names.indexOf(cue.lane ?? PLAIN_NAME) + 1}`;
    const sound = soundOf(cue, defined(files[i]), `so${i + 1}`, lane, `sounds[${i}]`);
    return { path: `sounds[${i}]`, edit: { type: 'sound', sound } };
  });
  const lines = (sheet.lines ?? []).map((line, i): PlacedEdit => ({
    path: `lines[${i}]`,
    edit: { type: 'line', line: { ...PLAIN_LINE, ...line, id: `li${i + 1}` } },
  }));
  return [...lanes, ...sounds, ...lines];
}

function stepsOf(
  { character, surface = 'stone' }: NonNullable<CueSoundLane['steps']>,
  cast: readonly Tethered[],
  path: string,
): SoundLane['steps'] {
  const one = cast.find((c) => c.name === character);
  if (!one)
    throw new InputError('cues', `The sheet has no character ${character}.`, {
      place: { path: `${path}.steps.character` },
      hint: `Its characters are ${cast.map((c) => c.name).join(', ')}.`,
    });
  return { character: one.id, surface };
}

function soundOf(cue: CueSound, file: SoundFile, id: string, lane: string, path: string): Sound {
  const { file: _file, lane: _lane, tempo, ...values } = cue;
  const from = cue.in ?? 0;
  const to = cue.out ?? file.seconds;
  if (!(from < to) || to > file.seconds + 1e-6)
    throw new InputError(
      'cues',
      `In ${from} and out ${to} are no part of ${cue.file}, which lasts ${file.seconds.toFixed(3)} s.`,
      { place: { path: `${path}.${to > file.seconds ? 'out' : 'in'}` } },
    );
  const period = tempo && 60 / tempo.beatsPerMinute;
  return {
    ...PLAIN_SOUND,
    ...(period ? { beats: steadyBeats({ first: tempo.first ?? 0, period }, 0, file.seconds) } : {}),
    name: withoutEnding(cue.file),
    ...values,
    id,
    lane,
    source: file.id,
    seconds: file.seconds,
    in: from,
    out: Math.min(to, file.seconds),
  };
}

/** What a file is called without its folders and ending. */
const withoutEnding = (file: string): string => file.replace(/^.*[/\\]/, '').replace(/\.[^.]+$/, '') || file;
