import type { ClipFilter } from '@warper/formats';
import { CLIP_FILTERS } from '@warper/formats';
import { Button } from '../../ui/controls';

/** What clips are narrowed down by. */
interface Asked {
  readonly words: string;
  readonly filters: readonly ClipFilter[];
}

interface Props {
  readonly wanted: Asked;
  readonly change: (values: Partial<Asked>) => void;
}

/** The words to look for, and the facts that narrow them down. */
export function SearchRow({ wanted, change }: Props) {
  const toggle = (filter: ClipFilter): void =>
    change({
      filters: wanted.filters.includes(filter)
        ? wanted.filters.filter((f) => f !== filter)
        : [...wanted.filters, filter],
    });
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-2 px-6 pt-4 pb-3">
      <input
        type="search"
        aria-label="Search clips"
        placeholder="Search by name, tag, file or fact"
        className="w-72 border-b border-ink bg-transparent py-1 placeholder:text-soft"
        value={wanted.words}
        onChange={(e) => change({ words: e.currentTarget.value })}
      />
      <div role="group" aria-label="Facts" className="flex flex-wrap gap-1.5">
        {CLIP_FILTERS.map((filter) => (
          <Button
            look="chip"
            key={filter}
            aria-pressed={wanted.filters.includes(filter)}
            onClick={() => toggle(filter)}
          >
            {filter}
          </Button>
        ))}
      </div>
    </div>
  );
}
