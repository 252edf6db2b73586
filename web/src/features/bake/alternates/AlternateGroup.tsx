import type { Alternate } from '@warper/core';
import { Check, Choice, Group } from '../../../ui/controls';
import type { PreviewFormat } from './bakeAlternates';

interface Props {
  readonly alternates: readonly Alternate[];
  readonly chosen: readonly string[];
  readonly preview: PreviewFormat | null;
  readonly onChoose: (chosen: readonly string[]) => void;
  readonly onPreview: (preview: PreviewFormat | null) => void;
}

const NONE = 'none';

/** Which alternates are baked, and what goes with each to be looked at. */
export function AlternateGroup({ alternates, chosen, preview, onChoose, onPreview }: Props) {
  const set = (id: string, on: boolean): void =>
    onChoose(alternates.map((a) => a.id).filter((other) => (other === id ? on : chosen.includes(other))));
  return (
    <Group title="Alternates">
      <div role="group" aria-label="Which alternates are baked" className="flex flex-col gap-1">
        {alternates.map(({ id, name, differences }) => (
          <Check
            key={id}
            label={differences ? name : `${name}, in hand`}
            checked={chosen.includes(id)}
            onChange={(on) => set(id, on)}
          />
        ))}
      </div>
      <Choice
        label="Moving preview of each"
        value={preview ?? NONE}
        options={[
          [NONE, 'None'],
          ['gif', 'GIF, for a message'],
          ['mp4', 'MP4 (H.264)'],
          ['webm', 'WebM'],
        ]}
        onChange={(value) => onPreview(value === NONE ? null : value)}
      />
    </Group>
  );
}
