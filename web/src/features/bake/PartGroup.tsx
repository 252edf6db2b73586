import { Choice, Group } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';
import type { OfferedPart, OwnFrames, Part } from './spans';

interface Props {
  readonly parts: readonly OfferedPart[];
  readonly chosen: OfferedPart;
  readonly framesPerSecond: number;
  /** Whether several spans are takes of one file; null where the format holds one alone. */
  readonly together: boolean | null;
  readonly onChoose: (part: Part) => void;
  readonly onFrames: (frames: OwnFrames) => void;
  readonly onTogether: (together: boolean) => void;
}

/** Which frames are baked. */
export function PartGroup(props: Props) {
  const { parts, chosen, framesPerSecond, together, onChoose, onFrames, onTogether } = props;
  const [only] = chosen.spans;
  const isOne = chosen.spans.length === 1;
  return (
    <Group title="Range">
      <Choice
        label="Part of the scene"
        value={chosen.part}
        options={parts.map(({ part, words }) => [part, words] as const)}
        onChange={onChoose}
      />
      {isOne && only && (
        <>
          <NumberField
            label="Start frame"
            unit="f"
            value={only.from}
            framesPerSecond={framesPerSecond}
            most={only.to - 1}
            onChange={(from) => onFrames({ from: Math.round(from), to: only.to })}
          />
          <NumberField
            label="End frame"
            unit="f"
            value={only.to}
            framesPerSecond={framesPerSecond}
            least={only.from + 1}
            onChange={(to) => onFrames({ from: only.from, to: Math.round(to) })}
          />
        </>
      )}
      {!isOne &&
        (together === null ? (
          <p className="text-note text-soft">Each by itself: a file, or a row of a sheet.</p>
        ) : (
          <Choice
            label="Each part is"
            value={together ? 'animation' : 'file'}
            options={[
              ['file', 'A file'],
              ['animation', 'An animation of one file'],
            ]}
            onChange={(value) => onTogether(value === 'animation')}
          />
        ))}
    </Group>
  );
}
