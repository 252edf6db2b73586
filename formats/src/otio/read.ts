import { InputError, framesPerSecond, parseRate } from '@warper/core';
import Joi from 'joi';
import type { Cue, CueCharacter, CueSheet } from '../cues/sheet';
import { parseCueSheet } from '../cues/sheet';
import { OWN } from './schema';

const number = Joi.number().min(-1e9).max(1e9);
const timeRule = Joi.object({
  value: number.required(),
  rate: Joi.number().greater(0).max(10_000).required(),
}).unknown();
const rangeRule = Joi.object({ start_time: timeRule.required(), duration: timeRule.required() }).unknown();
const itemRule = Joi.object({
  OTIO_SCHEMA: Joi.string().required(),
  name: Joi.string().allow('', null),
  source_range: rangeRule.allow(null),
  in_offset: timeRule,
  out_offset: timeRule,
  effects: Joi.array()
    .items(Joi.object({ OTIO_SCHEMA: Joi.string().required(), time_scalar: number }).unknown())
    .max(100),
  media_references: Joi.object().unknown(),
  media_reference: Joi.object().unknown().allow(null),
  metadata: Joi.object().unknown(),
}).unknown();
const timelineRule = Joi.object({
  OTIO_SCHEMA: Joi.string()
    .pattern(/^Timeline\./)
    .required(),
  name: Joi.string().allow('', null),
  global_start_time: timeRule.allow(null),
  metadata: Joi.object().unknown(),
  tracks: Joi.object({
    children: Joi.array()
      .items(
        Joi.object({
          OTIO_SCHEMA: Joi.string().required(),
          children: Joi.array().items(itemRule).max(100_000),
        }).unknown(),
      )
      .max(1000)
      .required(),
  })
    .unknown()
    .required(),
}).unknown();

interface Time {
  readonly value: number;
  readonly rate: number;
}

interface Media {
  readonly target_url?: string;
  readonly available_range?: { readonly duration: Time } | null;
}

interface Item {
  readonly OTIO_SCHEMA: string;
  readonly name?: string | null;
  readonly source_range?: { readonly start_time: Time; readonly duration: Time } | null;
  readonly in_offset?: Time;
  readonly out_offset?: Time;
  readonly effects?: readonly { readonly OTIO_SCHEMA: string; readonly time_scalar?: number }[];
  readonly media_references?: Readonly<Record<string, Media>>;
  readonly active_media_reference_key?: string;
  readonly media_reference?: Media | null;
  readonly metadata?: Readonly<Record<string, unknown>>;
}

interface Track {
  readonly OTIO_SCHEMA: string;
  readonly name?: string | null;
  readonly kind?: string;
  readonly children?: readonly Item[];
  readonly metadata?: Readonly<Record<string, unknown>>;
}

/** What we wrote beside a clip: how it was when it was written. */
interface OwnClip {
  readonly take?: string;
  readonly span: readonly [number, number];
  readonly part: readonly [number, number];
  readonly repeat: number;
  readonly loop: boolean;
  readonly speed: number;
  readonly length: number | null;
  /** Settings that a cue has as well. */
  readonly settings: Partial<Cue>;
  readonly seam?: { readonly kind: string; readonly fit: unknown; readonly nudge: object };
}

/** Frames that what another program rounds may be off by. */
const ROUNDING = 1e-3;

/** Whether JSON is an OpenTimelineIO timeline. */
export const isOtio = (value: unknown): boolean =>
  typeof value === 'object' &&
  value !== null &&
  String((value as Record<string, unknown>).OTIO_SCHEMA ?? '').startsWith('Timeline.');

/**
 * Reads an OpenTimelineIO timeline as a cue sheet: its video tracks are characters, clips are beats, transitions overlaps, gaps gaps, time
 * warps speeds. Clips that are as they were written by us keep what is in their metadata; of others the ranges count.
 *
 * @throws InputError `otio` with the path of what is wrong
 */
export function otioCues(value: unknown): CueSheet {
  const { error } = timelineRule.validate(value, { convert: false });
  if (error) {
    const [detail] = error.details;
    throw fail(detail?.path.join('.') ?? '', error.message);
  }
  const {
    name,
    metadata,
    global_start_time: start,
    tracks,
  } = value as {
    name?: string | null;
    metadata?: Record<string, unknown>;
    global_start_time?: Time | null;
    tracks: { children: readonly Track[] };
  };
  const videos = tracks.children
    .map((track, i) => ({ track, path: `tracks.children.${i}` }))
    .filter(({ track }) => track.OTIO_SCHEMA.startsWith('Track.') && (track.kind ?? 'Video') === 'Video');
  const own = (metadata?.[OWN] ?? {}) as { rate?: number | string };
  const rate = own.rate ?? start?.rate ?? firstRate(videos.map((v) => v.track)) ?? 30;
  const fps = framesPerSecond(parseRate(rate));
  const characters = videos.flatMap(({ track, path }, i) => {
    const character = characterOf(track, path, i, fps);
    return character.cues?.length ? [character] : [];
  });
  if (characters.length === 0) throw fail('tracks', 'No video track of the timeline has a clip.');
  return parseCueSheet({ format: 'warper-cues', version: 1, rate, ...(name ? { name } : {}), characters });
}

