import type { CharacterPlan, Plan } from '@warper/core';
import { framesPerSecond, parseRate } from '@warper/core';
import { Check, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import type { FilmSettings } from '../../../data/keptFilm';

interface Props {
  readonly settings: FilmSettings;
  readonly set: (values: Partial<FilmSettings>) => void;
  readonly cast: readonly CharacterPlan[];
  readonly sceneRate: number;
  readonly filming: Plan['filming'];
  /** Whether the scene has sounds, and lines. */
  readonly heard: { readonly sounds: boolean; readonly lines: boolean };
}

/** Sizes that are usual for a film, and for one picture of a sheet. */
const SIZES = {
  film: { width: 1280, height: 720 },
  small: { width: 480, height: 270 },
  cell: { width: 128, height: 160 },
} as const;

const sizeOf = (format: FilmSettings['format']): keyof typeof SIZES =>
  format === 'sheet' ? 'cell' : format === 'gif' ? 'small' : 'film';

/** Films have even numbers of pixels. */
const even = (value: number): number => Math.max(2, Math.round(value / 2) * 2);

/** What a film is, and how it looks. */
export function FilmGroup(props: Props) {
  const { settings, set } = props;
  const isSheet = settings.format === 'sheet';
  const choose = (format: FilmSettings['format']): void => {
    const next = sizeOf(format);
    set({ format, ...(next === sizeOf(settings.format) ? {} : SIZES[next]) });
  };
  return (
    <Group title="Film">
      <Choice
        label="Format"
        value={settings.format}
        options={[
          ['mp4', 'MP4 (H.264)'],
          ['webm', 'WebM'],
          ['gif', 'GIF, for a message'],
          ['png', 'Pictures, PNG in a zip'],
          ['sheet', 'Sheet of poses, cut out'],
        ]}
        onChange={choose}
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
      {settings.through === null || isSheet ? (
        <Choice
          label="Look from"
          value={settings.angle}
          options={[
            ['three-quarter', 'Three-quarter'],
            ['front', 'Front'],
            ['side', 'Side'],
            ['all round', 'Eight directions'],
          ]}
          onChange={(angle) => set({ angle })}
        />
      ) : null}
      {isSheet ? <SheetFields {...props} /> : <MovingFields {...props} />}
    </Group>
  );
}

/** What only a sheet has. */
function SheetFields({ settings, set, sceneRate }: Props) {
  return (
    <>
      <NumberField
        label="Every"
        unit="f"
        value={settings.every}
        least={1}
        most={1000}
        framesPerSecond={sceneRate}
        onChange={(every) => set({ every: Math.max(1, Math.round(every)) })}
      />
      <Check label="Frame numbers" checked={settings.timecode} onChange={(timecode) => set({ timecode })} />
    </>
  );
}

/** Stands for the shots, and goes before the id of a camera of the scene, among those who are followed. */
const SHOTS = '(shots)';
const OF_SCENE = '(camera)';

const cameraChoice = ({ through, follow }: FilmSettings): string =>
  through === 'shots' ? SHOTS : through ? `${OF_SCENE}${through.camera}` : (follow ?? '');

/** What a choice of the camera sets; through the scene's cameras the film has their aspect. */
function cameraSettings(choice: string, { width }: FilmSettings, aspect: number): Partial<FilmSettings> {
  const isScene = choice === SHOTS || choice.startsWith(OF_SCENE);
  if (!isScene) return { follow: choice || null, through: null };
  return {
    follow: null,
    angle: 'three-quarter',
    through: choice === SHOTS ? 'shots' : { camera: choice.slice(OF_SCENE.length) },
    height: even(width / aspect),
  };
}

/** What films and single pictures have. */
function MovingFields({ settings, set, cast, sceneRate, filming, heard }: Props) {
  return (
    <>
      <NumberField
        label="Frames per second"
        digits={3}
        value={settings.rate ?? sceneRate}
        least={1}
        most={settings.format === 'gif' ? 50 : 120}
        onChange={(value) => {
          const rate = framesPerSecond(parseRate(value));
          set({ rate: rate === sceneRate ? null : rate });
        }}
      />
      <Choice
        label="Camera"
        value={cameraChoice(settings)}
        options={[
          ['', 'Shows everything'],
          ...(filming.shots.length > 0 ? [[SHOTS, 'The shots'] as const] : []),
          ...filming.cameras.map((c) => [`${OF_SCENE}${c.id}`, c.name] as const),
          ...cast.map((c) => [c.character.id, `Follows ${c.character.name}`] as const),
        ]}
        onChange={(choice) => set(cameraSettings(choice, settings, filming.aspect))}
      />
      <Check
        label="Timecode and frame"
        checked={settings.timecode}
        onChange={(timecode) => set({ timecode })}
      />
      <Check label="Names" checked={settings.names} onChange={(names) => set({ names })} />
      <Check
        label="Footprints"
        checked={settings.footprints}
        onChange={(footprints) => set({ footprints })}
      />
      <Check label="Seams" checked={settings.seams} onChange={(seams) => set({ seams })} />
      {heard.lines && (
        <Check label="Lines of dialogue" checked={settings.lines} onChange={(lines) => set({ lines })} />
      )}
      {heard.sounds && settings.format !== 'gif' && (
        <Check label="Sound" checked={settings.sound} onChange={(sound) => set({ sound })} />
      )}
    </>
  );
}
