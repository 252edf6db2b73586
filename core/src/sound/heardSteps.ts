import { derivation } from '../memory/memory';
import type { CharacterPlan, Plan } from '../plan/plan';
import { framesPerSecond } from '../math/rate';
import type { Scene } from '../scene/scene';
import type { Footfall } from './footfalls';
import { footfallsOf } from './footfalls';
import type { HeardSound } from './heardSounds';
import { amplitudeOf } from './heardSounds';

/** Sounds of feet that are made up: so many variants, taken in turn, each so many seconds long. */
export const STEP_VARIANTS = 4;
export const STEP_SECONDS = 0.35;
/** Of something that hits somebody. */
export const IMPACT_SECONDS = 0.6;

/** What the source of a made-up sound begins with; those of files are content hashes. */
export const MADE = 'made:';

/** Decibels of a foot that comes down in place, and of one at a run (common practice: feet that shift are hardly heard). */
const QUIET = -14;
/** Speed at which a step is as loud as it gets, m/s. */
const LOUD_SPEED = 3;

const footfalls = derivation('footfalls', 40, (_, plan: CharacterPlan, fps: number): readonly Footfall[] =>
  footfallsOf(plan, fps),
);

/**
 * The steps that lanes make heard, as they are performed, and what hits whoever takes them. They follow every edit of the motion.
 * Times are seconds of the scene.
 */
export function heardSteps({ soundLanes, markers }: Scene, { characters, rate }: Plan): HeardSound[] {
  const fps = framesPerSecond(rate);
  return Object.values(soundLanes).flatMap(({ id, steps, muted, gain }) => {
    const plan = characters.find((c) => c.character.id === steps?.character);
    if (!steps || !plan || muted) return [];
    const sound = (name: string, frame: number, seconds: number, decibels: number): HeardSound => ({
      id: `${id}:${name}:${frame}`,
      source: `${MADE}${name}`,
      start: frame / fps,
      end: frame / fps + seconds,
      from: 0,
      to: seconds,
      gain: amplitudeOf(gain + decibels),
      fadeIn: 0,
      fadeOut: 0,
    });
    const falls = plan.memory.recall(footfalls, plan, fps).map(({ frame, speed }, i) => {
      const loudness = Math.min(1, speed / LOUD_SPEED);
      return sound(`${steps.surface}-${i % STEP_VARIANTS}`, frame, STEP_SECONDS, QUIET * (1 - loudness));
    });
    const hits = markers
      .filter((m) => m.impact.includes(steps.character))
      .map((m) => sound('impact', m.frame, IMPACT_SECONDS, 0));
    return [...falls, ...hits];
  });
}
