import { useEffect, useLayoutEffect, useRef } from 'react';
import { useStore } from 'react-redux';
import type { RootState } from '../../store/store';

/**
 * Hands the frame of the playhead on, now and whenever another is shown. What only follows it is written into its element at
 * once: to render components anew with every picture that is played takes as long as to pose the characters.
 */
export function useShownFrame(write: (frame: number) => void): void {
  const store = useStore<RootState>();
  const latest = useRef(write);
  useLayoutEffect(() => {
    latest.current = write;
    write(store.getState().session.frame);
  });
  useEffect(() => {
    let shown = store.getState().session.frame;
    return store.subscribe(() => {
      const { frame } = store.getState().session;
      if (frame !== shown) latest.current(frame);
      shown = frame;
    });
  }, [store]);
}
