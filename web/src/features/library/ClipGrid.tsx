import type { StoredClip } from '../../data/db';
import { CardGrid } from './CardGrid';
import { ClipCard } from './ClipCard';
import type { Chosen } from './chosen';

interface Props {
  readonly clips: readonly StoredClip[];
  readonly chosen: Chosen;
}

/** Clips of this browser as cards. */
export const ClipGrid = ({ clips, chosen }: Props) => (
  <CardGrid
    items={clips}
    keyOf={(clip) => clip.id}
    card={(clip, width) => (
      <ClipCard
        clip={clip}
        width={width}
        chosen={chosen.has(clip.id)}
        onChoose={(on) => chosen.set(clip.id, on)}
      />
    )}
  />
);
