import type { CharacterPlan } from '@warper/core';
import { framesPerSecond, parseRate } from '@warper/core';
import { Check, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import type { FilmSettings } from './renderFilm';

interface Props {
  readonly settings: FilmSettings;
  readonly set: (values: Partial<FilmSettings>) => void;
  readonly cast: readonly CharacterPlan[];
  readonly sceneRate: number;
}

/** Films have even numbers of pixels. */
const even = (value: number): number => Math.max(2, Math.round(value / 2) * 2);

/** What a film is, and how it looks. */
export function FilmGroup({ settings, set, cast, sceneRate }: Props) {
  return (
    <Group title="Film">
      <Choice
        label="Format"
        value={settings.format}
        options={[
          ['mp4', 'MP4 (H.264)'],
          ['webm', 'WebM'],
          ['png', 'Pictures, PNG in a zip'],
        ]}
        onChange={(format) => set({ format })}
      />
      <NumberField
        label="Width"
        unit="px"
        value={settings.width}
        least={64}
        most={3840}
        onChange={(width) => set({ width: even(width) })}
      />
      <NumberField
        label="Height"
        unit="px"
        value={settings.height}
        least={64}
        most={2160}
        onChange={(height) => set({ height: even(height) })}
      />
      <NumberField
        label="Frames per second"
        digits={3}
        value={settings.rate ?? sceneRate}
        least={1}
        most={120}
        onChange={(value) => {
          const rate = framesPerSecond(parseRate(value));
          set({ rate: rate === sceneRate ? null : rate });
        }}
      />
      <Choice
        label="Look from"
        value={settings.angle}
        options={[
          ['three-quarter', 'Three-quarter'],
          ['front', 'Front'],
          ['side', 'Side'],
        ]}
        onChange={(angle) => set({ angle })}
      />
      <Choice
        label="Camera"
        value={settings.follow ?? ''}
        options={[
          ['', 'Shows everything'],
          ...cast.map((c) => [c.character.id, `Follows ${c.character.name}`] as const),
        ]}
        onChange={(id) => set({ follow: id || null })}
      />
      <Check
        label="Timecode and frame"
        checked={settings.timecode}
        onChange={(timecode) => set({ timecode })}
      />
      <Check label="Names" checked={settings.names} onChange={(names) => set({ names })} />
    </Group>
  );
}
