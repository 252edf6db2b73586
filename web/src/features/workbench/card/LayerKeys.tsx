import type { CharacterPlan, LayerLane, PoseKey } from '@warper/core';
import type { EulerOrder } from '@warper/core/kernels';
import { evaluate, makePoseBuffer, defined } from '@warper/core';
import { eulerFromQuat, quatFromEuler, quatTurn } from '@warper/core/kernels';
import { useState } from 'react';
import { Button, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';

const ORDER: EulerOrder = [0, 1, 2];
const AXES = ['x', 'y', 'z'] as const;
const DEGREES = 180 / Math.PI;

/** The key poses of a layer: a joint's turn at the playhead, and all keys there are. */
export function LayerKeys({ layer, character }: { layer: LayerLane; character: CharacterPlan }) {
  const dispatch = useAppDispatch();
  const frame = useAppSelector((s) => s.session.frame);
  const { names } = character.skeleton;
  const [joint, setJoint] = useState(defined(names[0]));
  const keys = layer.keys[joint] ?? [];
  const here = keys.find((k) => k.frame === frame);
  const put = (key: PoseKey): void => void dispatch(commit({ type: 'key', layer: layer.id, joint, key }));
  const addKey = (): void => {
    const rotation: PoseKey['rotation'] =
      layer.blend === 'additive' ? [0, 0, 0, 1] : rotationNow(character, frame, names.indexOf(joint));
    put({ frame, rotation, curve: 'smooth', tangent: null });
  };
  return (
    <Group title="Key poses">
      <Choice label="joint" value={joint} options={names.map((n) => [n, n] as const)} onChange={setJoint} />
      {here ? (
        <KeyFields value={here} onChange={put} />
      ) : (
        <div>
          <Button onClick={addKey}>Key it at frame {frame}</Button>
        </div>
      )}
      <ul>
        {keys.map((key) => (
          <li key={key.frame} className="flex justify-between">
            <Button
              look="bare"
              className="hover:underline"
              onClick={() => dispatch(sessionActions.went(key.frame))}
            >
              frame {key.frame} <span className="text-soft">{key.curve}</span>
            </Button>
            <Button
              look="soft"
              className="text-note"
              onClick={() =>
                dispatch(
                  commit({ type: 'key', layer: layer.id, joint, key: { frame: key.frame, rotation: null } }),
                )
              }
            >
              remove
            </Button>
          </li>
        ))}
      </ul>
    </Group>
  );
}

function KeyFields({ value, onChange }: { value: PoseKey; onChange: (key: PoseKey) => void }) {
  const turns = eulerFromQuat(Float64Array.from(value.rotation), 0, ORDER, new Float64Array(3), 0);
  const turn = (axis: number, degrees: number): void => {
    const next = Array.from(turns, (v, k) => (k === axis ? degrees / DEGREES : v)) as [
      number,
      number,
      number,
    ];
    const [x, y, z, w] = quatFromEuler(...next, ORDER, new Float64Array(4), 0) as unknown as [
      number,
      number,
      number,
      number,
    ];
    onChange({ ...value, rotation: [x, y, z, w] });
  };
  const tangent = value.tangent ?? [0, 0, 0];
  return (
    <>
      {AXES.map((axis, k) => (
        <NumberField
          key={axis}
          label={`turned about ${axis}`}
          unit="°"
          digits={1}
          step={1}
          value={defined(turns[k]) * DEGREES}
          onChange={(v) => turn(k, v)}
        />
      ))}
      <Choice
        label="to the next key"
        value={value.curve}
        options={[
          ['smooth', 'smooth'],
          ['linear', 'straight'],
          ['hold', 'held'],
        ]}
        onChange={(curve) => onChange({ ...value, curve })}
      />
      {value.curve === 'smooth' && (
        <Choice
          label="slope"
          value={value.tangent ? 'own' : 'auto'}
          options={[
            ['auto', 'by its neighbours'],
            ['own', 'own'],
          ]}
          onChange={(kind) => onChange({ ...value, tangent: kind === 'own' ? [0, 0, 0] : null })}
        />
      )}
      {value.tangent &&
        AXES.map((axis, k) => (
          <NumberField
            key={axis}
            label={`a frame, ${axis}`}
            unit="°"
            digits={2}
            step={0.1}
            value={defined(tangent[k]) * DEGREES}
            onChange={(v) =>
              onChange({
                ...value,
                tangent: tangent.map((t, n) => (n === k ? v / DEGREES : t)) as [number, number, number],
              })
            }
          />
        ))}
    </>
  );
}

/** A joint's rotation as it is shown at a frame, so that a new key changes nothing at first. */
function rotationNow(character: CharacterPlan, frame: number, joint: number): PoseKey['rotation'] {
  const pose = makePoseBuffer(character.skeleton);
  evaluate(character, frame, pose);
  // The root bone is keyed relative to the root.
  if (joint === character.skeleton.rootBone) quatTurn(pose.rotations, joint * 4, -defined(pose.root[2]));
  const [x, y, z, w] = pose.rotations.subarray(joint * 4, joint * 4 + 4) as unknown as [
    number,
    number,
    number,
    number,
  ];
  return [x, y, z, w];
}
