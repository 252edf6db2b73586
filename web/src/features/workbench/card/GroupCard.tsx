import type { Plan, Scene, SegmentGroup } from '@warper/core';
import { moveAbout, moveOnFloor, segmentsOfGroup, defined } from '@warper/core';
import { useState } from 'react';
import { Button, Check, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { TextField } from '../../../ui/TextField';
import { commit } from '../../../store/edits';
import { selectedSegments } from '../../../store/selection';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { commandOf } from '../commands/commands';
import { pivotOf } from './pivotOf';
import { SharedFields } from './SharedFields';

/** A group: its name, how it is shown, and where it stands on the floor. */
export function GroupCard({ group, scene, plan }: { group: SegmentGroup; scene: Scene; plan: Plan }) {
  const dispatch = useAppDispatch();
  const members = segmentsOfGroup(scene, group.id);
  const change = (values: Partial<Pick<SegmentGroup, 'name' | 'folded' | 'muted'>>): void =>
    void dispatch(commit({ type: 'change group', group: group.id, values }));
  return (
    <>
      <p className="text-soft">
        Group of {members.length} segment{members.length === 1 ? '' : 's'}
      </p>
      <h2 className="mb-2 text-title font-bold">{group.name}</h2>
      <Group title="Group">
        <TextField label="Name" value={group.name} onChange={(name) => change({ name })} />
        <Check
          label="Folded on the timeline"
          checked={group.folded}
          onChange={(folded) => change({ folded })}
        />
        <Check label="Muted" checked={group.muted} onChange={(muted) => change({ muted })} />
      </Group>
      <FloorFields scene={scene} plan={plan} segments={members} name={group.name} />
      <Members scene={scene} segments={members} />
      <div className="flex gap-2 border-t pt-3">
        <Button
          onClick={() => {
            dispatch(commit({ type: 'ungroup', group: group.id }));
            dispatch(sessionActions.selected({ kind: 'scene' }));
          }}
        >
          Ungroup
        </Button>
      </div>
    </>
  );
}

/** Several segments in hand. */
export function SeveralCard({ scene, plan }: { scene: Scene; plan: Plan }) {
  const dispatch = useAppDispatch();
  const segments = useAppSelector((s) => selectedSegments(s.session.selection, s.scene.document)).slice();
  return (
    <>
      <p className="text-soft">Selected</p>
      <h2 className="mb-2 text-title font-bold">{segments.length} segments</h2>
      <div className="flex flex-wrap gap-2 pb-3">
        {['group', 'duplicate', 'copy', 'mirror', 'reverse', 'remove'].map((id) => {
          const { name, run } = commandOf(id);
          return (
            <Button key={id} onClick={() => dispatch(run)}>
              {id === 'remove' ? 'Remove' : name}
            </Button>
          );
        })}
      </div>
      <SharedFields scene={scene} plan={plan} segments={segments} />
      <FloorFields scene={scene} plan={plan} segments={segments} name={`${segments.length} segments`} />
      <Members scene={scene} segments={segments} />
    </>
  );
}

function Members({ scene, segments }: { scene: Scene; segments: readonly string[] }) {
  const dispatch = useAppDispatch();
  return (
    <Group title="Segments">
      <ul className="max-h-48 overflow-y-auto">
        {segments.slice(0, 200).map((id) => {
          const lane = Object.values(scene.lanes).find((l) => l.segments.includes(id));
          return (
            <li key={id}>
              <Button
                look="row"

                onClick={() => dispatch(sessionActions.selected({ kind: 'segment', id }))}
              >
                <span className="truncate">{defined(scene.segments[id]).name}</span>
                <span className="shrink-0 text-soft">{lane && scene.characters[lane.character]?.name}</span>
              </Button>
            </li>
          );
        })}
      </ul>
    </Group>
  );
}

interface FloorProps {
  readonly scene: Scene;
  readonly plan: Plan;
  readonly segments: readonly string[];
  readonly name: string;
}

/** Moves and turns segments on the floor as one, about where the first of them begins. */
function FloorFields({ scene, plan, segments, name }: FloorProps) {
  const dispatch = useAppDispatch();
  const [by, setBy] = useState({ x: 0, z: 0, turn: 0 });
  const move = (next: typeof by): void => {
    const step = { x: next.x - by.x, z: next.z - by.z, turn: ((next.turn - by.turn) * Math.PI) / 180 };
    const about = moveAbout(pivotOf(plan, segments), step);
    if (dispatch(commit(moveOnFloor(scene, plan, segments, about, `floor place of ${name}`)))) setBy(next);
  };
  return (
    <Group title="Place on the floor">
      <NumberField
        label="X"
        unit="m"
        digits={3}
        step={0.05}
        value={by.x}
        onChange={(x) => move({ ...by, x })}
      />
      <NumberField
        label="Z"
        unit="m"
        digits={3}
        step={0.05}
        value={by.z}
        onChange={(z) => move({ ...by, z })}
      />
      <NumberField
        label="Turn"
        unit="°"
        digits={1}
        step={5}
        value={by.turn}
        onChange={(turn) => move({ ...by, turn })}
      />
    </Group>
  );
}
