import { useSyncExternalStore } from 'react';

/** Whether the window answers a media query now. */
export const useMedia = (query: string): boolean =>
  useSyncExternalStore(
    (changed) => {
      const list = matchMedia(query);
      list.addEventListener('change', changed);
      return () => list.removeEventListener('change', changed);
    },
    () => matchMedia(query).matches,
  );
