import { useCallback, useLayoutEffect, useRef } from 'react';

/** A function that stays the very one and does what the latest given one does, so that memoised components below are left alone. */
export function useStableCallback<A extends unknown[], R>(callback: (...args: A) => R): (...args: A) => R {
  const latest = useRef(callback);
  useLayoutEffect(() => void (latest.current = callback));
  return useCallback((...args: A) => latest.current(...args), []);
}
