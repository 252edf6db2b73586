import { useEffect, useState } from 'react';
import type { StoredSound } from '../../../data/db';
import { studiedSound } from '../../../data/sounds';

/** The waveform and the rhythm of a sound, once they are known; null while they are not, or where the sound is missing. */
export function useStudiedSound(source: string): StoredSound | null {
  const [study, setStudy] = useState<StoredSound | null>(null);
  useEffect(() => {
    let isCurrent = true;
    studiedSound(source).then(
      (found) => isCurrent && setStudy(found),
      () => isCurrent && setStudy(null),
    );
    return () => void (isCurrent = false);
  }, [source]);
  return study?.id === source ? study : null;
}
