import type { Clip } from '@warper/core';
import { InputError, sameSkeleton } from '@warper/core';
import { useLiveQuery } from 'dexie-react-hooks';
import { useEffect, useState, useSyncExternalStore } from 'react';
import { describeError } from '../../../data/importFiles';
import { library, openSources, watchLibrary } from '../../../data/pageLibrary';
import type { StoredClip } from '../../../data/db';
import { db } from '../../../data/db';

/** A clip that is opened, the body that it is shown on, and the one with its own bones. */
export type OpenClip =
  | { readonly state: 'opening' }
  | { readonly state: 'failed'; readonly message: string; readonly hint: string }
  | {
      readonly state: 'open';
      readonly stored: StoredClip;
      readonly clip: Clip;
      readonly body: string;
      readonly own: string;
    };

interface Opened {
  readonly id: string;
  readonly state: number;
  readonly result: OpenClip;
}

/** Opens a clip of this browser with a body to show it on: a skinned one of the same skeleton, else its own bones. */
export function useClip(id: string): OpenClip {
  // Null once it is known that there is none.
  const stored = useLiveQuery(() => db.clips.get(id).then((c) => c ?? null), [id]);
  const [opened, setOpened] = useState<Opened | null>(null);
  const source = stored?.source;
  const state = useSyncExternalStore(watchLibrary, () => library.version);
  useEffect(() => {
    if (!source) return;
    let gone = false;
    open(id, source).then(
      (result) => !gone && setOpened({ id, state, result: result as OpenClip }),
      (error) => !gone && setOpened({ id, state, result: { state: 'failed', ...describeError(error) } }),
    );
    return () => {
      gone = true;
    };
  }, [id, source, state]);
  if (stored === null)
    return {
      state: 'failed',
      message: 'There is no such clip in this browser.',
      hint: 'It may have been removed.',
    };
  if (!stored || opened?.id !== id || opened.state !== state) return { state: 'opening' };
  return opened.result.state === 'open' ? { ...opened.result, stored } : opened.result;
}

async function open(
  id: string,
  source: string,
): Promise<Omit<Extract<OpenClip, { state: 'open' }>, 'stored'>> {
  await openSources([source]);
  const clip = library.clip(id);
  if (!clip) throw new InputError('missing-clip', 'The file of this clip no longer has it.');
  const own = library.bodyOfClip(clip).id;
  for (const body of await db.bodies.filter((b) => b.skinned).toArray()) {
    await openSources([body.source]);
    const skeleton = library.body(body.id);
    if (skeleton && sameSkeleton(skeleton, clip.skeleton)) return { state: 'open', clip, body: body.id, own };
  }
  return { state: 'open', clip, body: own, own };
}
