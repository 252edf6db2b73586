import { fileName } from '@warper/formats';
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

interface Props {
  readonly signature: string;
  readonly joints: number;
  readonly kept: StoredMapping | null;
  readonly roles: RoleMap;
  readonly proposed: string;
  readonly start: (roles: RoleMap) => void;
}

/** Keeps what is mapped under a name, forgets it, or saves it as a file for the command line. */
export function MappingKeeper(props: Props) {
  const { signature, kept, roles, proposed, start } = props;
  const [name, setName] = useState(kept?.name ?? proposed);
  const others = useLiveQuery(() => db.mappings.toArray(), [])?.filter((m) => m.id !== signature) ?? [];
  return (
    <div className="border-t px-4 py-2.5">
      {others.length > 0 && (
        <Choice
          label="Start from"
          value=""
          options={[['', 'Bone names'], ...others.map((m) => [m.id, m.name] as const)]}
          onChange={(id) => start(others.find((m) => m.id === id)?.roles ?? {})}
        />
      )}
      <label className="flex items-baseline gap-2">
        <span className="text-soft">Mapping name</span>
        <input
          className="min-w-0 flex-1 border-b border-dotted border-soft bg-transparent py-0.5"
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
        />
      </label>
      <Actions {...props} name={name} changed={isChanged(kept, roles, name)} />
      <p className="pt-1.5 text-note text-soft">
        {kept
          ? `Every file with this skeleton is read as “${kept.name}” says.`
          : 'Once kept, every file with this skeleton is read so, now and later.'}
      </p>
    </div>
  );
}

const isChanged = (kept: StoredMapping | null, roles: RoleMap, name: string): boolean =>
  JSON.stringify(roles) !== JSON.stringify(kept?.roles ?? {}) || (kept !== null && name !== kept.name);

/** Keep, leave, forget, save. */
function Actions(props: Props & { readonly name: string; readonly changed: boolean }) {
  const { signature, joints, kept, roles, start, name, changed } = props;
  const [share, setShare] = useState<number | null>(null);
  const run = (mapping: StoredMapping | null): void => {
    setShare(0);
    keepMapping(signature, joints, mapping, setShare)
      .catch((error) => toast.error(`Nothing was changed: ${describeError(error).message}`))
      .finally(() => setShare(null));
  };
  return (
    <div className="flex flex-wrap items-center gap-2 pt-2">
      <Button
        look="primary"
        disabled={share !== null || !changed || name.trim() === ''}
        onClick={() => run({ id: signature, name: name.trim(), roles, changedAt: Date.now() })}
      >
        {share === null ? 'Save this mapping' : `Reading again, ${Math.round(share * 100)} %`}
      </Button>
      {changed && (
        <Button look="quiet" onClick={() => start(kept?.roles ?? {})}>
          Discard changes
        </Button>
      )}
      {kept && (
        <Button look="quiet" disabled={share !== null} onClick={() => run(null)}>
          Remove this mapping
        </Button>
      )}
      <Button look="quiet" disabled={Object.keys(roles).length === 0} onClick={() => saveAsFile(name, roles)}>
        Save as file
      </Button>
    </div>
  );
}

function saveAsFile(name: string, roles: RoleMap): void {
  const map = { format: 'warper-map', version: 1, roles };
  const bytes = new TextEncoder().encode(JSON.stringify(map, null, 1));
  download(bytes, `${fileName(name)}.map.json`, 'application/json');
}
