import { fileName } from '@warper/formats';
import { defined } from '@warper/core';
import type { Clip } from '@warper/core';
import type { ListedClip } from '@warper/formats';
import { useEffect, useState } from 'react';
import { motion } from '../../../data/motion';
import { describeError } from '../../../data/importFiles';
import { library } from '../../../data/pageLibrary';
import { fetchFromServer } from '../../../data/server/fetchFromServer';
import { AS_RECORDED, motionAddress } from '../../../data/server/serverApi';

/** A clip of the server that is open in this page, and kept nowhere. */
export type Tried =
  | { readonly state: 'coming' }
  | { readonly state: 'failed'; readonly message: string; readonly hint: string }
  | { readonly state: 'open'; readonly clip: Clip; readonly body: string };

/** Opens a clip of the server for a try. */
export function useTried({ id, name }: ListedClip): Tried {
  const [tried, setTried] = useState<Tried & { readonly id?: string }>({ state: 'coming' });
  useEffect(() => {
    const control = new AbortController();
    let source: string | null = null;
    const open = async (): Promise<Tried> => {
      const response = await fetchFromServer(motionAddress(id, AS_RECORDED), control.signal);
      const bytes = new Uint8Array(await response.arrayBuffer());
      const { file, imported } = await motion.read(bytes, `${fileName(name)}.glb`, {}, control.signal);
      if (control.signal.aborted) return { state: 'coming' };
      if (!library.sources().some((s) => s.imported.source === imported.source)) source = imported.source;
      library.keep({ ...file, imported });
      return {
        state: 'open',
        clip: defined(library.clip(defined(imported.clips[0]).id)),
        body: defined(imported.bodies[0]).id,
      };
    };
    open().then(
      (opened) => !control.signal.aborted && setTried({ ...opened, id }),
      (error) => !control.signal.aborted && setTried({ state: 'failed', id, ...describeError(error) }),
    );
    return () => {
      control.abort();
      if (source) library.forget(source);
    };
  }, [id, name]);
  return tried.id === id ? tried : { state: 'coming' };
}
