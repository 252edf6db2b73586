import type { RoleMap } from '@warper/core';
import { useLiveQuery } from 'dexie-react-hooks';
import { useState } from 'react';
import { toast } from 'sonner';
import { describeError } from '../../../data/importFiles';
import { Button, Choice } from '../../../ui/controls';
import { download } from '../../../ui/download';
import type { StoredMapping } from '../../../data/db';
import { db } from '../../../data/db';
import { keepMapping } from './keepMapping';
import { fileName } from '../../../data/fileName';

interface Props {
  readonly signature: string;
  readonly joints: number;
  readonly kept: StoredMapping | null;
  readonly own: RoleMap;
  readonly proposed: string;
  readonly start: (roles: RoleMap) => void;
}

/** Keeps what is mapped under a name, forgets it, or saves it as a file for the command line. */
export function MappingKeeper({ signature, joints, kept, own, proposed, start }: Props) {
  const [name, setName] = useState(kept?.name ?? proposed);
  const [share, setShare] = useState<number | null>(null);
  const others = useLiveQuery(() => db.mappings.toArray(), [])?.filter((m) => m.id !== signature) ?? [];
  const changed = JSON.stringify(own) !== JSON.stringify(kept?.roles ?? {}) || (kept && name !== kept.name);
  const run = (mapping: StoredMapping | null): void => {
    setShare(0);
    keepMapping(signature, joints, mapping, setShare)
      .catch((error) => toast.error(`Nothing was changed: ${describeError(error).message}`))
      .finally(() => setShare(null));
  };
  const saveMap = (): void => {
    const map = { format: 'warper-map', version: 1, roles: own };
    download(
      new TextEncoder().encode(JSON.stringify(map, null, 1)),
      `${fileName(name)}.map.json`,
      'application/json',
    );
  };
  return (
    <div className="border-t px-4 py-2.5">
      {others.length > 0 && (
        <Choice
          label="Start from"
          value=""
          options={[['', 'the names of the bones'], ...others.map((m) => [m.id, m.name] as const)]}
          onChange={(id) => start(others.find((m) => m.id === id)?.roles ?? {})}
        />
      )}
      <label className="flex items-baseline gap-2">
        <span className="text-soft">Name of the mapping</span>
        <input
          className="min-w-0 flex-1 border-b border-dotted border-soft bg-transparent py-0.5"
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
        />
      </label>
      <div className="flex flex-wrap items-center gap-2 pt-2">
        <Button
          look="primary"
          disabled={share !== null || !changed || name.trim() === ''}
          onClick={() => run({ id: signature, name: name.trim(), roles: own, changedAt: Date.now() })}
        >
          {share === null ? 'Keep this mapping' : `Reading again, ${Math.round(share * 100)} %`}
        </Button>
        {changed && (
          <Button look="quiet" onClick={() => start(kept?.roles ?? {})}>
            Leave as it was
          </Button>
        )}
        {kept && (
          <Button look="quiet" disabled={share !== null} onClick={() => run(null)}>
            Forget it
          </Button>
        )}
        <Button look="quiet" disabled={Object.keys(own).length === 0} onClick={saveMap}>
          Save as a file
        </Button>
      </div>
      <p className="pt-1.5 text-note text-soft">
        {kept
          ? `Every file with this skeleton is read as “${kept.name}” says.`
          : 'Once kept, every file with this skeleton is read so, now and later.'}
      </p>
    </div>
  );
}
