import { bake } from '../bake/bake';
import type { Memory } from '../memory/memory';
import { derivation } from '../memory/memory';
import { framesPerSecond } from '../math/rate';
import type { CharacterPlan, Plan, SegmentPlan } from '../plan/plan';
import type { SeamValues, Thresholds } from '../scene/thresholds';
import { segmentAt } from '../plan/segmentAt';
import type { Grade } from './grade';
import { gradeOf } from './grade';
import { measureHolds } from './holdMeasures';
import { capital, jointWords } from './jointWords';
import { levelChange } from './levelChange';
import { measureLayer } from './layerMeasures';
import { measureLoop } from './loopMeasures';
import { seamMeasures } from './seamMeasures';
import { meetingItems, stagingItems, treadItems } from './stagingItems';
import type { StepMeasure } from './stepMeasures';
import { measureSteps } from './stepMeasures';

/** One thing that was measured in a performance. */
export interface ContinuityItem {
  /** What it is, the same after edits elsewhere. */
  readonly id: string;
  readonly kind:
    | 'seam'
    | 'float'
    | 'slide'
    | 'let go'
    | 'loop'
    | 'level'
    | 'layer'
    | 'tether'
    | 'reach'
    | 'sunk'
    | 'tread'
    | 'meeting';
  readonly character: string;
  readonly characterName: string;
  /** The segment that it is about; of a seam the incoming one. */
  readonly segment: string;
  /** What it is about, in words. */
  readonly name: string;
  /** First frame, and the one after the last. */
  readonly frame: number;
  readonly end: number;
  /** Where it is at its worst, if it is at one place: x, y, z, metres. */
  readonly place?: readonly [number, number, number];
  readonly measure: keyof Thresholds;
  readonly value: number;
  readonly grade: Grade;
  /** By how much it misses its threshold: 1 is just at it. */
  readonly ratio: number;
  /** Why it is so, and what can be done, in words; empty for what is good. */
  readonly cause: string;
  readonly hint: string;
}

/**
 * Everything that is measured in a scene: all seams, what layers add to what is below them, where loops are bent to close, where the ground changes its height at a seam, and
 * where feet slide or stand over the floor, or over what they stand on, outside of seams, or a lock lets them go; where tethers jump, hands
 * are off their grips, props in the floor and bodies in each other; worst first.
 */
export function continuityReport({ characters }: Plan): ContinuityItem[] {
  const treads = treadItems(characters);
  const own = characters
    .flatMap((c) => c.memory.recall(itemsOf, c))
    .filter((item) => item.kind !== 'float' || !treads.segments.has(item.segment));
  return [...own, ...treads.items, ...meetingItems(characters)].sort(
    (a, b) => b.ratio - a.ratio || a.frame - b.frame,
  );
}

const itemsOf = derivation('continuity', 50, (memory, plan: CharacterPlan): ContinuityItem[] => [
  ...plan.segments.slice(1).flatMap((_, i) => [seamItem(plan, i), ...levelItems(plan, i)]),
  ...plan.segments.flatMap((segment) => loopItems(plan, segment)),
  ...(plan.segments.length > 0 ? stepItems(plan, memory) : []),
  ...holdItems(plan),
  ...plan.layers.flatMap((_, i) => layerItems(plan, i)),
  ...stagingItems(plan),
]);

const of = ({ character }: CharacterPlan): Pick<ContinuityItem, 'character' | 'characterName'> => ({
  character: character.id,
  characterName: character.name,
});

const CAUSES: Readonly<Record<keyof SeamValues, (joint: string) => string>> = {
  popCm: (joint) => `${joint} jumps`,
  surgeCm: (joint) => `${joint} is carried faster than in either clip`,
  turnDegrees: () => 'the facing jumps',
  slideCm: () => 'a planted foot is moved',
  hitch: (joint) => `${joint} moves more abruptly than in either clip`,
};

function seamItem(plan: CharacterPlan, i: number): ContinuityItem {
  const [before, after] = [plan.segments[i]!, plan.segments[i + 1]!];
  const m = seamMeasures(plan, i, framesPerSecond(plan.rate));
  const { thresholds } = plan;
  const cause = CAUSES[m.worst](jointWords(plan, m.worstJoint));
  return {
    ...of(plan),
    id: `seam:${after.id}`,
    kind: 'seam',
    segment: after.id,
    name: `${before.name} → ${after.name}`,
    frame: m.frame,
    end: m.frame + Math.max(1, m.overlap, m.settle),
    measure: m.worst,
    value: m[m.worst],
    grade: m.grade,
    ratio: m[m.worst] / thresholds[m.worst].watch,
    cause: m.grade === 'good' ? '' : capital(cause),
    hint: m.grade === 'good' ? '' : 'Choose the join, or bridge it with another clip.',
  };
}

/** A change of the ground's height at a seam. */
function levelItems(plan: CharacterPlan, i: number): ContinuityItem[] {
  const value = levelChange(plan, i) ?? 0;
  const limits = plan.thresholds.floatCm;
  const grade = gradeOf(Math.abs(value), limits);
  if (grade === 'good') return [];
  const { id, kind: _, ...seam } = seamItem(plan, i);
  return [
    {
      ...seam,
      id: id.replace('seam', 'level'),
      kind: 'level',
      measure: 'floatCm',
      value,
      grade,
      ratio: Math.abs(value) / limits.watch,
      cause: `The body ${value < 0 ? 'comes down' : 'goes up'} by ${Math.abs(value).toFixed(0)} cm through the air`,
      hint: 'Match the height at the seam, or put a clip between that climbs.',
    },
  ];
}

