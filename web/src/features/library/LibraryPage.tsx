import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { ensureWholeDemonstration } from '../../data/demonstration';
import { describeError } from '../../data/importFiles';
import { ImportButton } from '../../ui/ImportButton';
import { ImportSheet } from '../../parts/ImportSheet';
import { PageHeader } from '../../parts/PageHeader';
import { Button } from '../../ui/controls';
import { saveRaw } from '../../ui/saveRaw';
import { useImport } from '../../parts/useImport';
import type { KeptClips } from '../../data/keptClips';
import { removeDamaged } from '../../data/keptClips';
import { ActionBar } from './ActionBar';
import { useChosen } from './chosen';
import { ClipGrid } from './ClipGrid';
import { ClipTable } from './ClipTable';
import { NothingFound } from './NothingFound';
import { SearchRow } from './SearchRow';
import { SideColumn } from './SideColumn';
import type { Wanted } from '../../parts/useClips';
import { useClips } from '../../parts/useClips';

const EMPTY =
  'No clips yet. Drop GLB, glTF, VRM, BVH, USD or Collada files, or a folder of them, anywhere here.';
const EVERYTHING: Wanted = { words: '', filters: [], tags: [], collection: null };

/** All clips of this browser: searched, filtered, tagged, collected, removed; files dropped anywhere are taken in. */
export function LibraryPage() {
  const [wanted, setWanted] = useState(EVERYTHING);
  const [look, setLook] = useState<'figures' | 'table'>('figures');
  const clips = useClips(wanted);
  const chosen = useChosen();
  const importing = useImport();
  useEffect(() => {
    ensureWholeDemonstration().catch((error) => toast.error(describeError(error).message));
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
            <Button look="soft" onClick={() => chosen.setAll(clips?.found.map((c) => c.id) ?? [])}>
              Select all
            </Button>
            <LookSwitch look={look} onChange={setLook} />
          </div>
          {clips && clips.damaged.length > 0 && <DamagedClips damaged={clips.damaged} />}
          <div className="min-h-0 flex-1">
            {clips && clips.found.length === 0 && (
              <NothingFound
                empty={clips.all.length === 0 ? EMPTY : null}
                none="No clip matches."
                clear={() => setWanted(EVERYTHING)}
              />
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

/** Records in the place of clips that cannot be read: what is there of them can be saved, and they can be removed. */
function DamagedClips({ damaged }: { damaged: KeptClips['damaged'] }) {
  const message =
    damaged.length === 1
      ? '1 clip cannot be read. Import its file again.'
      : `${damaged.length} clips cannot be read. Import their files again.`;
  return (
    <div role="alert" className="mx-6 mb-2 flex items-center gap-3 border-l-2 border-bad pl-3">
      <p className="flex-1 text-bad">{message}</p>
      <Button onClick={() => saveRaw(damaged, 'clips')}>Save what is left</Button>
      <Button onClick={() => void removeDamaged(damaged)}>Remove</Button>
    </div>
  );
}

const countText = (count: number, all: number): string =>
  count === all ? `${all} ${all === 1 ? 'clip' : 'clips'}` : `${count} of ${all} clips`;

function LookSwitch(props: { look: 'figures' | 'table'; onChange: (look: 'figures' | 'table') => void }) {
  return (
    <span role="group" aria-label="Shown as" className="flex gap-3">
      {(['figures', 'table'] as const).map((look) => (
        <Button
          look="tab"
          key={look}
          aria-pressed={props.look === look}
          className="px-0 py-0"
          onClick={() => props.onChange(look)}
        >
          {look}
        </Button>
      ))}
    </span>
  );
}
