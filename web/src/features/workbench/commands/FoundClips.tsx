import { Command } from 'cmdk';
import { useClips } from '../../../parts/useClips';
import { seconds } from '../../../ui/time';
import { appendClip } from '../drawer/appendClip';
import { useAppDispatch } from '../../../store/store';
import type { StoredClip } from '../../../data/db';
import { PaletteGroup, PaletteItem } from './PaletteItem';

/** Clips that are listed at most. */
const SHOWN = 6;

interface Props {
  readonly query: string;
  readonly done: (act: () => unknown) => () => void;
}

/** The clips that answer a search; one that is chosen goes to the end of the lane. Says where nothing at all answers it. */
export function FoundClips({ query, done }: Props) {
  const clips = useClips({ words: query, filters: [], tags: [], collection: null });
  if (query.trim() === '' || !clips) return null;
  const shown = clips.found.slice(0, SHOWN);
  if (shown.length === 0)
    return (
      <Command.Empty className="px-2 py-3 text-soft">
        Nothing has all these words. Try fewer letters.
      </Command.Empty>
    );
  return (
    <PaletteGroup found title="Add a clip at the end of the lane">
      {shown.map((clip) => (
        <FoundClip key={clip.id} clip={clip} done={done} />
      ))}
    </PaletteGroup>
  );
}

function FoundClip({ clip, done }: { readonly clip: StoredClip; readonly done: Props['done'] }) {
  const dispatch = useAppDispatch();
  return (
    <PaletteItem
      found
      id={clip.id}
      name={clip.name}
      beside={clip.facts.restPose ? 'rest pose' : seconds(clip.facts.seconds)}
      onSelect={done(() => dispatch(appendClip(clip)))}
    />
  );
}
