import type { CharacterPlan } from '../plan/plan';
import { segmentAt } from '../plan/segmentAt';
import { treadsOf } from '../scene/treads';
import { measureMeetings } from './bodiesMeet';
import type { FootOnProp } from './feetOnProps';
import { feetOnProps } from './feetOnProps';
import { gradeOf } from './grade';
import { capital, jointWords } from './jointWords';
import type { ContinuityItem } from './report';
import type { TetherMeasure } from './stagingMeasures';
import { measureHoldPops, measureReaches, measureSunk } from './stagingMeasures';

type Measured = Pick<
  ContinuityItem,
  'id' | 'kind' | 'measure' | 'value' | 'cause' | 'hint' | 'name' | 'place'
> & {
  readonly frame: number;
  readonly end?: number;
};

/** An item of the report; none where what was measured is good. */
function itemOf(plan: CharacterPlan, { frame, end = frame + 1, ...measured }: Measured): ContinuityItem[] {
  const limits = plan.thresholds[measured.measure];
  const grade = gradeOf(Math.abs(measured.value), limits);
  if (grade === 'good') return [];
  const { character, segments } = plan;
  return [
    {
      character: character.id,
      characterName: character.name,
      segment: segments[Math.max(0, segmentAt(segments, frame))]?.id ?? '',
      frame,
      end,
      grade,
      ratio: Math.abs(measured.value) / limits.watch,
      ...measured,
    },
  ];
}

/** What is to be looked at of the tethers of a character or prop: jumps where they begin and end, hands off their grips; and props in the floor. */
export function stagingItems(plan: CharacterPlan): ContinuityItem[] {
  const { character, staging } = plan;
  const items = staging
    ? [
        ...measureHoldPops(plan).flatMap((m) =>
          itemOf(plan, {
            ...tetherItem(m, 'tether', `${character.name}, tether`),
            measure: 'popCm',
            cause: `${character.name} jumps where the tether begins or ends`,
            hint: 'Let it fade in and out, or keep its offset.',
          }),
        ),
        ...measureReaches(plan).flatMap((m) =>
          itemOf(plan, {
            ...tetherItem(m, 'reach', `${character.name}, reach`),
            measure: 'reachCm',
            cause: `The hand is ${m.valueCm.toFixed(1)} cm off what it reaches for: the limb is not long enough`,
            hint: 'Bring them nearer to each other, or let the reach fade out before.',
          }),
        ),
      ]
    : [];
  if (!character.prop) return items;
  const sunk = measureSunk(plan);
  return [
    ...items,
    ...itemOf(plan, {
      id: `sunk:${character.id}`,
      kind: 'sunk',
      name: character.name,
      frame: sunk.frame,
      place: sunk.place,
      measure: 'floatCm',
      value: sunk.valueCm,
      cause: `${character.name} is ${sunk.valueCm.toFixed(0)} cm in the floor`,
      hint: 'Raise it, or let go of it higher up.',
    }),
  ];
}

const tetherItem = (
  { tether, frame, valueCm, place }: TetherMeasure,
  kind: 'tether' | 'reach',
  name: string,
): Pick<Measured, 'id' | 'kind' | 'name' | 'frame' | 'value' | 'place'> => ({
  id: `${kind}:${tether}`,
  kind,
  name,
  frame,
  value: valueCm,
  place,
});

/** Where those who perform are in each other, but for those of whom one holds the other then. */
export function meetingItems(plans: readonly CharacterPlan[]): ContinuityItem[] {
  const performing = plans.filter((p) => p.segments.length > 0);
  return performing.flatMap((a, i) =>
    performing.slice(i + 1).flatMap((b) =>
      measureMeetings(a, b)
        .filter((m) => !isHeld(a, b, m.worst) && !isHeld(b, a, m.worst))
        .flatMap((m) =>
          itemOf(a, {
            id: `meeting:${a.character.id}:${b.character.id}:${m.frame}`,
            kind: 'meeting',
            name: `${a.character.name} and ${b.character.name}`,
            frame: m.frame,
            end: m.end,
            place: m.place,
            measure: 'overlapCm',
            value: m.overlapCm,
            cause: `They are ${m.overlapCm.toFixed(0)} cm in each other at ${jointWords(a, m.joints[0])} and ${jointWords(b, m.joints[1])}`,
            hint: 'Move one of them aside on the floor.',
          }),
        ),
    ),
  );
}

/**
 * Feet that rest on props: how far the worst of each segment is over its tread or in it, where that is to be looked at.
 *
 * @returns the items, and the segments whose feet are judged by what they stand on and not by the floor
 */
export function treadItems(plans: readonly CharacterPlan[]): {
  readonly items: readonly ContinuityItem[];
  readonly segments: ReadonlySet<string>;
} {
  const props = plans.filter((p) => p.character.prop && treadsOf(p.character.prop).length > 0);
  const segments = new Set<string>();
  if (props.length === 0) return { items: [], segments };
  const items = plans.flatMap((plan) => {
    const worst = new Map<string, FootOnProp>();
    for (const foot of plan.segments.length > 0 ? feetOnProps(plan, props) : []) {
      const segment = plan.segments[Math.max(0, segmentAt(plan.segments, foot.frame))]!.id;
      segments.add(segment);
      const before = worst.get(segment);
      if (!before || Math.abs(foot.overCm) > Math.abs(before.overCm)) worst.set(segment, foot);
    }
    return [...worst].flatMap(([segment, foot]) => {
      const { name } = props[foot.prop]!.character;
      const off = `${Math.abs(foot.overCm).toFixed(0)} cm ${foot.overCm > 0 ? 'over' : 'in'}`;
      return itemOf(plan, {
        id: `tread:${segment}`,
        kind: 'tread',
        name: `${plan.character.name} on ${name}`,
        frame: foot.frame,
        end: foot.end,
        place: foot.place,
        measure: 'floatCm',
        value: foot.overCm,
        cause: `${capital(jointWords(plan, foot.joint).replace(/toes$/, 'foot'))} is ${off} ${name}`,
        hint: 'Move one of them on the floor, or give the prop the height of what the clip stands on.',
      });
    });
  });
  return { items, segments };
}

/** Whether the one holds the other at a frame, or reaches for it. */
const isHeld = (child: CharacterPlan, parent: CharacterPlan, frame: number): boolean =>
  [...(child.staging?.holds ?? []), ...(child.staging?.reaches ?? [])].some(
    (t) => t.holder.plan.character.id === parent.character.id && frame >= t.start && frame < t.end,
  );
