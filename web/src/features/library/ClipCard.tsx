import { useState } from 'react';
import { Link } from 'react-router';
import { describeFacts } from '../../ui/describeFacts';
import { seconds } from '../../ui/time';
import type { StoredClip } from '../../data/db';
import { usePreview } from '../../data/previews';
import { CARD_CLASS, CardFace } from './CardFace';
import { clipPath } from '../../parts/clipPath';
import { CheckBox } from '../../ui/CheckBox';

interface Props {
  readonly clip: StoredClip;
  readonly chosen: boolean;
  readonly width: number;
  readonly onChoose: (on: boolean) => void;
}

/** A clip: a figure that moves while it is pointed at or has the focus, its steps, and its main facts. */
export function ClipCard({ clip, chosen, width, onChoose }: Props) {
  const [lively, setLively] = useState(false);
  const preview = usePreview(clip.id);
  const { facts } = clip;
  return (
    <label
      data-clip-card={clip.name}
      className={`${CARD_CLASS} ${chosen ? 'border-ink ring-1 ring-ink' : 'hover:border-soft'}`}
      onPointerEnter={() => setLively(true)}
      onPointerLeave={() => setLively(false)}
    >
      <span className="flex items-baseline justify-between gap-2">
        <Link to={clipPath(clip.id)} className="truncate font-semibold hover:underline">
          {clip.name}
        </Link>
        <CheckBox
          aria-label={clip.name}
          aria-description={`${facts.restPose ? 'rest pose' : seconds(facts.seconds)}, ${describeFacts(facts)}`}
          checked={chosen}
          onChange={onChoose}
          onFocus={() => setLively(true)}
          onBlur={() => setLively(false)}
        />
      </span>
      <CardFace facts={facts} preview={preview} lively={lively} width={width} tags={clip.tags} />
    </label>
  );
}
