import { useLiveQuery } from 'dexie-react-hooks';
import { X } from 'lucide-react';
import { useState } from 'react';
import { Button } from '../../ui/controls';
import type { StoredClip, StoredCollection } from '../../data/db';
import { db } from '../../data/db';
import { makeCollection, removeCollection } from './clipActions';
import { Assets } from './Assets';
import { Sources } from './Sources';
import type { Wanted } from '../../parts/useClips';

interface Props {
  readonly clips: readonly StoredClip[];
  readonly wanted: Wanted;
  readonly change: (values: Partial<Wanted>) => void;
  /** Clips that a new collection begins with. */
  readonly chosen: readonly StoredClip[];
}

/** Collections and tags, each with the number of clips in it; pressing one narrows the clips down. */
export function SideColumn({ clips, wanted, change, chosen }: Props) {
  const collections = useLiveQuery(() => db.collections.orderBy('name').toArray(), []) ?? [];
  const tags = [...new Set(clips.flatMap((c) => c.tags))].sort((a, b) => a.localeCompare(b));
  const toggleTag = (tag: string): void =>
    change({
      tags: wanted.tags.includes(tag) ? wanted.tags.filter((t) => t !== tag) : [...wanted.tags, tag],
    });
  return (
    <nav
      aria-label="Collections and tags"
      className="w-52 shrink-0 overflow-y-auto border-r px-4 py-4 max-narrow:w-36"
    >
      <Sources />
      <h2 className="mb-1 text-xs tracking-wide text-soft">Collections</h2>
      <ul className="mb-2">
        <Entry
          name="All clips"
          count={clips.length}
          on={wanted.collection === null}
          onPress={() => change({ collection: null })}
        />
        {collections.map((collection) => (
          <Entry
            key={collection.id}
            name={collection.name}
            count={clips.filter((c) => c.collections.includes(collection.id)).length}
            on={wanted.collection === collection.id}
            onPress={() => change({ collection: collection.id })}
            onRemove={() => {
              if (wanted.collection === collection.id) change({ collection: null });
              void removeCollection(collection);
            }}
          />
        ))}
      </ul>
      <NewCollection collections={collections} chosen={chosen} />
      {tags.length > 0 && <h2 className="mt-4 mb-1 text-xs tracking-wide text-soft">Tags</h2>}
      <ul>
        {tags.map((tag) => (
          <Entry
            key={tag}
            name={tag}
            count={clips.filter((c) => c.tags.includes(tag)).length}
            on={wanted.tags.includes(tag)}
            onPress={() => toggleTag(tag)}
          />
        ))}
      </ul>
      <Assets />
    </nav>
  );
}

interface EntryProps {
  readonly name: string;
  readonly count: number;
  readonly on: boolean;
  readonly onPress: () => void;
  readonly onRemove?: () => void;
}

function Entry({ name, count, on, onPress, onRemove }: EntryProps) {
  return (
    <li className="group flex items-center gap-1">
      <Button
        look="bare"
        aria-pressed={on}
        className={`flex min-w-0 flex-1 items-baseline justify-between gap-2 rounded px-1.5 py-0.5 text-left ${on ? 'bg-raised font-semibold ring-1 ring-rule' : 'hover:bg-raised'}`}
        onClick={onPress}
      >
        <span className="truncate">{name}</span>
        <span className="text-soft">{count}</span>
      </Button>
      {onRemove && (
        <Button
          look="soft"
          aria-label={`Remove the collection ${name}`}
          className="opacity-0 group-hover:opacity-100 focus-visible:opacity-100"
          onClick={onRemove}
        >
          <X size={13} aria-hidden />
        </Button>
      )}
    </li>
  );
}

function NewCollection({
  collections,
  chosen,
}: {
  collections: readonly StoredCollection[];
  chosen: readonly StoredClip[];
}) {
  const [name, setName] = useState('');
  const free =
    name.trim() !== '' && !collections.some((c) => c.name.toLowerCase() === name.trim().toLowerCase());
  return (
    <form
      className="flex gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (!free) return;
        void makeCollection(name.trim(), chosen);
        setName('');
      }}
    >
      <input
        aria-label="Name of a new collection"
        placeholder="New collection"
        className="min-w-0 flex-1 border-b border-dotted border-soft bg-transparent py-0.5 placeholder:text-soft"
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
      />
      {free && (
        <Button type="submit" look="quiet" className="px-1!">
          Add
        </Button>
      )}
    </form>
  );
}
