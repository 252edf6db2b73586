import type {
  CharacterPlan,
  Hold,
  JointUse,
  Lead,
  Plan,
  Reach,
  Scene,
  Tether,
  TetherValues,
} from '@warper/core';
import { LEAD_LENGTH, collarOf, defined, framesPerSecond, legsOf } from '@warper/core';
import { Crosshair } from 'lucide-react';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button, Check, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { PointList } from '../../../ui/PointList';
import { TextField } from '../../../ui/TextField';
import { AxesFields } from './AxesFields';
import { GripFields } from './GripFields';
import { LinkGroup } from './LinkGroup';
import { WHOLE, jointChoices, jointName, jointWords } from './jointChoices';
import { reachingLimbs } from './newTether';
import { renamed, tetherWords } from './tetherWords';

interface Props {
  readonly tether: Tether;
  readonly scene: Scene;
  readonly plan: Plan;
  readonly child: CharacterPlan;
  readonly parent: CharacterPlan;
}

/** A tether: who holds what by which joint, when, and how. */
export function TetherCard({ tether, scene, plan, child, parent }: Props) {
  const dispatch = useAppDispatch();
  const change = (values: TetherValues): void =>
    void dispatch(
      commit({ type: 'change tether', tether: tether.id, values: renamed(tether, values, plan) }),
    );
  return (
    <>
      <p className="text-soft">{KIND_WORDS[tether.kind]}</p>
      <h2 className="text-title font-bold">{tether.name}</h2>
      <p className="mb-2 text-soft">{tetherWords(tether, scene)}</p>
      <Group title="Joints">
        <TextField label="Name" value={tether.name} onChange={(name) => change({ name })} />
        <ParentFields {...{ tether, plan, parent, change }} />
        {tether.kind === 'hold' && <HeldFields tether={tether} child={child} change={change} />}
        {tether.kind === 'reach' && <LimbField tether={tether} child={child} change={change} />}
        {tether.kind === 'lead' && <LeadFields tether={tether} child={child} change={change} />}
        <KeepJoints {...{ tether, scene, child, parent }} />
      </Group>
      <SpanGroup tether={tether} fps={framesPerSecond(plan.rate)} change={change} />
      {tether.kind !== 'lead' && <GripFields {...{ tether, child, parent, change }} />}
      {tether.kind === 'hold' && <AxesFields tether={tether} change={change} />}
      {tether.kind !== 'lead' && <WeightGroup tether={tether} change={change} />}
      <LinkGroup of="tether" id={tether.id} />
      <div className="flex flex-wrap gap-2 border-t pt-3">
        <Button onClick={() => change({ muted: !tether.muted })}>
          {tether.muted ? 'Enable' : 'Disable'}
        </Button>
        <Button
          onClick={() => {
            dispatch(commit({ type: 'remove tether', tether: tether.id }));
            dispatch(sessionActions.selected({ kind: 'character', id: tether.child }));
          }}
        >
          Remove
        </Button>
      </div>
    </>
  );
}

interface FieldProps {
  readonly tether: Tether;
  readonly change: (values: TetherValues) => void;
}

function ParentFields({
  tether,
  plan,
  parent,
  change,
}: FieldProps & { readonly plan: Plan; readonly parent: CharacterPlan }) {
  const others = plan.characters.filter((c) => c.character.id !== tether.child);
  return (
    <>
      <Choice
        label={tether.kind === 'reach' ? 'Reaches for' : 'Held by'}
        value={tether.parent}
        options={others.map((c) => [c.character.id, c.character.name] as const)}
        onChange={(id) =>
          change({ parent: id, joint: null, ...(tether.kind === 'lead' ? {} : { grip: null }) })
        }
      />
      <div className="flex items-baseline gap-2">
        <div className="min-w-0 flex-1">
          <Choice
            label="At joint"
            value={tether.joint ?? WHOLE}
            options={jointChoices(parent.skeleton, 'whole body')}
            onChange={(joint) => change({ joint: joint || null })}
          />
        </div>
        <PickButton what="joint" of={parent.character.name} />
      </div>
    </>
  );
}

/** Picks a joint by a press on the body in the view. */
function PickButton({ what, of }: { readonly what: 'joint' | 'held'; readonly of: string }) {
  const dispatch = useAppDispatch();
  const picking = useAppSelector((s) => s.session.picking === what);
  return (
    <Button
      look="soft"
      aria-label={`Pick the joint of ${of} in the view`}
      title={picking ? 'Press a joint in the view; press here again to stop' : 'Pick in the view'}
      aria-pressed={picking}
      className="aria-pressed:text-signal"
      onClick={() => dispatch(sessionActions.picking(picking ? null : what))}
    >
      <Crosshair size={14} aria-hidden />
    </Button>
  );
}

function HeldFields({
  tether,
  child,
  change,
}: {
  readonly tether: Hold;
  readonly child: CharacterPlan;
  readonly change: FieldProps['change'];
}) {
  return (
    <>
      <div className="flex items-baseline gap-2">
        <div className="min-w-0 flex-1">
          <Choice
            label="Held at"
            value={tether.held ?? WHOLE}
            options={jointChoices(child.skeleton, 'the whole, moving by itself')}
            onChange={(held) => change({ held: held || null, ...(held ? {} : { jointOnly: false }) })}
          />
        </div>
        <PickButton what="held" of={child.character.name} />
      </div>
      {tether.held !== null && (
        <Check
          label="Moves this joint only"
          checked={tether.jointOnly}
          onChange={(jointOnly) => change({ jointOnly })}
        />
      )}
      <Choice
        label="After the end"
        value={tether.after}
        options={[
          ['stay', 'Stays where it is'],
          ['return', 'Goes back'],
        ]}
        onChange={(after) => change({ after })}
      />
    </>
  );
}

