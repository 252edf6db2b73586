import type { CharacterPlan, Segment, SegmentPlan, SegmentValues, Travel } from '@warper/core';
import { evaluate, makePoseBuffer, defined } from '@warper/core';
import { Check, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { PointList } from '../../../ui/PointList';
import { useAppSelector } from '../../../store/store';
import { MarkCycles } from './MarkCycles';
import { PathDrawing } from './PathDrawing';
import { TRAVELS } from './travels';

interface Props {
  readonly segment: Segment;
  readonly plan: SegmentPlan;
  readonly character: CharacterPlan;
  readonly change: (values: SegmentValues) => void;
}

/** What is done with a segment's root motion. */
export function TravelGroup({ segment, plan, character, change }: Props) {
  const frame = useAppSelector((s) => s.session.frame);
  const rootAt = (at: number) => rootPlace(character, at);
  const choose = (travel: Travel): void => {
    // A path begins with a point ahead, so that there is one to move.
    const path =
      travel === 'path' && segment.path.length === 0 ? [ahead(rootAt(plan.end - 1), 0)] : segment.path;
    change({ travel, path: travel === 'path' ? path : [] });
  };
  const nextMark = (): number[] => {
    const within = frame > plan.start && frame < plan.end ? frame : plan.end - 1;
    const [x, z, heading] = rootAt(within);
    return [within - plan.start, x, z, heading];
  };
  return (
    <Group title="Travel">
      <Choice label="Travel" value={segment.travel} options={TRAVELS} onChange={choose} />
      <NumberField
        label="Height offset"
        unit="m"
        digits={3}
        step={0.01}
        value={segment.lift}
        least={-100}
        most={100}
        onChange={(lift) => change({ lift })}
      />
      {segment.travel === 'in place' && (
        <Check
          label="Keep facing as well"
          checked={segment.holdFacing}
          onChange={(holdFacing) => change({ holdFacing })}
        />
      )}
      <PathDrawing segment={segment} plan={plan} />
      {segment.travel === 'path' && (
        <PathPoints path={segment.path} change={change} start={() => rootAt(plan.start)} />
      )}
      <Check
        label="Straighten"
        checked={segment.straighten}
        onChange={(straighten) => change({ straighten })}
      />
      <Check label="Mirror left/right" checked={segment.mirror} onChange={(mirror) => change({ mirror })} />
      <MarkList segment={segment} plan={plan} change={change} next={nextMark} />
      <MarkCycles segment={segment} plan={plan} start={() => rootAt(plan.start)} change={change} />
    </Group>
  );
}

interface PathProps {
  readonly path: Segment['path'];
  readonly change: (values: SegmentValues) => void;
  /** Where the root is at the beginning of the path. */
  readonly start: () => readonly number[];
}

/** Points that the root goes through. */
function PathPoints({ path, change, start }: PathProps) {
  // The next one lies straight on.
  const next = (): number[] => {
    const [x, z] = path.at(-1) ?? [0, 0];
    const [beforeX = 0, beforeZ = 0] = path.at(-2) ?? start();
    return ahead([x, z, (Math.atan2(x - beforeX, z - beforeZ) * 180) / Math.PI], 1.5);
  };
  return (
    <PointList
      title="path point"
      points={path}
      columns={[metres('X'), metres('Z')]}
      onChange={(points) => change({ path: points.map(([x, z]) => [defined(x), defined(z)] as const) })}
      next={next}
      add="Add point"
    />
  );
}

/** Where a character's root is at a frame: metres, and degrees of its heading. */
function rootPlace(character: CharacterPlan, frame: number): [number, number, number] {
  const { root } = evaluate(character, frame, makePoseBuffer(character.skeleton));
  return [defined(root[0]), defined(root[1]), (defined(root[2]) * 180) / Math.PI];
}

/** Spots that the root hits. */
function MarkList(props: Omit<Props, 'character'> & { readonly next: () => number[] }) {
  const { segment, plan, change, next } = props;
  return (
    <PointList
      title="mark"
      points={segment.marks.map((m) => [m.frame, m.x, m.z, m.heading])}
      columns={[
        { label: 'Hit after', unit: 'f', least: 1, most: plan.end - plan.start - 1 },
        metres('X'),
        metres('Z'),
        { label: 'Facing', unit: '°', digits: 1, step: 5 },
      ]}
      onChange={(points) =>
        change({
          marks: points.map(([at, x, z, heading]) => ({
            frame: defined(at),
            x: defined(x),
            z: defined(z),
            heading: defined(heading),
          })),
        })
      }
      next={next}
      add="Add mark at the playhead"
    />
  );
}

const metres = (label: string) => ({ label, unit: 'm', digits: 2, step: 0.05 });

const ahead = ([x, z, heading]: readonly [number, number, number], by: number): [number, number] => [
  x + by * Math.sin((heading * Math.PI) / 180),
  z + by * Math.cos((heading * Math.PI) / 180),
];
