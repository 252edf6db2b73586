import type { ContinuityItem, Scene } from '@warper/core';
import { useEffect, useState } from 'react';
import { describeError } from '../../data/importFiles';
import { motion } from '../../data/motion';

/** What was measured; null until it is, with why it could not be. */
export interface Measured {
  readonly items: readonly ContinuityItem[] | null;
  readonly problem: string;
}

/** Everything that is measured in a scene, by the worker; what was measured last stands until it has done so again. */
export function useContinuity(scene: Scene): Measured {
  const [measured, setMeasured] = useState<Measured>({ items: null, problem: '' });
  useEffect(() => {
    let gone = false;
    motion.continuity(scene).then(
      (items) => !gone && setMeasured({ items, problem: '' }),
      (error) => !gone && setMeasured({ items: null, problem: describeError(error).message }),
    );
    return () => {
      gone = true;
    };
  }, [scene]);
  return measured;
}
