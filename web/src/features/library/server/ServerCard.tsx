import type { ListedClip } from '@warper/formats';
import { foldersOf } from '@warper/formats';
import { useState } from 'react';
import { CARD_CLASS, CardFace } from '../CardFace';
import { useServerPreview } from './useServerPreview';
import { Button } from '../../../ui/controls';

interface Props {
  readonly clip: ListedClip;
  readonly width: number;
  readonly open: boolean;
  /** Whether this browser has taken it. */
  readonly taken: boolean;
  readonly onOpen: () => void;
}

/** A clip at the server; pressing it tries it on a character. */
export function ServerCard({ clip, width, open, taken, onOpen }: Props) {
  const [lively, setLively] = useState(false);
  const preview = useServerPreview(clip.id);
  return (
    <Button
      look="bare"
      data-server-clip={clip.name}
      aria-pressed={open}
      title={`Try ${clip.name}`}
      className={`${CARD_CLASS} ${open ? 'border-ink ring-1 ring-ink' : 'hover:border-soft'}`}
      onPointerEnter={() => setLively(true)}
      onPointerLeave={() => setLively(false)}
      onFocus={() => setLively(true)}
      onBlur={() => setLively(false)}
      onClick={onOpen}
    >
      <span className="flex items-baseline justify-between gap-2">
        <span className="truncate font-semibold">{clip.name}</span>
        {taken && <span className="shrink-0 text-note text-good">● Added</span>}
      </span>
      <CardFace
        facts={clip.facts}
        preview={preview}
        lively={lively}
        width={width}
        tags={foldersOf(clip.file)}
      />
    </Button>
  );
}
