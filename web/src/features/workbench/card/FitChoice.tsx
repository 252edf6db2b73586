import type { CharacterPlan, FitMode, FloorPlace } from '@warper/core';
import { evaluate, makePoseBuffer, defined } from '@warper/core';
import { Choice } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';

type FitName = Exclude<FitMode, object> | 'joint' | 'pin';

const FITS: readonly (readonly [FitName, string])[] = [
  ['planted foot', 'Planted foot'],
  ['whole body', 'Whole body'],
  ['hips', 'Hips'],
  ['left foot', 'Left foot'],
  ['right foot', 'Right foot'],
  ['left hand', 'Left hand'],
  ['right hand', 'Right hand'],
  ['joint', 'A joint'],
  ['pin', 'Pinned'],
  ['free', 'Free (as authored)'],
];

const nameOf = (fit: FitMode): FitName => (typeof fit === 'string' ? fit : 'joint' in fit ? 'joint' : 'pin');

/** Where a character's root is at a frame, to the millimetre and the tenth of a degree. */
export function rootPlace(character: CharacterPlan, frame: number): FloorPlace {
  const pose = makePoseBuffer(character.skeleton);
  evaluate(character, frame, pose);
  const [x, z, turn] = pose.root as unknown as [number, number, number];
  const round = (v: number, by: number): number => Math.round(v * by) / by;
  return { x: round(x, 1000), z: round(z, 1000), heading: round((turn * 180) / Math.PI, 10) };
}

interface Props {
  readonly fit: FitMode;
  readonly joints: readonly string[];
  /** Where the incoming root begins now: that is where a pin is put first. */
  readonly here: FloorPlace;
  readonly onChange: (fit: FitMode) => void;
}

/** What the incoming segment is placed by; for a joint, which; for a pin, where. */
export function FitChoice({ fit, joints, here, onChange }: Props) {
  const choose = (name: FitName): void => {
    if (name === 'joint') onChange({ joint: defined(joints[0]) });
    else if (name === 'pin') onChange({ pin: here });
    else onChange(name);
  };
  const pin = typeof fit === 'object' && 'pin' in fit ? fit.pin : null;
  const move = (values: Partial<FloorPlace>): void => onChange({ pin: { ...defined(pin), ...values } });
  return (
    <>
      <Choice label="Fit" value={nameOf(fit)} options={FITS} onChange={choose} />
      {typeof fit === 'object' && 'joint' in fit && (
        <p className="text-right text-note text-soft">Choose it here, or press it on the figure.</p>
      )}
      {typeof fit === 'object' && 'joint' in fit && (
        <Choice
          label="Joint"
          value={fit.joint}
          options={joints.map((j) => [j, j] as const)}
          onChange={(joint) => onChange({ joint })}
        />
      )}
      {pin && (
        <>
          <NumberField
            label="X"
            unit="m"
            digits={3}
            step={0.05}
            value={pin.x}
            onChange={(x) => move({ x })}
          />
          <NumberField
            label="Z"
            unit="m"
            digits={3}
            step={0.05}
            value={pin.z}
            onChange={(z) => move({ z })}
          />
          <NumberField
            label="Facing"
            unit="°"
            digits={1}
            step={5}
            value={pin.heading}
            onChange={(heading) => move({ heading })}
          />
        </>
      )}
    </>
  );
}
