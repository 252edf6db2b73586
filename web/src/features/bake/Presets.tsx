import type { BakeSettings } from '@warper/formats';
import { USUAL_BAKE } from '@warper/formats';
import { useState } from 'react';
import type { BakePreset } from '../../data/bakePresets';
import { Button } from '../../ui/controls';
import { Select } from '../../ui/Select';

interface Props {
  readonly settings: BakeSettings;
  readonly presets: readonly BakePreset[];
  readonly onTake: (settings: BakeSettings) => void;
  readonly onPresets: (presets: readonly BakePreset[]) => void;
}

const USUAL = 'Usual settings';
const OWN = '(own)';

const isSame = (a: BakeSettings, b: BakeSettings): boolean =>
  (Object.keys(USUAL_BAKE) as (keyof BakeSettings)[]).every((key) => a[key] === b[key]);

/** Named settings: one is taken, what is set is kept under a name, one is removed. */
export function Presets({ settings, presets, onTake, onPresets }: Props) {
  const all = [{ name: USUAL, settings: USUAL_BAKE }, ...presets];
  const current = all.find((p) => isSame(p.settings, settings));
  const [naming, setNaming] = useState<string | null>(null);
  const keep = (): void => {
    const name = naming?.trim();
    if (name && name !== USUAL) onPresets([...presets.filter((p) => p.name !== name), { name, settings }]);
    setNaming(null);
  };
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
      <span className="flex min-w-0 flex-1 items-baseline gap-2">
        <label htmlFor="preset" className="text-soft">
          Preset
        </label>
        <Select
          id="preset"
          value={current?.name ?? OWN}
          options={[
            ...(current ? [] : [[OWN, 'Changed'] as const]),
            ...all.map(({ name }) => [name, name] as const),
          ]}
          onChange={(name) => {
            const preset = all.find((p) => p.name === name);
            if (preset) onTake(preset.settings);
          }}
        />
      </span>
      {naming === null ? (
        <>
          {!current && (
            <Button look="link" onClick={() => setNaming('')}>
              Save as preset
            </Button>
          )}
          {current && current.name !== USUAL && (
            <Button
              look="soft"
              onClick={() => onPresets(presets.filter((p) => p.name !== current.name))}
              aria-label={`Remove the preset ${current.name}`}
            >
              Remove
            </Button>
          )}
        </>
      ) : (
        <NameLine name={naming} onName={setNaming} onKeep={keep} />
      )}
    </div>
  );
}

interface NameProps {
  readonly name: string;
  readonly onName: (name: string | null) => void;
  readonly onKeep: () => void;
}

/** The name under which settings are kept, while it is typed. */
function NameLine({ name, onName, onKeep }: NameProps) {
  return (
    <span className="flex w-full items-baseline gap-2">
      <input
        autoFocus
        aria-label="Name of the preset"
        placeholder="Name of the preset"
        maxLength={100}
        className="min-w-0 flex-1 border-b border-dotted border-soft bg-transparent py-0.5"
        value={name}
        onChange={(e) => onName(e.currentTarget.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') {
            e.preventDefault();
            onKeep();
          } else if (e.key === 'Escape') onName(null);
        }}
      />
      <Button look="soft" onClick={onKeep} disabled={!name.trim()}>
        Save
      </Button>
      <Button look="soft" onClick={() => onName(null)}>
        Cancel
      </Button>
    </span>
  );
}
