import type { Camera, CameraFollow, CameraLook, CharacterPlan, Plan } from '@warper/core';
import { jointOfRole, retargetedCamera } from '@warper/core';
import { useAppSelector } from '../../../store/store';
import { Check, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { WHOLE, jointChoices, jointName } from './jointChoices';

interface Props {
  readonly camera: Camera;
  readonly plan: Plan;
  readonly change: (values: Partial<Omit<Camera, 'id'>>) => void;
}

const NOBODY = '';

const castOptions = (plan: Plan, nobody: string) => [
  [NOBODY, nobody] as const,
  ...plan.characters.map((c) => [c.character.id, c.character.name] as const),
];

const actorOf = (plan: Plan, id: string): CharacterPlan | undefined =>
  plan.characters.find((c) => c.character.id === id);

/** The joint that a camera takes of somebody unless another is asked for: one of the roles, else the root. */
function usualJoint(plan: Plan, id: string, roles: readonly ('head' | 'hips')[]): string | null {
  const skeleton = actorOf(plan, id)?.skeleton;
  const joint = roles.map((r) => (skeleton ? jointOfRole(skeleton, r) : -1)).find((j) => j >= 0);
  return skeleton && joint !== undefined ? jointName(skeleton, joint) : null;
}

interface JointProps {
  readonly plan: Plan;
  readonly target: CameraLook;
  readonly onJoint: (joint: string | null) => void;
  readonly onLag: (lag: number) => void;
}

function JointAndLag({ plan, target, onJoint, onLag }: JointProps) {
  const skeleton = actorOf(plan, target.character)?.skeleton;
  return (
    <>
      {skeleton && (
        <Choice
          label="Joint"
          value={target.joint ?? WHOLE}
          options={jointChoices(skeleton, 'root on the floor')}
          onChange={(joint) => onJoint(joint === WHOLE ? null : joint)}
        />
      )}
      <NumberField
        label="Lag"
        unit="s"
        digits={2}
        step={0.05}
        least={0}
        most={10}
        value={target.lag}
        onChange={onLag}
      />
    </>
  );
}

/** Seconds by which a camera that begins to follow comes behind: as an operator does (common practice). */
const USUAL_LAG = 0.3;

/** Whom it goes along with. It stays where it is at its keys and at the playhead when that is changed. */
export function FollowGroup({ camera, plan, change }: Props) {
  const frame = useAppSelector((s) => s.session.frame);
  const { follow, look } = camera;
  const set = (next: CameraFollow | null): void =>
    change(retargetedCamera(plan, camera, frame, { follow: next, look }));
  return (
    <Group title="Follow">
      <Choice
        label="Goes along with"
        value={follow?.character ?? NOBODY}
        options={castOptions(plan, 'nobody')}
        onChange={(id) =>
          set(
            id === NOBODY
              ? null
              : {
                  lag: USUAL_LAG,
                  height: false,
                  turns: false,
                  ...follow,
                  character: id,
                  joint: usualJoint(plan, id, ['hips']),
                },
          )
        }
      />
      {follow && (
        <>
          <JointAndLag
            plan={plan}
            target={follow}
            onJoint={(joint) => set({ ...follow, joint })}
            // Its distance stays: with more lag it comes further behind.
            onLag={(lag) => change({ follow: { ...follow, lag } })}
          />
          <Check
            label="Up and down, too"
            checked={follow.height}
            onChange={(height) => set({ ...follow, height })}
          />
          <Check
            label="Turns with the facing"
            checked={follow.turns}
            onChange={(turns) => set({ ...follow, turns })}
          />
        </>
      )}
    </Group>
  );
}

/** Whom it looks at. */
export function LookAtGroup({ camera, plan, change }: Props) {
  const frame = useAppSelector((s) => s.session.frame);
  const { follow, look } = camera;
  const set = (next: CameraLook | null): void =>
    change(retargetedCamera(plan, camera, frame, { follow, look: next }));
  return (
    <Group title="Look at">
      <Choice
        label="Looks at"
        value={look?.character ?? NOBODY}
        options={castOptions(plan, 'its aim')}
        onChange={(id) =>
          set(
            id === NOBODY
              ? null
              : {
                  lag: look?.lag ?? 0,
                  character: id,
                  joint: usualJoint(plan, id, ['head']),
                },
          )
        }
      />
      {look && (
        <JointAndLag
          plan={plan}
          target={look}
          onJoint={(joint) => set({ ...look, joint })}
          onLag={(lag) => change({ look: { ...look, lag } })}
        />
      )}
    </Group>
  );
}

/** A frame with a little air around the figure. */
const USUAL_BOX = { left: 0.15, right: 0.85, bottom: 0.05, top: 0.92 } as const;
const EDGES = [
  ['left', 'Left edge'],
  ['right', 'Right edge'],
  ['bottom', 'Lower edge'],
  ['top', 'Upper edge'],
] as const;

/** Who is kept in a part of its picture. */
export function KeepGroup({ camera, plan, change }: Props) {
  const { keep } = camera;
  return (
    <Group title="Keep in frame">
      <Choice
        label="Keeps"
        value={keep?.character ?? NOBODY}
        options={castOptions(plan, 'nobody')}
        onChange={(id) =>
          change({
            keep: id === NOBODY ? null : { ...(keep ?? { ...USUAL_BOX, widens: true }), character: id },
          })
        }
      />
      {keep && (
        <>
          {EDGES.map(([edge, label]) => {
            const [low, high] =
              edge === 'left' || edge === 'right'
                ? (['left', 'right'] as const)
                : (['bottom', 'top'] as const);
            return (
              <NumberField
                key={edge}
                label={label}
                unit="%"
                digits={1}
                least={edge === low ? 0 : keep[low] * 100 + 1}
                most={edge === high ? 100 : keep[high] * 100 - 1}
                value={keep[edge] * 100}
                onChange={(value) => change({ keep: { ...keep, [edge]: value / 100 } })}
              />
            );
          })}
          <Check
            label="Lens widens for it"
            checked={keep.widens}
            onChange={(widens) => change({ keep: { ...keep, widens } })}
          />
        </>
      )}
    </Group>
  );
}
