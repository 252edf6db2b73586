import type { CharacterPlan, Grip, Hold, Reach, TetherValues } from '@warper/core';
import { defined, jointOrRoot, palmOf } from '@warper/core';
import { invertRigid, multiplyRigid } from '@warper/core/kernels';
import { useAppSelector } from '../../../store/store';
import { Button, Check, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { jointAt } from './newTether';

interface Props {
  readonly tether: Hold | Reach;
  readonly child: CharacterPlan;
  readonly parent: CharacterPlan;
  readonly change: (values: TetherValues) => void;
}

/** Frames in which something goes to its grip at first, so that it does not jump there. */
const FADE = 6;

/** Where what is held sits: where it is when it is taken, or in a grip. */
export function GripFields({ tether, child, parent, change }: Props) {
  const frame = useAppSelector((s) => s.session.frame);
  const { grip } = tether;
  const choose = (kind: 'offset' | 'grip'): void =>
    kind === 'offset'
      ? change({ grip: null })
      : change({ grip: { place: palm(tether, parent), turn: null }, fadeIn: Math.max(FADE, tether.fadeIn) });
  return (
    <Group title="Offset">
      <Choice
        label="Sits"
        value={grip ? 'grip' : 'offset'}
        options={[
          ['offset', 'Where it is when it is taken'],
          ['grip', 'In a grip'],
        ]}
        onChange={choose}
      />
      {grip && <GripNumbers grip={grip} onChange={(next) => change({ grip: next })} />}
      {grip && (
        <Button onClick={() => change({ grip: gripAt(tether, child, parent, frame) })}>
          Take the grip from the playhead
        </Button>
      )}
    </Group>
  );
}

function GripNumbers({ grip, onChange }: { readonly grip: Grip; readonly onChange: (grip: Grip) => void }) {
  return (
    <>
      {(['X', 'Y', 'Z'] as const).map((axis, i) => (
        <NumberField
          key={axis}
          label={`Grip ${axis}`}
          unit="m"
          digits={3}
          step={0.005}
          value={defined(grip.place[i])}
          onChange={(value) => {
            const [x, y, z] = grip.place.map((v, k) => (k === i ? value : v)) as [number, number, number];
            onChange({ ...grip, place: [x, y, z] });
          }}
        />
      ))}
      <Check
        label="Turned with the joint"
        checked={grip.turn !== null}
        onChange={(on) => onChange({ ...grip, turn: on ? [0, 0, 0, 1] : null })}
      />
    </>
  );
}

/** Where a thing lies in the hand that holds it. */
function palm({ kind, joint }: Hold | Reach, { skeleton }: CharacterPlan): Grip['place'] {
  if (kind === 'reach') return [0, 0, 0];
  return palmOf(skeleton, jointOrRoot(skeleton, joint));
}

/** Where what is held, or the hand that reaches, is at a frame in the axes of the joint. */
function gripAt(tether: Hold | Reach, child: CharacterPlan, parent: CharacterPlan, frame: number): Grip {
  const own = tether.kind === 'hold' ? tether.held : tether.limb;
  const held = jointAt(child, jointOrRoot(child.skeleton, own), frame);
  const joint = jointAt(parent, jointOrRoot(parent.skeleton, tether.joint), frame);
  const [x = 0, y = 0, z = 0, qx = 0, qy = 0, qz = 0, qw = 1] = multiplyRigid(
    invertRigid(joint, joint),
    held,
    held,
  );
  return { place: [x, y, z], turn: [qx, qy, qz, qw] };
}
