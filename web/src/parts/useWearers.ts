import type { Clip, Skeleton } from '@warper/core';
import { legsOf, matchJoints, sameSkeleton } from '@warper/core';
import { useEffect, useState } from 'react';
import { library, openSources } from '../data/pageLibrary';
import { db } from '../data/db';

/** A character that a clip can be mapped onto. */
export interface Wearer {
  readonly id: string;
  readonly name: string;
  readonly skeleton: Skeleton;
  /** Whether the clip was recorded on this very skeleton. */
  readonly own: boolean;
  /** Whether it goes on as many legs. */
  readonly sameLegs: boolean;
}

/** The characters of this browser, first those on as many legs that share the most bones with the clip; null until they are open. */
export function useWearers(clip: Clip | null): readonly Wearer[] | null {
  const [wearers, setWearers] = useState<readonly Wearer[] | null>(null);
  useEffect(() => {
    if (!clip) return;
    let gone = false;
    void findWearers(clip).then((w) => !gone && setWearers(w));
    return () => {
      gone = true;
    };
  }, [clip]);
  return wearers;
}

/** The characters of this browser for a clip, opened; those on as many legs that share the most bones first. */
export async function findWearers(clip: Clip): Promise<Wearer[]> {
  const bodies = await db.bodies.filter((b) => b.skinned).toArray();
  await openSources(bodies.map((b) => b.source));
  const legs = legsOf(clip.skeleton).length;
  return bodies
    .flatMap(({ id, name }) => {
      const skeleton = library.body(id);
      if (!skeleton) return [];
      const shared = matchJoints(clip.skeleton, skeleton).filter((j) => j >= 0).length;
      return [
        {
          id,
          name,
          skeleton,
          own: sameSkeleton(clip.skeleton, skeleton),
          sameLegs: legsOf(skeleton).length === legs,
          shared,
        },
      ];
    })
    .sort(
      (a, b) =>
        Number(b.sameLegs) - Number(a.sameLegs) || b.shared - a.shared || a.name.localeCompare(b.name),
    );
}
