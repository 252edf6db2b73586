import type { Camera, CameraFollow, CameraLook, CharacterPlan, Plan } from '@warper/core';
import { cameraAt, cameraValuesAt, jointOfRole, makeCameraPose, retargetedCamera } from '@warper/core';
import { looseOf } from '../../../parts/stage/filmedPose';
import { useAppSelector } from '../../../store/store';
import { Button, Check, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { PointList } from '../../../ui/PointList';
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

/** Metres of a path that a camera begins with: to its right. */
const USUAL_PATH = 3;

/** A path over the floor, and how far along it the camera is at the playhead. */
export function CameraPathGroup({ camera, plan, change }: Props) {
  const frame = useAppSelector((s) => s.session.frame);
  const { path } = camera;
  /** A place of the scene as the path has it: beside whom the camera follows. */
  const onPath = (x: number, z: number): readonly [number, number] => {
    const values = cameraValuesAt(plan, { ...camera, path: null }, frame, {
      place: [x, 0, z],
      aim: [x, 0, z],
    });
    return [values.x ?? x, values.z ?? z];
  };
  const begin = (): void => {
    const { place, rotation } = cameraAt(plan, looseOf(camera), frame, makeCameraPose());
    const [x = 0, , z = 0] = place;
    const [qx = 0, qy = 0, qz = 0, qw = 1] = rotation;
    // The camera's own right, on the floor.
    const right = [1 - 2 * (qy * qy + qz * qz), 2 * (qx * qz - qw * qy)] as const;
    const { x: _x, z: _z, ...keys } = camera.keys;
    const along = [
      { frame: plan.start, value: 0 },
      { frame: Math.max(plan.start + 1, plan.end - 1), value: 1 },
    ].map((key) => ({ ...key, curve: 'flat' as const, tangent: null, into: null }));
    change({
      path: [onPath(x, z), onPath(x + USUAL_PATH * right[0], z + USUAL_PATH * right[1])],
      keys: { ...keys, along },
    });
  };
  const leave = (): void => {
    const { place } = cameraAt(plan, looseOf(camera), frame, makeCameraPose());
    const [x, z] = onPath(place[0] ?? 0, place[2] ?? 0);
    const { along: _along, ...keys } = camera.keys;
    change({ path: null, keys, base: { ...camera.base, x, z } });
  };
  return (
    <Group title="Path">
      {path ? (
        <>
          <p className="text-note text-soft">
            It goes along from its first key to its last. Drag the points in the view.
          </p>
          <PathPoints
            path={path}
            onChange={(points) => (points.length >= 2 ? change({ path: points }) : leave())}
          />
          <div>
            <Button onClick={leave}>Leave the path</Button>
          </div>
        </>
      ) : (
        <div>
          <Button onClick={begin}>Go along a path</Button>
        </div>
      )}
    </Group>
  );
}

interface PointsProps {
  readonly path: NonNullable<Camera['path']>;
  readonly onChange: (points: NonNullable<Camera['path']>) => void;
}

function PathPoints({ path, onChange }: PointsProps) {
  const [before, last] = path.slice(-2);
  return (
    <PointList
      title="point of the path"
      points={path}
      columns={[
        { label: 'X', unit: 'm', digits: 2, step: 0.1 },
        { label: 'Z', unit: 'm', digits: 2, step: 0.1 },
      ]}
      add="Point"
      next={() => (before && last ? [2 * last[0] - before[0], 2 * last[1] - before[1]] : [0, 0])}
      onChange={(points) => onChange(points.map(([x = 0, z = 0]) => [x, z] as const))}
    />
  );
}

/** A camera on a shoulder: a third of a degree, a centimetre (common practice). */
const USUAL_HAND = { turn: 0.35, sway: 0.01, frequency: 0.7, seed: 1 } as const;

/** How unsteadily it is held. */
export function HandGroup({ camera, change }: Props) {
  const { hand } = camera;
  return (
    <Group title="Handheld motion">
      <Check
        label="Handheld"
        checked={hand !== null}
        onChange={(on) => change({ hand: on ? USUAL_HAND : null })}
      />
      {hand && (
        <>
          <NumberField
            label="Turns by"
            unit="°"
            digits={2}
            step={0.05}
            least={0}
            most={20}
            value={hand.turn}
            onChange={(turn) => change({ hand: { ...hand, turn } })}
          />
          <NumberField
            label="Sways by"
            unit="cm"
            digits={1}
            step={0.1}
            least={0}
            most={100}
            value={hand.sway * 100}
            onChange={(cm) => change({ hand: { ...hand, sway: cm / 100 } })}
          />
          <NumberField
            label="Frequency"
            unit="Hz"
            digits={2}
            step={0.05}
            least={0.05}
            most={10}
            value={hand.frequency}
            onChange={(frequency) => change({ hand: { ...hand, frequency } })}
          />
          <div>
            <Button onClick={() => change({ hand: { ...hand, seed: (hand.seed + 1) % 4_294_967_296 } })}>
              Another motion
            </Button>
          </div>
        </>
      )}
    </Group>
  );
}