function LeadFields({
  tether,
  child,
  change,
}: {
  readonly tether: Lead;
  readonly child: CharacterPlan;
  readonly change: FieldProps['change'];
}) {
  const worn = jointName(child.skeleton, collarOf(child.skeleton, tether));
  return (
    <>
      <div className="flex items-baseline gap-2">
        <div className="min-w-0 flex-1">
          <Choice
            label="Worn at"
            value={worn}
            options={jointChoices(child.skeleton, '').slice(1)}
            onChange={(held) => change({ held })}
          />
        </div>
        <PickButton what="held" of={child.character.name} />
      </div>
      <NumberField
        label="Length"
        unit="m"
        digits={2}
        step={0.1}
        least={LEAD_LENGTH.least}
        most={LEAD_LENGTH.most}
        value={tether.length}
        onChange={(length) => change({ length })}
      />
    </>
  );
}

const KIND_WORDS = { hold: 'Tether', reach: 'Tether: reach', lead: 'Tether: lead' } as const;

/** Keeps a joint that was picked with the body: where it is sat on, gripped, or wears a lead. */
function KeepJoints({ tether, scene, child, parent }: Pick<Props, 'tether' | 'scene' | 'child' | 'parent'>) {
  const dispatch = useAppDispatch();
  const uses = usesOf(tether, child, parent).filter(
    ({ of, use, joint }) => scene.pickedJoints[of.character.body]?.[use] !== joint,
  );
  if (uses.length === 0) return null;
  return (
    <div className="flex flex-wrap gap-1.5 pt-1">
      {uses.map(({ of, use, joint }) => (
        <Button
          key={use}
          title={`New tethers take it: ${jointWords(of.skeleton, joint)}`}
          onClick={() => dispatch(commit({ type: 'pick joint', body: of.character.body, use, joint }))}
        >
          Keep as {use} of {of.character.name}
        </Button>
      ))}
    </div>
  );
}

/** What the joints of a tether are used for. */
function usesOf(
  tether: Tether,
  child: CharacterPlan,
  parent: CharacterPlan,
): { readonly of: CharacterPlan; readonly use: JointUse; readonly joint: string }[] {
  const own = tether.kind === 'reach' ? null : tether.held;
  const sits = tether.kind === 'hold' && legsOf(child.skeleton).length > 0;
  return [
    ...(sits && tether.joint !== null ? [{ of: parent, use: 'seat', joint: tether.joint } as const] : []),
    ...(tether.kind === 'reach' && tether.joint !== null
      ? [{ of: parent, use: 'grip', joint: tether.joint } as const]
      : []),
    ...(tether.kind === 'hold' && !sits && own !== null
      ? [{ of: child, use: 'grip', joint: own } as const]
      : []),
    ...(tether.kind === 'lead' && own !== null ? [{ of: child, use: 'collar', joint: own } as const] : []),
  ];
}

function LimbField({
  tether,
  child,
  change,
}: {
  readonly tether: Reach;
  readonly child: CharacterPlan;
  readonly change: FieldProps['change'];
}) {
  const { skeleton } = child;
  const limbs = reachingLimbs(skeleton);
  return (
    <Choice
      label="With"
      value={tether.limb}
      options={limbs.map(({ role, end }) => [role, jointWords(skeleton, jointName(skeleton, end))] as const)}
      onChange={(limb) => change({ limb })}
    />
  );
}

function SpanGroup({ tether, fps, change }: FieldProps & { readonly fps: number }) {
  const frame = useAppSelector((s) => s.session.frame);
  const { start, end } = tether;
  const whole = (key: 'start' | 'end' | 'fadeIn' | 'fadeOut') => (frames: number) =>
    change({ [key]: Math.round(frames) });
  const shared = { unit: 'f', framesPerSecond: fps } as const;
  return (
    <Group title="Span">
      <NumberField
        label="From frame"
        {...shared}
        most={end === null ? undefined : end - 1}
        value={start}
        onChange={whole('start')}
      />
      <Check
        label="To the end"
        checked={end === null}
        onChange={(open) => change({ end: open ? null : Math.max(frame, start + 1) })}
      />
      {end !== null && (
        <NumberField label="To frame" {...shared} least={start + 1} value={end} onChange={whole('end')} />
      )}
      {tether.kind !== 'lead' && (
        <NumberField label="Fade in" {...shared} least={0} value={tether.fadeIn} onChange={whole('fadeIn')} />
      )}
      {tether.kind !== 'lead' && end !== null && (
        <NumberField
          label="Fade out"
          {...shared}
          least={0}
          value={tether.fadeOut}
          onChange={whole('fadeOut')}
        />
      )}
      <div className="flex flex-wrap gap-1.5 pt-1">
        <Button disabled={end !== null && frame >= end} onClick={() => change({ start: frame })}>
          Start at the playhead
        </Button>
        <Button disabled={frame <= start} onClick={() => change({ end: frame })}>
          End at the playhead
        </Button>
      </div>
    </Group>
  );
}

function WeightGroup({ tether, change }: FieldProps & { readonly tether: Hold | Reach }) {
  const frame = useAppSelector((s) => s.session.frame);
  return (
    <Group title="Weight">
      <PointList
        title="Weight"
        points={tether.weight}
        columns={[
          { label: 'At frame', unit: 'f' },
          { label: 'Weight', unit: '%', digits: 1, times: 100, least: 0, most: 100, step: 5 },
        ]}
        onChange={(points) =>
          change({
            weight: points.map(([f, w]) => [defined(f), defined(w)] as const).sort((a, b) => a[0] - b[0]),
          })
        }
        next={() => [frame, 1]}
        add="Add weight at the playhead"
      />
    </Group>
  );
}
