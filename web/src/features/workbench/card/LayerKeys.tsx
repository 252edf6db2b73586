import type { CharacterPlan, Edit, LayerLane, PoseKey } from '@warper/core';
import type { EulerOrder } from '@warper/core/kernels';
import { KEY_CURVES, defined, evaluate, framesPerSecond, makePoseBuffer } from '@warper/core';
import { eulerFromQuat, quatFromEuler, quatTurn } from '@warper/core/kernels';
import { Button, Check, Choice, Group } from '../../../ui/controls';
import { withFirstSpan } from './firstKey';
import { CURVE_NAMES } from './curveNames';
import { MoreKeys } from './MoreKeys';
import { framesNear } from './nearKeys';
import { FingerFields, PlaceFields } from './PoseFields';
import { PoseTools } from './PoseTools';
import { NumberField } from '../../../ui/NumberField';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';

const ORDER: EulerOrder = [0, 1, 2];
const AXES = ['X', 'Y', 'Z'] as const;
const DEGREES = 180 / Math.PI;

interface Props {
  readonly layer: LayerLane;
  readonly character: CharacterPlan;
}

/** The key poses of a layer: a joint's turn at the playhead, and all keys there are. */
export function LayerKeys({ layer, character }: Props) {
  const dispatch = useAppDispatch();
  const frame = useAppSelector((s) => s.session.frame);
  const { names } = character.skeleton;
  const posed = useAppSelector((s) => s.session.posed);
  const joint = posed === null ? -1 : names.indexOf(posed);
  return (
    <Group title="Key poses">
      <Choice
        label="Joint"
        value={joint < 0 ? '' : defined(names[joint])}
        options={[
          ...(joint < 0 ? [['', 'None in hand'] as const] : []),
          ...names.map((n) => [n, n] as const),
        ]}
        onChange={(name) => dispatch(sessionActions.posed(name || null))}
      />
      {joint < 0 ? (
        <p className="text-soft">Choose a joint here, or press one in the view.</p>
      ) : (
        <>
          <JointKey layer={layer} character={character} joint={defined(names[joint])} />
          <PlaceFields plan={character} layer={layer} frame={frame} joint={joint} />
          <FingerFields plan={character} layer={layer} frame={frame} joint={joint} />
        </>
      )}
      <PoseTools plan={character} layer={layer} frame={frame} joint={joint} />
      {joint >= 0 && <KeyList layer={layer} joint={defined(names[joint])} />}
    </Group>
  );
}

/** A joint's key at the playhead, or a way to make one. */
function JointKey({ layer, character, joint }: Props & { readonly joint: string }) {
  const dispatch = useAppDispatch();
  const frame = useAppSelector((s) => s.session.frame);
  const here = layer.keys[joint]?.find((k) => k.frame === frame);
  const put = (key: PoseKey): void => {
    const edit: Edit = { type: 'key', layer: layer.id, joint, key };
    void dispatch(commit(withFirstSpan(layer, frame, framesPerSecond(character.rate), edit)));
  };
  const addKey = (): void => {
    const index = character.skeleton.names.indexOf(joint);
    const rotation: PoseKey['rotation'] =
      layer.blend === 'additive' ? [0, 0, 0, 1] : rotationNow(character, frame, index);
    put({ frame, rotation, curve: 'smooth', tangent: null, into: null });
  };
  return here ? (
    <KeyFields value={here} onChange={put} />
  ) : (
    <div>
      <Button onClick={addKey}>Key it at frame {frame}</Button>
    </div>
  );
}

interface ListProps {
  readonly layer: LayerLane;
  readonly joint: string;
}

