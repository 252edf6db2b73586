import { Plus } from 'lucide-react';
import { useState } from 'react';
import { useClips } from '../../../parts/useClips';
import type { StoredClip } from '../../../data/db';
import { Button, Choice } from '../../../ui/controls';
import { ImportButton } from '../../../ui/ImportButton';
import { AddCharacter } from './AddCharacter';
import { ClipList } from './ClipList';
import { PropList } from './PropList';
import { SoundList } from './SoundList';
import { useFollowers } from './useFollowers';

const NONE: readonly StoredClip[] = [];

const KINDS = [
  ['clips', 'Clips'],
  ['props', 'Props'],
  ['sounds', 'Sounds'],
] as const;

type Kind = (typeof KINDS)[number][0];

const ORDERS = [
  ['library', 'As in the library'],
  ['follows', 'Follows well'],
] as const;

/** The clips of the library, to be searched and dragged onto a lane; props, to be dragged into the view; and sounds. */
export function Drawer({ onImport }: { onImport: (files: readonly File[]) => void }) {
  const [query, setQuery] = useState('');
  const clips = useClips({ words: query, filters: [], tags: [], collection: null });
  const [kind, setKind] = useState<Kind>('clips');
  const [order, setOrder] = useState<'library' | 'follows'>('library');
  // What was searched for among others is not looked for here.
  const show = (next: Kind): void => {
    setKind(next);
    if (next !== kind) setQuery('');
  };
  const found = clips?.found ?? NONE;
  const { clips: shown, distances, name } = useFollowers(found, order === 'follows');
  const [entries, setEntries] = useState(0);
  return (
    <aside aria-label="Library" className="flex h-full min-h-0 flex-col border-r">
      <div className="flex flex-col gap-2 px-3.5 pt-2.5 pb-2">
        <KindTabs kind={kind} show={show} />
        <input
          type="search"
          aria-label={`Search ${kind}`}
          placeholder={`Search ${kind}`}
          className="w-full border-b border-ink bg-transparent py-1 placeholder:text-soft"
          value={query}
          aria-description="Down goes to the clips that were found"
          onChange={(e) => setQuery(e.currentTarget.value)}
          onKeyDown={(e) => {
            if (e.key !== 'ArrowDown') return;
            e.preventDefault();
            setEntries(entries + 1);
          }}
        />
        <div className="flex gap-1.5 text-note">
          <AddCharacter>
            <Button className="px-2!">
              <Plus size={14} aria-hidden /> Character
            </Button>
          </AddCharacter>
          <ImportButton label="Import" fieldLabel="Files to import" className="px-2!" onFiles={onImport} />
        </div>
        {kind === 'clips' && (
          <Choice label="Order" value={order} options={ORDERS} onChange={(next) => setOrder(next)} />
        )}
        {kind === 'clips' && order === 'follows' && (
          <p className="text-note text-soft" role="status">
            {name ? `By how well they follow ${name}` : 'Put a clip onto a lane first.'}
          </p>
        )}
      </div>
      <div className="min-h-0 flex-1 overflow-hidden">
        {kind === 'props' && <PropList query={query} />}
        {kind === 'sounds' && <SoundList query={query} />}
        <div className="h-full" hidden={kind !== 'clips'}>
          <ClipList key={`${query} ${order}`} clips={shown} distances={distances} entries={entries} />
          {clips && shown.length === 0 && <NoClips isEmpty={clips.all.length === 0} />}
        </div>
      </div>
    </aside>
  );
}

const NoClips = ({ isEmpty }: { readonly isEmpty: boolean }) => (
  <p className="px-3.5 py-4 text-soft">
    {isEmpty
      ? 'No clips yet: drop GLB, glTF, VRM, BVH, USD or Collada files here.'
      : 'No clip has all these words.'}
  </p>
);

interface TabsProps {
  readonly kind: Kind;
  readonly show: (kind: Kind) => void;
}

const KindTabs = ({ kind, show }: TabsProps) => (
  <div role="group" aria-label="What is listed" className="flex gap-2 text-note">
    {KINDS.map(([key, name]) => (
      <Button look="tab" key={key} aria-pressed={kind === key} onClick={() => show(key)}>
        {name}
      </Button>
    ))}
  </div>
);
