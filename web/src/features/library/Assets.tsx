import { useLiveQuery } from 'dexie-react-hooks';
import { X } from 'lucide-react';
import { toast } from 'sonner';
import type { StoredAsset } from '../../data/db';
import { db } from '../../data/db';
import { Button } from '../../ui/controls';

const KINDS = {
  audio: { title: 'Sounds', use: 'For the sound lanes of scenes.' },
  image: { title: 'Pictures', use: 'For the stage, which is still to come.' },
} as const;

/** Sounds and pictures that were imported, with what they will be for. */
export function Assets() {
  const assets = useLiveQuery(() => db.assets.toArray(), []) ?? [];
  return (Object.keys(KINDS) as (keyof typeof KINDS)[]).map((kind) => {
    const listed = assets.filter((a) => a.type.startsWith(`${kind}/`));
    if (listed.length === 0) return null;
    const { title, use } = KINDS[kind];
    return (
      <section key={kind} aria-labelledby={`assets-${kind}`}>
        <h2 id={`assets-${kind}`} className="mt-4 text-xs tracking-wide text-soft">
          {title}
        </h2>
        <p className="mb-1 text-note text-soft">{use}</p>
        <ul>
          {listed.map((asset) => (
            <li key={asset.id} className="flex items-baseline justify-between gap-2 px-1.5 py-0.5">
              <span className="truncate" title={asset.file}>
                {asset.file}
              </span>
              <Button look="soft" aria-label={`Remove ${asset.file}`} onClick={() => void remove(asset)}>
                <X size={13} aria-hidden />
              </Button>
            </li>
          ))}
        </ul>
      </section>
    );
  });
}

async function remove(asset: StoredAsset): Promise<void> {
  await db.assets.delete(asset.id);
  // What was heard in it is heard again where it comes back.
  await db.sounds.delete(asset.id);
  toast(`${asset.file} was removed`, {
    action: { label: 'Undo', onClick: () => void db.assets.put(asset) },
  });
}
