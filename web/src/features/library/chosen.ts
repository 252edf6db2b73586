import { useMemo, useState } from 'react';

/** The clips that are chosen for an action. */
export interface Chosen {
  readonly has: (id: string) => boolean;
  readonly set: (id: string, on: boolean) => void;
  readonly setAll: (ids: readonly string[]) => void;
  readonly ids: ReadonlySet<string>;
}

/** Keeps which clips are chosen. */
export function useChosen(): Chosen {
  const [ids, setIds] = useState<ReadonlySet<string>>(new Set());
  return useMemo(
    () => ({
      ids,
      has: (id) => ids.has(id),
      set: (id, on) =>
        setIds((before) => {
          const after = new Set(before);
          if (on) after.add(id);
          else after.delete(id);
          return after;
        }),
      setAll: (all) => setIds(new Set(all)),
    }),
    [ids],
  );
}
