import type { ClipFilter } from '@warper/formats';
import { CLIP_FILTERS } from '@warper/formats';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { ensureDemonstration } from '../motion/demonstration';
import { describeError } from '../motion/importFiles';
import { Button } from '../parts/controls';
import { ImportButton } from '../parts/ImportButton';
import { ImportSheet } from '../parts/ImportSheet';
import { PageHeader } from '../parts/PageHeader';
import { useImport } from '../parts/useImport';
import { ActionBar } from './ActionBar';
import { useChosen } from './chosen';
import { ClipGrid } from './ClipGrid';
import { ClipTable } from './ClipTable';
import { SideColumn } from './SideColumn';
import type { Wanted } from './useClips';
import { useClips } from './useClips';

const EVERYTHING: Wanted = { words: '', filters: [], tags: [], collection: null };

/** All clips of this browser: searched, filtered, tagged, collected, removed; files dropped anywhere are taken in. */
export function LibraryPage() {
  const [wanted, setWanted] = useState(EVERYTHING);
  const [look, setLook] = useState<'figures' | 'table'>('figures');
  const clips = useClips(wanted);
  const chosen = useChosen();
  const importing = useImport();
  useEffect(() => {
    ensureDemonstration().catch((error) => toast.error(describeError(error).message));
  }, []);
  const change = (values: Partial<Wanted>): void => setWanted((w) => ({ ...w, ...values }));
  const picked = clips?.all.filter((c) => chosen.has(c.id)) ?? [];
  return (
    <div className="flex h-full flex-col" {...importing.dropZone}>
      <PageHeader>
        <ImportButton label="Import" fieldLabel="Files to import" onFiles={importing.take} />
      </PageHeader>
      <div className="flex min-h-0 flex-1">
        <SideColumn clips={clips?.all ?? []} wanted={wanted} change={change} chosen={picked} />
        <main className="flex min-w-0 flex-1 flex-col">
          <h1 className="sr-only">Library</h1>
          <SearchRow wanted={wanted} change={change} />
          <div className="flex items-baseline gap-4 px-6 pb-2 text-soft">
            <span role="status">{clips ? countText(clips.found.length, clips.all.length) : 'Reading'}</span>
            <span className="flex-1" />
            <button
              type="button"
              className="hover:text-ink"
              onClick={() => chosen.setAll(clips?.found.map((c) => c.id) ?? [])}
            >
              Choose all
            </button>
            <LookSwitch look={look} onChange={setLook} />
          </div>
          <div className="min-h-0 flex-1">
            {clips && clips.found.length === 0 && (
              <Nothing empty={clips.all.length === 0} clear={() => setWanted(EVERYTHING)} />
            )}
            {clips && clips.found.length > 0 && look === 'figures' && (
              <ClipGrid clips={clips.found} chosen={chosen} />
            )}
            {clips && clips.found.length > 0 && look === 'table' && (
              <ClipTable clips={clips.found} chosen={chosen} />
            )}
          </div>
          {picked.length > 0 && <ActionBar clips={picked} chosen={chosen} />}
        </main>
      </div>
      <ImportSheet importing={importing} />
    </div>
  );
}

const countText = (found: number, all: number): string =>
  found === all ? `${all} ${all === 1 ? 'clip' : 'clips'}` : `${found} of ${all} clips`;

interface RowProps {
  readonly wanted: Wanted;
  readonly change: (values: Partial<Wanted>) => void;
}

/** The words to look for, and the facts that narrow them down. */
function SearchRow({ wanted, change }: RowProps) {
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
          <button
            key={filter}
            type="button"
            aria-pressed={wanted.filters.includes(filter)}
            className={`rounded-full border px-2.5 py-0.5 text-[12.5px] ${wanted.filters.includes(filter) ? 'border-ink bg-ink text-paper' : 'hover:border-soft'}`}
            onClick={() => toggle(filter)}
          >
            {filter}
          </button>
        ))}
      </div>
    </div>
  );
}

function LookSwitch(props: { look: 'figures' | 'table'; onChange: (look: 'figures' | 'table') => void }) {
  return (
    <span role="group" aria-label="Shown as" className="flex gap-3">
      {(['figures', 'table'] as const).map((look) => (
        <button
          key={look}
          type="button"
          aria-pressed={props.look === look}
          className={props.look === look ? 'border-b-2 border-ink text-ink' : 'hover:text-ink'}
          onClick={() => props.onChange(look)}
        >
          {look}
        </button>
      ))}
    </span>
  );
}

function Nothing({ empty, clear }: { empty: boolean; clear: () => void }) {
  return (
    <div className="grid h-full place-items-center text-center text-soft">
      {empty ? (
        <p>No clips yet. Drop BVH, glTF or GLB files, or a folder of them, anywhere here.</p>
      ) : (
        <div>
          <p className="mb-2">No clip is all of that.</p>
          <Button onClick={clear}>Show all clips</Button>
        </div>
      )}
    </div>
  );
}
