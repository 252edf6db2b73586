import type { Character, Edit, Plan } from '@warper/core';
import { framesPerSecond } from '@warper/core';
import { GripVertical } from 'lucide-react';
import { toast } from 'sonner';
import { openSources } from '../../../data/pageLibrary';
import { parseNumber } from '../../../ui/parseNumber';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { canLoop } from '../card/ReplaceClip';
import { Cell } from './Cell';
import type { CueRow } from './cueRows';
import { parseSeam, seamEdits } from './cueRows';
import { findByName } from './cueTable';
import { keptClips } from '../../../data/keptClips';

interface Props {
  readonly row: CueRow;
  readonly rate: Plan['rate'];
  readonly before: CueRow | null;
  readonly afterNext: CueRow | null;
  readonly hasNext: boolean;
  readonly characters: readonly Character[];
  /** The body lane of each character. */
  readonly lanes: Readonly<Record<string, string>>;
  readonly onLift: () => void;
  /** Let go of, wherever that was. */
  readonly onRest: () => void;
  readonly onDrop: () => void;
}

/** One beat: every cell of it can be typed into, and it is moved by its grip or with Alt and the arrow keys. */
export function BeatRow(props: Props) {
  const { row, rate, before, afterNext, hasNext, characters, lanes, onLift, onRest, onDrop } = props;
  const dispatch = useAppDispatch();
  const { segment, span } = row;
  const { id, name } = segment;
  const selected = useAppSelector(
    (s) => s.session.selection.kind === 'segment' && s.session.selection.id === id,
  );
  const fps = framesPerSecond(rate);
  const set = (edit: Edit): void => void dispatch(commit(edit));
  const number = (text: string): number | null => parseNumber(text.trim(), { framesPerSecond: fps });
  const wrong = (text: string, hint: string): void =>
    void toast.error(`“${text}” cannot be read.`, { description: hint });

  const replace = async (typed: string): Promise<void> => {
    const clip = findByName(await keptClips(), typed);
    if (!clip) return wrong(typed, 'Choose a clip of the list.');
    await openSources([clip.source]);
    set({ type: 'replace', segment: id, by: { clip: clip.id, name: clip.name, loop: canLoop(clip) } });
  };
  const repeat = (typed: string): void => {
    const times = number(typed.replace(/^[x×]/i, ''));
    if (times === null || !(times > 0))
      return wrong(typed, 'Repeats are a number above zero, such as 3 or 1.5.');
    set({
      type: 'change',
      segment: id,
      values: { repeat: times, loop: segment.loop || times !== 1, length: null },
    });
  };
  const length = (typed: string): void => {
    const frames = number(typed);
    const held = segment.hold.start + segment.hold.end;
    if (frames === null || frames - held < 1)
      return wrong(typed, 'A length is in frames, or in seconds such as 2s.');
    set({ type: 'change', segment: id, values: { length: Math.round(frames) - held } });
  };
  const seam = (typed: string): void => {
    const asked = parseSeam(typed);
    if (!asked) return wrong(typed, 'Write cut, crossfade 8 or settle 9.');
    set({ type: 'several', label: `the seam before ${name}`, edits: seamEdits(id, asked, rate) });
  };
  const move = (way: -1 | 1): void => {
    if (way < 0 ? !before : !hasNext) return;
    const to = way < 0 ? before!.segment.id : (afterNext?.segment.id ?? null);
    set({ type: 'reorder', segment: id, lane: row.lane, before: to });
    dispatch(sessionActions.announced(`${name} moved ${way < 0 ? 'up' : 'down'}`));
  };

  return (
    <tr
      data-beat={id}
      className={`${selected ? 'bg-raised' : ''} ${segment.off ? 'text-soft line-through' : ''}`}
      onFocus={() => !selected && dispatch(sessionActions.selected({ kind: 'segment', id }))}
      onDragOver={(e) => e.preventDefault()}
      onDrop={onDrop}
      onKeyDown={(e) => {
        if (!e.altKey || (e.key !== 'ArrowUp' && e.key !== 'ArrowDown')) return;
        e.preventDefault();
        e.stopPropagation();
        move(e.key === 'ArrowUp' ? -1 : 1);
      }}
    >
      <td
        className="w-1.5 p-0"
        style={{ background: `var(--hue-${characters.find((c) => c.id === row.character)?.hue ?? 0})` }}
      />
      <td className="w-14 px-2">
        <span className="flex items-center gap-1">
          <span
            draggable
            className="cursor-grab text-soft"
            onDragStart={onLift}
            onDragEnd={onRest}
            title="Drag to another place"
          >
            <GripVertical size={13} aria-hidden />
          </span>
          <input
            type="checkbox"
            aria-label={`${name} is performed`}
            className="size-3.5 accent-ink"
            checked={!segment.off}
            onChange={(e) => set({ type: 'switch', segment: id, off: !e.currentTarget.checked })}
          />
        </span>
      </td>
      <td className="px-2">
        <select
          aria-label={`Character of ${name}`}
          className="bg-transparent [&>option]:bg-raised"
          value={row.character}
          onChange={(e) => {
            const to = lanes[e.currentTarget.value];
            if (to) set({ type: 'reorder', segment: id, lane: to, before: null });
          }}
        >
          {characters.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
        </select>
      </td>
      <td className="px-2">
        <Cell label={`Clip of ${name}`} value={name} list="clip-names" onChange={(v) => void replace(v)} />
      </td>
      <td className="w-20 px-2">
        <Cell
          label={`Repeats of ${name}`}
          value={String(Number(row.repeat.toFixed(2)))}
          wide={false}
          onChange={repeat}
        />
      </td>
      <td className="w-20 px-2">
        <Cell
          label={`Length of ${name}`}
          value={span ? String(span.end - span.start) : ''}
          wide={false}
          disabled={!span}
          onChange={length}
        />
      </td>
      <td className="w-32 px-2">
        <Cell label={`Seam before ${name}`} value={row.seam} disabled={row.seam === ''} onChange={seam} />
      </td>
      <td className="px-2 whitespace-nowrap text-soft" colSpan={2}>
        {span ? `${span.start} to ${span.end}` : 'off'}
      </td>
    </tr>
  );
}