/** The keys of a joint: each is gone to, or removed. */
function KeyList({ layer, joint }: ListProps) {
  const dispatch = useAppDispatch();
  const remove = (frame: number): void =>
    void dispatch(commit({ type: 'key', layer: layer.id, joint, key: { frame, rotation: null } }));
  const playhead = useAppSelector((s) => s.session.frame);
  const all = layer.keys[joint] ?? [];
  const near = new Set(
    framesNear(
      all.map((k) => k.frame),
      playhead,
    ),
  );
  const listed = all.filter((k) => near.has(k.frame));
  return (
    <>
      <MoreKeys count={all.length} shown={listed.length} />
      <ul>
        {listed.map(({ frame, curve }) => (
          <li key={frame} className="flex justify-between">
            <Button
              look="bare"
              className="hover:underline"
              onClick={() => dispatch(sessionActions.went(frame))}
            >
              Frame {frame} <span className="text-soft">{CURVE_NAMES[curve].toLowerCase()}</span>
            </Button>
            <Button look="soft" className="text-note" onClick={() => remove(frame)}>
              Remove
            </Button>
          </li>
        ))}
      </ul>
    </>
  );
}

interface KeyProps {
  readonly value: PoseKey;
  readonly onChange: (key: PoseKey) => void;
}

function KeyFields({ value, onChange }: KeyProps) {
  const turns = eulerFromQuat(Float64Array.from(value.rotation), 0, ORDER, new Float64Array(3), 0);
  const turn = (axis: number, degrees: number): void => {
    const next = triple(turns);
    next[axis] = degrees / DEGREES;
    onChange({ ...value, rotation: quadruple(quatFromEuler(...next, ORDER, new Float64Array(4), 0)) });
  };
  return (
    <>
      {AXES.map((axis, k) => (
        <NumberField
          key={axis}
          label={`Rotation ${axis}`}
          unit="°"
          digits={1}
          step={1}
          value={defined(turns[k]) * DEGREES}
          onChange={(v) => turn(k, v)}
        />
      ))}
      <Choice
        label="Interpolation"
        value={value.curve}
        options={KEY_CURVES.map((c) => [c, CURVE_NAMES[c]] as const)}
        onChange={(curve) =>
          onChange({ ...value, curve, tangent: curve === 'free' ? [0, 0, 0] : null, into: null })
        }
      />
      {value.curve === 'free' && <TangentFields value={value} onChange={onChange} />}
    </>
  );
}

/** How steeply a free key is gone through, degrees a frame about each axis; with broken handles the way in on its own. */
function TangentFields({ value, onChange }: KeyProps) {
  const { tangent, into } = value;
  if (!tangent) return null;
  return (
    <>
      <SlopeFields
        label="Slope"
        slope={tangent}
        onChange={(slope) => onChange({ ...value, tangent: slope })}
      />
      <Check
        label="Broken handles"
        checked={into !== null}
        onChange={(broken) => onChange({ ...value, into: broken ? tangent : null })}
      />
      {into && (
        <SlopeFields
          label="Slope in"
          slope={into}
          onChange={(slope) => onChange({ ...value, into: slope })}
        />
      )}
    </>
  );
}

interface SlopeProps {
  readonly label: string;
  readonly slope: readonly [number, number, number];
  readonly onChange: (slope: readonly [number, number, number]) => void;
}

function SlopeFields({ label, slope, onChange }: SlopeProps) {
  return AXES.map((axis, k) => (
    <NumberField
      key={axis}
      label={`${label} ${axis}, a frame`}
      unit="°"
      digits={2}
      step={0.1}
      value={defined(slope[k]) * DEGREES}
      onChange={(v) => {
        const next = triple(slope);
        next[k] = v / DEGREES;
        onChange(next);
      }}
    />
  ));
}

const triple = ([x = 0, y = 0, z = 0]: Iterable<number>): [number, number, number] => [x, y, z];
const quadruple = ([x = 0, y = 0, z = 0, w = 1]: Iterable<number>): [number, number, number, number] => [
  x,
  y,
  z,
  w,
];

/** A joint's rotation as it is shown at a frame, so that a new key changes nothing at first. */
function rotationNow(character: CharacterPlan, frame: number, joint: number): PoseKey['rotation'] {
  const pose = makePoseBuffer(character.skeleton);
  evaluate(character, frame, pose);
  // The root bone is keyed relative to the root.
  if (joint === character.skeleton.rootBone) quatTurn(pose.rotations, joint * 4, -defined(pose.root[2]));
  return quadruple(pose.rotations.subarray(joint * 4, joint * 4 + 4));
}
