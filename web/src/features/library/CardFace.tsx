import type { ClipFacts } from '@warper/core';
import type { Preview } from '@warper/formats';
import { describeFacts } from '../../ui/describeFacts';
import { FloorPath } from '../../ui/FloorPath';
import { MovingFigure, StepRows } from '../../ui/Figures';
import { seconds } from '../../ui/time';

interface Props {
  readonly facts: ClipFacts;
  readonly preview: Preview | null;
  /** Whether the figure moves. */
  readonly lively: boolean;
  /** Of the card, pixels. */
  readonly width: number;
  readonly tags: readonly string[];
}

/** Height that a card takes up with the gap below it, pixels. */
export const CARD_HEIGHT = 218;
/** How a card looks. */
export const CARD_CLASS =
  'block h-[206px] w-full cursor-pointer rounded-lg border bg-raised px-3 pt-2 pb-2.5 text-left has-focus-visible:outline-2 has-focus-visible:outline-signal';
const FIGURE_HEIGHT = 120;
const PATH_SIZE = 46;
const PADDING = 26;

/** What a card shows of a clip below its name: a figure, its steps, its main facts, its tags. */
export function CardFace({ facts, preview, lively, width, tags }: Props) {
  const inside = width - PADDING;
  return (
    <>
      <span className="relative block" style={{ height: FIGURE_HEIGHT }}>
        {preview && (
          <>
            <MovingFigure
              preview={preview}
              seconds={facts.seconds}
              playing={lively}
              width={inside}
              height={FIGURE_HEIGHT}
            />
            <span className="absolute right-0 bottom-0">
              <FloorPath preview={preview} size={PATH_SIZE} />
            </span>
          </>
        )}
      </span>
      <svg width={inside} height={11} aria-hidden className="block">
        <StepRows
          leftFoot={facts.leftFoot}
          rightFoot={facts.rightFoot}
          frames={facts.frames}
          width={inside}
        />
      </svg>
      <span className="mt-1.5 flex justify-between gap-2 text-note text-soft">
        <span className="truncate">{describeFacts(facts)}</span>
        <span className="shrink-0">{facts.restPose ? 'rest pose' : seconds(facts.seconds)}</span>
      </span>
      <span className="block truncate text-note text-soft">{tags.join(' · ') || ' '}</span>
    </>
  );
}
