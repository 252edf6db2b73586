import type { Plan, Scene } from '@warper/core';
import { useEffect, useMemo, useState } from 'react';
import type { StoredClip } from '../../../data/db';
import { motion } from '../../../data/motion';
import { selectedSegments } from '../../../store/selection';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import type { RootState } from '../../../store/store';
import { useAppSelector } from '../../../store/store';
import type { Following } from '../../../workers/protocol';

/** Clips in the order in which they follow what is in hand, with the distance of those that were compared exactly. */
export interface Followers {
  readonly clips: readonly StoredClip[];
  readonly distances: ReadonlyMap<string, number>;
  /** What they are to follow; null where there is nothing yet. */
  readonly name: string | null;
}

/** Ranks clips by how well they follow the segment in hand, by the worker; in their own order until that is known, or switched off. */
export function useFollowers(clips: readonly StoredClip[], isOn: boolean): Followers {
  const scene = useAppSelector((s) => s.scene.document);
  const segment = useAppSelector(selectLeader);
  const [ranked, setRanked] = useState<readonly Following[]>([]);
  // Clips that come or go are ranked anew.
  const count = clips.length;
  useEffect(() => {
    if (!isOn || !scene || segment === null) return;
    let gone = false;
    const rank = async (): Promise<void> => {
      // All of them at once by how they begin, then the best exactly, whose files may have to be read.
      for (const exactly of [false, true]) {
        const following = await motion.follow({ scene, segment, exactly });
        if (gone) return;
        setRanked(following);
      }
    };
    // What cannot be ranked keeps its order.
    rank().catch(() => !gone && setRanked([]));
    return () => {
      gone = true;
    };
  }, [isOn, scene, segment, count]);
  return useMemo(() => {
    const name = (segment !== null && scene?.segments[segment]?.name) || null;
    if (!isOn || ranked.length === 0) return { clips, distances: new Map<string, number>(), name };
    return { ...inOrder(clips, ranked), name };
  }, [clips, ranked, isOn, scene, segment]);
}

/** Clips by their rank, those without one behind them. */
export function inOrder(
  clips: readonly StoredClip[],
  ranked: readonly Following[],
): Pick<Followers, 'clips' | 'distances'> {
  const rank = new Map(ranked.map((f, i) => [f.clip, i]));
  const distances = new Map(
    ranked.flatMap(({ clip, distanceCm }) => (distanceCm === null ? [] : [[clip, distanceCm] as const])),
  );
  const at = (clip: StoredClip): number => rank.get(clip.id) ?? Infinity;
  return { clips: [...clips].sort((a, b) => (at(a) < at(b) ? -1 : at(a) > at(b) ? 1 : 0)), distances };
}

/** The segment in hand, else the one at the playhead, else the last one; null in an empty scene. */
function selectLeader(state: RootState): string | null {
  const { selection, frame } = state.session;
  const [selected] = selectedSegments(selection, state.scene.document);
  if (selected) return selected;
  const { plan } = selectPreviewPlan(state);
  return segmentAtPlayhead(plan, selectPreviewScene(state), frame);
}

function segmentAtPlayhead(plan: Plan, scene: Scene, frame: number): string | null {
  const [first] = scene.characterOrder;
  const segments = plan.characters.find((c) => c.character.id === first)?.segments ?? [];
  return (segments.findLast((s) => s.start <= frame) ?? segments.at(-1))?.id ?? null;
}