const fail = (path: string, message: string): InputError =>
  new InputError('otio', message, {
    place: { path },
    hint: 'Write the timeline anew from the program that it is from.',
  });

const firstRate = (tracks: readonly Track[]): number | undefined =>
  tracks.flatMap((t) => t.children ?? []).find((c) => c.source_range)?.source_range?.duration.rate;

function characterOf(track: Track, path: string, index: number, fps: number): CueCharacter {
  const own = (track.metadata?.[OWN] ?? {}) as {
    body?: string;
    start?: CueCharacter['start'] | null;
    footLock?: boolean;
  };
  const children = track.children ?? [];
  const cues: Cue[] = [];
  let gap = 0;
  children.forEach((child, i) => {
    const where = `${path}.children.${i}`;
    if (child.OTIO_SCHEMA.startsWith('Gap.')) gap += frames(child.source_range?.duration, fps);
    if (!child.OTIO_SCHEMA.startsWith('Clip.')) return;
    const before = children[i - 1];
    const after = children[i + 1];
    const into = before?.OTIO_SCHEMA.startsWith('Transition.') ? before : undefined;
    const out = after?.OTIO_SCHEMA.startsWith('Transition.') ? after : undefined;
    cues.push(cueOf(child, { into, out, gap: cues.length > 0 ? gap : 0 }, where, fps));
    gap = 0;
  });
  return {
    name: track.name || `Character ${index + 1}`,
    ...(own.body ? { body: own.body } : {}),
    ...(own.start ? { start: own.start } : {}),
    ...(own.footLock ? { footLock: true } : {}),
    cues,
  };
}

const frames = (time: Time | undefined, fps: number): number =>
  time ? Math.round((time.value * fps) / time.rate) : 0;

interface Neighbours {
  readonly into: Item | undefined;
  readonly out: Item | undefined;
  readonly gap: number;
}

function cueOf(clip: Item, { into, out, gap }: Neighbours, path: string, fps: number): Cue {
  const media =
    clip.media_reference ?? clip.media_references?.[clip.active_media_reference_key ?? 'DEFAULT_MEDIA'];
  const file = media?.target_url;
  if (!file) throw fail(`${path}.media_references`, `The clip "${clip.name ?? ''}" names no file.`);
  const own = clip.metadata?.[OWN] as OwnClip | undefined;
  const scalar = clip.effects?.find((e) => e.OTIO_SCHEMA.startsWith('LinearTimeWarp.'))?.time_scalar ?? 1;
  if (!(scalar > 0)) throw fail(`${path}.effects`, 'A clip is played forwards: its time warp is above zero.');
  const lead = into ? frames(into.in_offset, fps) : 0;
  const overlap = into ? lead + frames(into.out_offset, fps) : 0;
  const shown = clip.source_range;
  const all = media.available_range?.duration;
  if (!shown && !all)
    throw fail(`${path}.source_range`, 'The clip has neither a source range nor an available one.');
  const length =
    (shown ? frames(shown.duration, fps) : frames(all, fps)) + lead + (out ? frames(out.out_offset, fps) : 0);
  const seam = seamOf(own, overlap, into !== undefined);
  const plain = {
    clip: decodeURI(file),
    ...(own?.take ? { take: own.take } : {}),
    ...(gap > 0 ? { gap } : {}),
    ...seam,
  };
  const rate = shown?.start_time.rate ?? all?.rate ?? fps;
  const perFrame = (rate * scalar) / fps;
  const first = (shown?.start_time.value ?? 0) - lead * perFrame;
  if (own && isAsWritten(own, first, length, scalar)) {
    const [from, to] = own.part;
    const timed = own.length === null ? { speed: own.speed } : { length: own.length };
    return { ...own.settings, ...plain, in: from, out: to, repeat: own.repeat, loop: own.loop, ...timed };
  }
  const samples = all ? Math.round((all.value * rate) / all.rate) : Infinity;
  const from = Math.max(0, Math.round(first));
  const to = Math.min(samples, Math.max(from + 1, Math.round(from + length * perFrame)));
  return { ...own?.settings, ...plain, in: from, out: to, loop: false, length };
}

const seamOf = (own: OwnClip | undefined, overlap: number, isJoined: boolean): Partial<Cue> => {
  if (isJoined) {
    const kind = own?.seam?.kind === 'step' ? 'step' : 'crossfade';
    return { seam: { ...(own?.seam ? placingOf(own.seam) : {}), kind, overlap } };
  }
  if (!own?.seam) return {};
  const { kind } = own.seam;
  // A crossfade that has come to share no frame, as between repeats of a loop, stays one.
  if (kind === 'crossfade') return { seam: { ...placingOf(own.seam), overlap: 0 } };
  return { seam: { ...placingOf(own.seam), kind: kind === 'settle' ? 'settle' : 'cut' } };
};

const placingOf = ({ fit, nudge }: NonNullable<OwnClip['seam']>): object => ({ fit, nudge });

/** Whether a clip is used as it was when it was written. */
const isAsWritten = (
  { span, part, speed, length }: OwnClip,
  first: number,
  frames: number,
  scalar: number,
): boolean =>
  Math.abs(part[0] - first) < ROUNDING &&
  span[1] - span[0] === frames &&
  (length !== null || Math.abs(speed - scalar) < ROUNDING);
