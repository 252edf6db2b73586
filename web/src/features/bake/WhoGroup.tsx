import type { CharacterPlan } from '@warper/core';
import { Button, Check, Choice, Group } from '../../ui/controls';

interface Props {
  readonly performing: readonly CharacterPlan[];
  readonly chosen: readonly string[];
  /** Whether all go into one file; null where the format holds one character alone. */
  readonly together: boolean | null;
  /** Whether they are filmed, and written into no files of their own. */
  readonly isFilm: boolean;
  readonly onChoose: (chosen: readonly string[]) => void;
  readonly onTogether: (together: boolean) => void;
}

/** Who is baked, and whether into one file. */
export function WhoGroup({ performing, chosen, together, isFilm, onChoose, onTogether }: Props) {
  const ids = performing.map((c) => c.character.id);
  const set = (id: string, on: boolean): void =>
    onChoose(ids.filter((other) => (other === id ? on : chosen.includes(other))));
  return (
    <Group title="Who">
      <div role="group" aria-label="Who is baked" className="flex flex-col gap-1">
        {performing.map(({ character }) => (
          <div key={character.id} className="flex items-center gap-2">
            <span
              aria-hidden
              className="size-2.5 rounded-full"
              style={{ background: `var(--hue-${character.hue})` }}
            />
            <span className="min-w-0 flex-1">
              <Check
                label={character.name}
                checked={chosen.includes(character.id)}
                onChange={(on) => set(character.id, on)}
              />
            </span>
          </div>
        ))}
      </div>
      {performing.length > 1 && (
        <div className="flex gap-3 text-note text-soft">
          <Button look="link" disabled={chosen.length === ids.length} onClick={() => onChoose(ids)}>
            All
          </Button>
          <Button look="link" disabled={chosen.length === 0} onClick={() => onChoose([])}>
            None
          </Button>
        </div>
      )}
      {!isFilm &&
        chosen.length > 1 &&
        (together === null ? (
          <p className="text-note text-soft">The format holds one character: each has a file.</p>
        ) : (
          <Choice
            label="Files"
            value={together ? 'one' : 'each'}
            options={[
              ['one', 'One with all of them'],
              ['each', 'One for each'],
            ]}
            onChange={(value) => onTogether(value === 'one')}
          />
        ))}
    </Group>
  );
}
