import type { Camera } from '@warper/core';
import { Button, Check, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';

interface Props {
  readonly camera: Camera;
  readonly change: (values: Partial<Omit<Camera, 'id'>>) => void;
}

/** A camera on a shoulder: a third of a degree, a centimetre (common practice). */
const USUAL_HAND = { turn: 0.35, sway: 0.01, frequency: 0.7, seed: 1 } as const;

/** How unsteadily it is held. */
export function HandheldGroup({ camera, change }: Props) {
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
