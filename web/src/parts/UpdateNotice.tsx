import { useEffect } from 'react';
import { toast } from 'sonner';
import { registerSW } from 'virtual:pwa-register';

/** Milliseconds after which the files are kept for later visits even if the page never rests. */
const AT_LATEST = 15_000;

/** Keeps the application's files for visits without a server, once the page rests; says when there is a newer version. */
export function UpdateNotice() {
  useEffect(() => {
    if (!('serviceWorker' in navigator)) return;
    const start = (): void => {
      const takeNewer = registerSW({
        onNeedRefresh: () =>
          void toast.info('A newer version of Warper is ready.', {
            description: 'Everything is saved; the page opens again where it is.',
            duration: Infinity,
            action: { label: 'Use it now', onClick: () => void takeNewer(true) },
          }),
      });
    };
    const resting = requestIdleCallback(start, { timeout: AT_LATEST });
    return () => cancelIdleCallback(resting);
  }, []);
  return null;
}
