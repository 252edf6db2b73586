import type { Edit, FitMode, Plan, Scene, Segment, SegmentPlan, SegmentValues } from '@warper/core';
import { defined } from '@warper/core';
import { commit } from '../../../store/edits';
import { useAppDispatch } from '../../../store/store';
import { Check, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { sharedValue } from './sharedValue';
import { TRAVELS } from './travels';

interface Props {
  readonly scene: Scene;
  readonly plan: Plan;
  readonly segments: readonly string[];
}

/** Settings of several segments at once; where they differ, a field is empty until it is set. */
export function SharedFields({ scene, plan, segments }: Props) {
  const dispatch = useAppDispatch();
  const all = segments.map((id) => defined(scene.segments[id]));
  const plans = plansOf(plan, segments);
  const change = (what: string, values: (segment: Segment) => SegmentValues): void => {
    const edits = all.map((s): Edit => ({ type: 'change', segment: s.id, values: values(s) }));
    dispatch(commit({ type: 'several', label: `${what} of ${all.length} segments`, edits }));
  };
  return (
    <Group title="Shared settings">
      <NumberShared
        label="Speed"
        unit="×"
        digits={3}
        step={0.05}
        least={0.01}
        most={100}
        value={sharedValue(plans.map(({ segment }) => segment.speed))}
        onChange={(speed) => change('speed', () => ({ speed, length: null }))}
      />
      <NumberShared
        label="Hold last pose"
        unit="f"
        least={0}
        value={sharedValue(all.map((s) => s.hold.end))}
        onChange={(end) => change('hold', (s) => ({ hold: { ...s.hold, end } }))}
      />
      <ChoiceShared
        label="Travel"
        value={sharedValue(all.map((s) => s.travel))}
        // A path belongs to one segment.
        options={TRAVELS.filter(([key]) => key !== 'path')}
        onChange={(travel) => change('travel', () => ({ travel, path: [] }))}
      />
      <Check
        label="Mirror left/right"
        checked={sharedValue(all.map((s) => s.mirror))}
        onChange={(mirror) => change('mirroring', () => ({ mirror }))}
      />
      <Check
        label="Reverse"
        checked={sharedValue(all.map((s) => s.reverse))}
        onChange={(reverse) => change('reverse', () => ({ reverse }))}
      />
      <SharedFit
        segments={plans.filter(({ first }) => !first).map((p) => defined(scene.segments[p.segment.id]))}
      />
    </Group>
  );
}

const FITS = [
  ['planted foot', 'Planted foot'],
  ['whole body', 'Whole body'],
  ['hips', 'Hips'],
  ['free', 'Free (as authored)'],
] as const satisfies readonly (readonly [FitMode & string, string])[];

/** What the segments that have one before them are placed by. */
function SharedFit({ segments }: { readonly segments: readonly Segment[] }) {
  const dispatch = useAppDispatch();
  if (segments.length === 0) return null;
  const fit = sharedValue(segments.map((s) => s.seam.fit));
  const change = (to: FitMode): void => {
    const edits = segments.map((s): Edit => ({ type: 'seam', segment: s.id, values: { fit: to } }));
    dispatch(commit({ type: 'several', label: `fit of ${segments.length} seams`, edits }));
  };
  return (
    <ChoiceShared
      label="Fit"
      value={FITS.find(([key]) => key === fit)?.[0] ?? null}
      options={FITS}
      onChange={change}
    />
  );
}

type NumberProps = Omit<Parameters<typeof NumberField>[0], 'value' | 'mixed'> & {
  readonly value: number | null;
};

/** A number that all share, or an empty field where they differ. */
const NumberShared = ({ value, ...rest }: NumberProps) => (
  <NumberField {...rest} value={value ?? NaN} mixed={value === null} />
);

interface ChoiceProps<T extends string> {
  readonly label: string;
  readonly value: T | null;
  readonly options: readonly (readonly [T, string])[];
  readonly onChange: (value: T) => void;
}

/** A choice that all share, or "mixed" where they differ. */
const ChoiceShared = <T extends string>({ value, options, ...rest }: ChoiceProps<T>) => (
  <Choice
    {...rest}
    options={options}
    value={value ?? defined(options[0])[0]}
    placeholder={value === null ? 'mixed' : undefined}
  />
);

/** The segments that are performed, and whether each is the first of its lane. */
function plansOf(plan: Plan, ids: readonly string[]): { segment: SegmentPlan; first: boolean }[] {
  const wanted = new Set(ids);
  return plan.characters.flatMap((c) =>
    [c, ...c.layers].flatMap(({ segments }) =>
      segments.flatMap((segment, i) => (wanted.has(segment.id) ? [{ segment, first: i === 0 }] : [])),
    ),
  );
}
