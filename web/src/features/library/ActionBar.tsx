import { defined } from '@warper/core';
import { useLiveQuery } from 'dexie-react-hooks';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { Button } from '../../ui/controls';
import type { StoredClip, StoredCollection } from '../../data/db';
import { db } from '../../data/db';
import { describeError } from '../../data/importFiles';
import { newSceneOfClips } from '../../data/scenes';
import { collectClips, removeClips, renameClip, tagClips } from './clipActions';
import type { Chosen } from './chosen';
import { Select } from '../../ui/Select';

interface Props {
  readonly clips: readonly StoredClip[];
  readonly chosen: Chosen;
}

/** What can be done with the chosen clips. */
export function ActionBar({ clips, chosen }: Props) {
  const collections = useLiveQuery(() => db.collections.orderBy('name').toArray(), []) ?? [];
  const [one] = clips;
  const shared = one ? one.tags.filter((t) => clips.every((c) => c.tags.includes(t))) : [];
  return (
    <div
      role="group"
      aria-label="Selected clips"
      className="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1.5 border-t bg-raised px-6 py-2"
    >
      <span className="font-semibold">
        {clips.length === 1 ? defined(one).name : `${clips.length} clips`}
      </span>
      {clips.length === 1 && (
        <WordField
          key={defined(one).id}
          label="New name"
          placeholder="Rename"
          onWord={(name) => void renameClip(defined(one), name)}
        />
      )}
      <WordField label="Tag" placeholder="Add a tag" onWord={(tag) => void tagClips(clips, tag, true)} />
      {shared.map((tag) => (
        <Button
          look="chip"
          key={tag}
          aria-label={`Remove the tag ${tag}`}
          onClick={() => void tagClips(clips, tag, false)}
        >
          {tag} ×
        </Button>
      ))}
      {collections.length > 0 && <CollectionMenu clips={clips} collections={collections} />}
      <span className="flex-1" />
      <Button look="quiet" onClick={() => chosen.setAll([])}>
        Deselect all
      </Button>
      <BakeButton clips={clips} />
      <Button
        onClick={() => void removeClips(clips).then((gone) => gone.forEach((id) => chosen.set(id, false)))}
      >
        Remove
      </Button>
    </div>
  );
}

/** Makes a scene of the clips, a region for each, and goes to its bake page. */
function BakeButton({ clips }: Pick<Props, 'clips'>) {
  const navigate = useNavigate();
  const bake = async (): Promise<void> => {
    try {
      await navigate(`/scene/${await newSceneOfClips(clips)}/bake?part=regions`);
    } catch (error) {
      toast.error(describeError(error).message);
    }
  };
  return <Button onClick={() => void bake()}>Bake</Button>;
}

/** Puts the clips into a collection, or takes them out of one that has them all. */
function CollectionMenu(props: Pick<Props, 'clips'> & { readonly collections: readonly StoredCollection[] }) {
  const { clips, collections } = props;
  const hasAll = (id: string): boolean => clips.every((c) => c.collections.includes(id));
  return (
    <Select
      label="Collections"
      value=""
      placeholder="Collections..."
      options={collections.map(
        ({ id, name }) => [id, hasAll(id) ? `Take out of ${name}` : `Put into ${name}`] as const,
      )}
      onChange={(id) => {
        const collection = collections.find((c) => c.id === id);
        if (collection) void collectClips(clips, collection, !hasAll(id));
      }}
    />
  );
}

/** A field for one word or name, taken with Enter. */
function WordField(props: { label: string; placeholder: string; onWord: (word: string) => void }) {
  const [word, setWord] = useState('');
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (word.trim() !== '') props.onWord(word.trim());
        setWord('');
      }}
    >
      <input
        aria-label={props.label}
        placeholder={props.placeholder}
        className="w-28 border-b border-dotted border-soft bg-transparent py-0.5 placeholder:text-soft"
        value={word}
        onChange={(e) => setWord(e.currentTarget.value)}
      />
    </form>
  );
}
