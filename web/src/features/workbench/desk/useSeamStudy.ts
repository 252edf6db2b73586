import type { Scene } from '@warper/core';
import { InputError } from '@warper/core';
import { useEffect, useState } from 'react';
import { motion } from '../../../data/motion';
import { useAppSelector } from '../../../store/store';
import type { SeamStudy } from '../../../workers/studySeam';

/** What a seam could be; null until it is known. */
export interface KnownStudy {
  readonly study: SeamStudy | null;
  /** The scene that was studied; its moments are those of this one. */
  readonly scene: Scene | null;
  /** Whether it is being studied anew, since the scene has changed. */
  readonly isBusy: boolean;
  /** Why it could not be. */
  readonly problem: string;
}

/** Milliseconds after an edit before the seam is studied again: a row of edits is one. */
const REST = 120;

/** Studies the seam before a segment in the worker, again after every edit; a drag is waited for. */
export function useSeamStudy(segment: string): KnownStudy {
  const scene = useAppSelector((s) => s.scene.document);
  const isChoosing = useAppSelector((s) => s.session.choosing.length > 0);
  const [known, setKnown] = useState<KnownStudy>({ study: null, scene: null, isBusy: true, problem: '' });
  useEffect(() => {
    if (!scene || isChoosing) return;
    const stop = new AbortController();
    const begin = async (): Promise<void> => {
      setKnown((last) => ({ ...last, isBusy: true }));
      try {
        const study = await motion.study({ scene, segment }, stop.signal);
        if (!stop.signal.aborted) setKnown({ study, scene, isBusy: false, problem: '' });
      } catch (error) {
        if (stop.signal.aborted) return;
        const problem = error instanceof InputError ? error.message : String(error);
        setKnown({ study: null, scene, isBusy: false, problem });
      }
    };
    const timer = setTimeout(() => void begin(), REST);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [scene, segment, isChoosing]);
  return known;
}