/** A loop whose end is bent to its start. */
function loopItems(plan: CharacterPlan, segment: SegmentPlan): ContinuityItem[] {
  const loop = measureLoop(plan, segment);
  const limits = plan.thresholds.surgeCm;
  const grade = gradeOf(loop?.surgeCm ?? 0, limits);
  if (!loop || grade === 'good') return [];
  return [
    {
      ...of(plan),
      id: `loop:${segment.id}`,
      kind: 'loop',
      segment: segment.id,
      name: `${segment.name}, repeated`,
      frame: loop.frame,
      end: loop.end,
      measure: 'surgeCm',
      value: loop.surgeCm,
      grade,
      ratio: loop.surgeCm / limits.watch,
      cause: capital(`${jointWords(plan, loop.joint)} is bent back to where the loop begins`),
      hint: 'Repeat a part that closes by itself, or play it once.',
    },
  ];
}

/** A jump that a layer makes. */
function layerItems(plan: CharacterPlan, index: number): ContinuityItem[] {
  const measured = measureLayer(plan, index);
  const limits = plan.thresholds.popCm;
  const grade = gradeOf(measured?.popCm ?? 0, limits);
  if (!measured || grade === 'good') return [];
  const { layer, frame, popCm, joint } = measured;
  const { name } = plan.layers[index]!;
  return [
    {
      ...of(plan),
      id: `layer:${layer}`,
      kind: 'layer',
      segment: plan.segments[Math.max(0, segmentAt(plan.segments, frame))]?.id ?? '',
      name: `Layer ${name}`,
      frame,
      end: frame + 1,
      measure: 'popCm',
      value: popCm,
      grade,
      ratio: popCm / limits.watch,
      cause: capital(`${jointWords(plan, joint)} jumps under the layer ${name}`),
      hint: 'Let the layer fade, or give its keys a curve that is not held.',
    },
  ];
}

/** Slides and floats of steps that no seam touches, one of each for a segment. */
function stepItems(plan: CharacterPlan, memory: Memory): ContinuityItem[] {
  // Feet of somebody who is carried stand on what carries them.
  const steps = measureSteps(bake({ ...plan, staging: null }, plan.rate), plan.start, memory);
  const items: ContinuityItem[] = [];
  plan.segments.forEach((segment, i) => {
    const own = steps.filter((s) => isWithin(s, plan.segments, i));
    if (own.length === 0) return;
    const sliding = own.reduce((a, b) => (b.slideCm > a.slideCm ? b : a));
    const heights = own.map((s) => s.floatCm).sort((a, b) => a - b);
    const height = heights[heights.length >> 1]!;
    const add = (
      kind: 'slide' | 'float',
      value: number,
      step: StepMeasure,
      cause: string,
      hint: string,
    ): void => {
      const measure = `${kind}Cm` as const;
      const grade = gradeOf(Math.abs(value), plan.thresholds[measure]);
      if (grade === 'good') return;
      items.push({
        ...of(plan),
        id: `${kind}:${segment.id}`,
        kind,
        segment: segment.id,
        name: segment.name,
        frame: Math.ceil(step.start),
        end: Math.ceil(step.end),
        measure,
        value,
        grade,
        ratio: Math.abs(value) / plan.thresholds[measure].watch,
        cause: capital(cause),
        hint,
      });
    };
    add(
      'slide',
      sliding.slideCm,
      sliding,
      `${jointWords(plan, sliding.joint)} slides while it is planted`,
      'Lock the planted feet.',
    );
    const way = height > 0 ? 'stand over' : 'sink into';
    add(
      'float',
      height,
      own[0]!,
      `planted feet ${way} the floor`,
      `Raise the clip by ${(-height).toFixed(1)} cm.`,
    );
  });
  return items;
}

/** Whether a step lies within a segment, and outside the seams at its ends. */
function isWithin(step: StepMeasure, segments: readonly SegmentPlan[], i: number): boolean {
  const [segment, next] = [segments[i]!, segments[i + 1]];
  if (segmentAt(segments, step.start) !== i) return false;
  return step.start >= segment.start + segment.overlap && step.end <= (next?.start ?? Infinity);
}

function holdItems(plan: CharacterPlan): ContinuityItem[] {
  return measureHolds(plan)
    .filter((h) => h.held < 1)
    .map((h): ContinuityItem => {
      const segment = plan.segments[Math.max(0, segmentAt(plan.segments, h.start))]!;
      return {
        ...of(plan),
        id: `let go:${segment.id}:${h.joint}`,
        kind: 'let go',
        segment: segment.id,
        name: segment.name,
        frame: Math.ceil(h.start),
        end: Math.ceil(h.end),
        measure: 'slideCm',
        value: h.correctionCm,
        grade: 'watch',
        ratio: 1,
        cause: `The lock lets ${jointWords(plan, h.joint)} go, which would have to be moved by ${h.correctionCm.toFixed(1)} cm`,
        hint: 'Make a step at the seam there.',
      };
    });
}
