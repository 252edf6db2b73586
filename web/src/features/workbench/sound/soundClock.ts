import type { HeardSound } from '@warper/core';
import { decodedSound, decodedSounds } from '../../../data/sounds';
import { scheduleSounds } from '../../../parts/sound/scheduleSounds';
import { audio, heardNow } from './audio';

/** What plays: frames [from, to) over and over, or once, from a frame on. */
export interface Passage {
  readonly begin: number;
  readonly from: number;
  readonly to: number;
  readonly loops: boolean;
  /** Frames a second, and how fast. */
  readonly fps: number;
  readonly pace: number;
}

/** A clock that playback goes by. */
export interface PlayClock {
  /** Frames that have been played since the beginning, in fractions, going on through loops. */
  readonly passed: () => number;
  /** Has what is to be heard next laid out in time; to be called with every picture. */
  readonly keepUp: (sounds: readonly HeardSound[], passage: Passage) => void;
  readonly stop: () => void;
}

/** The page's own clock, for what has no sound. */
export function silentClock({ fps, pace }: Passage): PlayClock {
  const since = performance.now();
  return {
    passed: () => ((performance.now() - since) / 1000) * fps * pace,
    keepUp: () => undefined,
    stop: () => undefined,
  };
}

/** Seconds that sounds are laid out ahead at least, and in one go: long ones are cut where one stretch follows the other. */
const AHEAD = 0.4;
const STRETCH = 20;
/** Seconds that the first of them has to get ready. */
const READY = 0.05;

/**
 * The clock of the sound that is coming out: pictures follow it, so that both agree however long it plays. Until the browser lets the page be
 * heard, it is the page's own.
 */
export function soundClock(passage: Passage): PlayClock {
  const { context, master } = audio();
  const { fps, pace, begin } = passage;
  const silent = silentClock(passage);
  /** A time of the context, and the frames that have been passed then. */
  let origin = { at: context.currentTime + READY, passed: 0 };
  let runs = context.state === 'running';
  /** Until where it is laid out, on the clock of the context, and what. */
  let laid = origin.at;
  let known = { heard: [] as readonly HeardSound[], passage, decoded: decodedSounds() };
  let endings: (() => void)[] = [];
  const silence = (): void => {
    for (const end of endings) end();
    endings = [];
    laid = Math.max(origin.at, context.currentTime + 0.01);
  };
  const passed = (): number => {
    if (context.state !== 'running') return silent.passed();
    if (!runs) {
      runs = true;
      origin = { at: heardNow(context), passed: silent.passed() };
      silence();
    }
    return origin.passed + Math.max(0, heardNow(context) - origin.at) * fps * pace;
  };
  /** Lays out what comes until a time, pass by pass. */
  const layOut = (until: number): void => {
    while (laid < until) {
      const frame = frameAfter(origin.passed + (laid - origin.at) * fps * pace, begin, known.passage);
      if (frame === null) return;
      const ends = Math.min(laid + STRETCH, laid + (known.passage.to - frame) / fps / pace);
      if (!(ends > laid)) return;
      const from = frame / fps;
      const stretch = { from, to: from + (ends - laid) * pace, at: laid, pace };
      endings.push(scheduleSounds(master, known.heard, decodedSound, stretch));
      laid = ends;
    }
  };
  return {
    passed,
    keepUp: (heard, next) => {
      const decoded = decodedSounds();
      // What was laid out is no more what is to be heard: from now on it is another.
      if (heard !== known.heard || decoded !== known.decoded || !samePassage(next, known.passage)) {
        known = { heard, passage: next, decoded };
        silence();
      }
      if (endings.length > MOST_ENDINGS) endings = endings.slice(-MOST_ENDINGS / 2);
      if (runs) layOut(context.currentTime + AHEAD);
    },
    stop: silence,
  };
}

/** Stretches whose ends are remembered; older ones are over. */
const MOST_ENDINGS = 32;

const samePassage = (a: Passage, b: Passage): boolean =>
  a.from === b.from && a.to === b.to && a.loops === b.loops;

/** The frame (in fractions) after so many that have passed; null where it is over. */
export function frameAfter(passed: number, begin: number, { from, to, loops }: Passage): number | null {
  const frame = begin + passed;
  if (to <= from) return null;
  if (frame < to) return frame;
  return loops ? from + ((frame - from) % (to - from)) : null;
}
