import { bake } from '../bake/bake';
import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import { derivation } from '../memory/memory';
import type { CharacterPlan } from '../plan/plan';
import type { TreadAt } from '../posing/surfaces';
import { SAME_HEIGHT, treadsUnder } from '../posing/surfaces';
import { soleHeights } from '../skeleton/sole';
import { findSteps, stepsBySpeed } from '../steps/steps';

/** A foot that rests on a prop, or in it. */
export interface FootOnProp {
  /** The prop, by its place among those that were given. */
  readonly prop: number;
  readonly joint: string;
  /** First frame of the rest, and the one after the last. */
  readonly frame: number;
  readonly end: number;
  /** How far the sole is over what it stands on, centimetres; negative is in it. */
  readonly overCm: number;
  /** Of the sole: x, y, z, metres. */
  readonly place: readonly [number, number, number];
}

/** A foot further from a tread than this, metres, has nothing to do with it. */
const NEAR = 0.3;

/** A foot wherever it rests, at whatever height: where its sole is in the middle of the rest. */
type Resting = Omit<FootOnProp, 'prop' | 'overCm'>;

const restingFeet = derivation('resting feet', 8, (memory, plan: CharacterPlan): Resting[] => {
  const clip = bake(plan, plan.rate);
  const { joints } = findSteps(clip, memory);
  const { names } = clip.skeleton;
  const sole = soleHeights(clip.skeleton);
  const buffer = makePoseBuffer(clip.skeleton);
  const world = makeWorldPose(clip.skeleton);
  const spans = stepsBySpeed(clip, memory);
  // A heel may hang over the edge of what the ball of the foot stands on.
  const feet = joints.filter((j) => j.tip || !joints.some((other) => other.tip && other.leg === j.leg));
  return feet.flatMap(({ joint }) =>
    (spans[names[joint]!] ?? []).map(({ start, end }) => {
      const middle = plan.start + ((start + end) >> 1);
      const { positions } = poseToWorld(clip.skeleton, evaluate(plan, middle, buffer), world);
      const [x, y, z] = [0, 1, 2].map((k) => positions[joint * 3 + k]!) as [number, number, number];
      const place = [x, y - sole(joint), z] as const;
      return { joint: names[joint]!, frame: plan.start + start, end: plan.start + end, place };
    }),
  );
});

/** Somewhere to stand below or above a place: the floor, or a tread of a prop. */
interface Surface extends TreadAt {
  /** Number of the prop; -1 is the floor. */
  readonly prop: number;
}

/** Every surface at a place on the floor, but for those that something solid covers. */
function surfacesAt(place: FootOnProp['place'], props: readonly CharacterPlan[], frame: number): Surface[] {
  const all: Surface[] = [{ prop: -1, height: 0, from: 0 }];
  props.forEach((prop, i) => all.push(...treadsUnder(prop, place, frame).map((s) => ({ ...s, prop: i }))));
  return all.filter(
    ({ height }) =>
      !all.some((other) => height >= other.from - SAME_HEIGHT && height < other.height - SAME_HEIGHT),
  );
}

/** The feet of a body that rest on props, or in them, whatever is next below or above them. */
export const feetOnProps = (plan: CharacterPlan, props: readonly CharacterPlan[]): readonly FootOnProp[] =>
  plan.memory.recall(onProps, plan, ...props);

const onProps = derivation(
  'feet on props',
  50,
  (memory, plan: CharacterPlan, ...props: CharacterPlan[]): FootOnProp[] =>
    memory.recall(restingFeet, plan).flatMap((rest) => {
      const { place } = rest;
      const surfaces = surfacesAt(place, props, (rest.frame + rest.end) >> 1);
      const over = (s: Surface): number => place[1] - s.height;
      let next: Surface | null = null;
      for (const s of surfaces)
        if ((s.prop < 0 || place[1] > s.from) && !(next && Math.abs(over(next)) <= Math.abs(over(s))))
          next = s;
      if (!next || next.prop < 0 || Math.abs(over(next)) > NEAR) return [];
      return [{ ...rest, prop: next.prop, overCm: over(next) * 100 }];
    }),
);
