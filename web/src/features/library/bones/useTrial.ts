import type { Clip, RoleMap } from '@warper/core';
import { useEffect, useState } from 'react';
import { describeError } from '../../../data/importFiles';
import { readStored } from '../../../data/pageLibrary';
import { db } from '../../../data/db';

/** A clip as it is read with roles on trial. */
export interface Trial {
  readonly clip: Clip;
  /** Why the roles on trial cannot be used; the clip is then the one before. */
  readonly trouble: string;
}

/** Reads the file of a clip again whenever other roles are tried for its skeleton. */
export function useTrial(kept: Clip, source: string, signature: string, roles: RoleMap): Trial {
  const [trial, setTrial] = useState<Trial>({ clip: kept, trouble: '' });
  useEffect(() => {
    let gone = false;
    const read = async (): Promise<void> => {
      const file = await db.files.get(source);
      if (!file) return;
      const { imported } = await readStored(file, { trial: { signature, roles }, known: true });
      const clip = imported.clips.find((c) => c.id === kept.id);
      if (clip && !gone) setTrial({ clip, trouble: '' });
    };
    read().catch((error) => !gone && setTrial((t) => ({ ...t, trouble: describeError(error).message })));
    return () => {
      gone = true;
    };
  }, [kept, source, signature, roles]);
  return trial;
}
