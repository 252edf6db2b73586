import { useState } from 'react';
import { Link } from 'react-router';
import { describeFacts } from '../parts/describeFacts';
import { MovingFigure, StepRows } from '../parts/Figures';
import { seconds } from '../parts/time';
import type { StoredClip } from '../storage/db';
import { usePreview } from '../storage/previews';
import { clipPath } from './clipPath';

interface Props {
  readonly clip: StoredClip;
  readonly chosen: boolean;
  readonly width: number;
  readonly onChoose: (on: boolean) => void;
}

/** Height of a card, pixels. */
export const CARD_HEIGHT = 218;
const FIGURE_HEIGHT = 120;

/** A clip: a figure that moves while it is pointed at or has the focus, its steps, and its main facts. */
export function ClipCard({ clip, chosen, width, onChoose }: Props) {
  const [lively, setLively] = useState(false);
  const preview = usePreview(clip.id);
  const { facts } = clip;
  return (
    <label
      data-clip-card={clip.name}
      className={`block h-[206px] cursor-pointer rounded-lg border bg-raised px-3 pt-2 pb-2.5 has-focus-visible:outline-2 has-focus-visible:outline-signal ${chosen ? 'border-ink ring-1 ring-ink' : 'hover:border-soft'}`}
      onPointerEnter={() => setLively(true)}
      onPointerLeave={() => setLively(false)}
    >
      <span className="flex items-baseline justify-between gap-2">
        <Link to={clipPath(clip.id)} className="truncate font-semibold hover:underline">
          {clip.name}
        </Link>
        <input
          type="checkbox"
          className="size-3.5 shrink-0 accent-ink"
          aria-label={clip.name}
          aria-description={`${facts.restPose ? 'rest pose' : seconds(facts.seconds)}, ${describeFacts(facts)}`}
          checked={chosen}
          onChange={(e) => onChoose(e.currentTarget.checked)}
          onFocus={() => setLively(true)}
          onBlur={() => setLively(false)}
        />
      </span>
      <span className="block" style={{ height: FIGURE_HEIGHT }}>
        {preview && (
          <MovingFigure
            preview={preview}
            seconds={facts.seconds}
            playing={lively}
            width={width - 26}
            height={FIGURE_HEIGHT}
          />
        )}
      </span>
      <svg width={width - 26} height={11} aria-hidden className="block">
        <StepRows
          leftFoot={facts.leftFoot}
          rightFoot={facts.rightFoot}
          frames={facts.frames}
          width={width - 26}
        />
      </svg>
      <span className="mt-1.5 flex justify-between gap-2 text-[12.5px] text-soft">
        <span className="truncate">{describeFacts(facts)}</span>
        <span className="shrink-0">{facts.restPose ? 'rest pose' : seconds(facts.seconds)}</span>
      </span>
      <span className="block truncate text-[12px] text-soft">{clip.tags.join(' · ') || ' '}</span>
    </label>
  );
}
