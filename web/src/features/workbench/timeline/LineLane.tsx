import type { Line, Scene } from '@warper/core';
import { captionText, linesInOrder } from '@warper/core';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { BlockEnds } from './BlockEnds';
import { LINE_ROW } from './geometry';
import { useBlockHands } from './useBlockHands';

interface Props {
  readonly lines: Scene['lines'];
  readonly ppf: number;
  readonly top: number;
}

/** The lane of what is said. */
export const LineLane = ({ lines, ppf, top }: Props) => (
  <div role="group" aria-label="Lines">
    {linesInOrder(lines).map((line) => (
      <LineBlock key={line.id} {...{ line, ppf, top }} />
    ))}
  </div>
);

interface BlockProps {
  readonly line: Line;
  readonly ppf: number;
  readonly top: number;
}

/** Pixels of a line in which its speaker is told as well. */
const ROOM_FOR_SPEAKER = 150;

function LineBlock({ line, ppf, top }: BlockProps) {
  const dispatch = useAppDispatch();
  const { id, text, speaker, start, end } = line;
  const selected = useAppSelector(
    ({ session: { selection } }) => selection.kind === 'line' && selection.id === id,
  );
  const hands = useBlockHands({
    id,
    name: text,
    start,
    end,
    select: () => void dispatch(sessionActions.selected({ kind: 'line', id })),
    moved: (frames) => ({ type: 'line', line: { ...line, start: start + frames, end: end + frames } }),
    remove: () => {
      dispatch(commit({ type: 'remove line', line: id }));
      dispatch(sessionActions.selected({ kind: 'scene' }));
    },
  });
  return (
    <>
      <Button
        look="bare"
        data-line={id}
        aria-label={`${captionText(line)}, frames ${start} to ${end}`}
        aria-pressed={selected}
        className={`absolute z-10 cursor-grab touch-none overflow-hidden rounded-full border bg-raised px-2 text-left text-tick ${selected ? 'border-ink ring-1 ring-ink' : 'border-soft'}`}
        style={{
          left: start * ppf,
          width: Math.max(6, (end - start) * ppf),
          top: top + 4,
          height: LINE_ROW - 8,
        }}
        {...hands}
      >
        <span className="block truncate">
          {speaker && (end - start) * ppf > ROOM_FOR_SPEAKER && <span className="text-soft">{speaker} </span>}
          {text}
        </span>
      </Button>
      {selected && <Ends line={line} ppf={ppf} top={top + LINE_ROW / 2} />}
    </>
  );
}

/** The ends of the line in hand; a frame at least is left. */
function Ends({ line, ppf, top }: BlockProps) {
  const kept = useAppSelector((s) => s.scene.document?.lines[line.id]);
  if (!kept) return null;
  const trimmed = (edge: 'start' | 'end', frame: number): Partial<Line> =>
    edge === 'start' ? { start: Math.min(frame, kept.end - 1) } : { end: Math.max(frame, kept.start + 1) };
  return (
    <BlockEnds
      {...{ kept, top, ppf }}
      id={line.id}
      name={line.text}
      shown={line}
      trim={(edge, frame) => ({ type: 'line', line: { ...kept, ...trimmed(edge, frame) } })}
    />
  );
}
