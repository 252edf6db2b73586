import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { Character, Plan } from '@warper/core';
import { GripVertical } from 'lucide-react';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { typedLength, typedRepeat, typedSeam } from './beatEdits';
import { Cell } from './Cell';
import type { CueRow } from './cueRows';
import { useBeatCells } from './useBeatCells';
import { Select } from '../../../ui/Select';
import { CheckBox } from '../../../ui/CheckBox';

interface Props {
  readonly row: CueRow;
  readonly rate: Plan['rate'];
  readonly characters: readonly Character[];
  /** The body lane of each character. */
  readonly lanes: Readonly<Record<string, string>>;
  /** Moves the beat by one place. */
  readonly onStep: (way: -1 | 1) => void;
}

/** One beat: every cell of it can be typed into, and it is moved by its grip or with Alt and the arrow keys. */
export function BeatRow({ row, rate, characters, lanes, onStep }: Props) {
  const dispatch = useAppDispatch();
  const { id, off } = row.segment;
  const selected = useAppSelector(
    (s) => s.session.selection.kind === 'segment' && s.session.selection.id === id,
  );
  const sortable = useSortable({ id, data: { lane: row.lane } });
  const hue = characters.find((c) => c.id === row.character)?.hue ?? 0;
  return (
    <tr
      ref={sortable.setNodeRef}
      data-beat={id}
      className={`${selected ? 'bg-raised' : ''} ${off ? 'text-soft line-through' : ''} ${sortable.isDragging ? 'relative z-10 opacity-60' : ''}`}
      style={{ transform: CSS.Translate.toString(sortable.transform), transition: sortable.transition }}
      onFocus={() => !selected && dispatch(sessionActions.selected({ kind: 'segment', id }))}
      onKeyDown={(e) => {
        if (!e.altKey || (e.key !== 'ArrowUp' && e.key !== 'ArrowDown')) return;
        e.preventDefault();
        e.stopPropagation();
        onStep(e.key === 'ArrowUp' ? -1 : 1);
      }}
    >
      <td className="w-1.5 p-0" style={{ background: `var(--hue-${hue})` }} />
      <FirstCells row={row} grip={sortable} />
      <CharacterCell row={row} characters={characters} lanes={lanes} />
      <TextCells row={row} rate={rate} />
    </tr>
  );
}

type Grip = Pick<ReturnType<typeof useSortable>, 'attributes' | 'listeners' | 'setActivatorNodeRef'>;

/** The grip, and whether the beat is performed. */
function FirstCells({ row, grip }: { row: CueRow; grip: Grip }) {
  const dispatch = useAppDispatch();
  const { id, name, off } = row.segment;
  return (
    <td className="w-14 px-2">
      <span className="flex items-center gap-1">
        <Button
          look="soft"
          ref={grip.setActivatorNodeRef}
          className="cursor-grab touch-none"
          title="Drag to another place"
          {...grip.attributes}
          {...grip.listeners}
          aria-label={`Move ${name}`}
        >
          <GripVertical size={13} aria-hidden />
        </Button>
        <CheckBox
          aria-label={`Enable ${name}`}
          checked={!off}
          onChange={(on) => dispatch(commit({ type: 'switch', segment: id, off: !on }))}
        />
      </span>
    </td>
  );
}

function CharacterCell({ row, characters, lanes }: Pick<Props, 'row' | 'characters' | 'lanes'>) {
  const dispatch = useAppDispatch();
  const { id, name } = row.segment;
  return (
    <td className="px-2">
      <Select
        label={`Character of ${name}`}
        className="border-b-0!"
        value={row.character}
        options={characters.map((c) => [c.id, c.name] as const)}
        onChange={(character) => {
          const lane = lanes[character];
          if (lane) dispatch(commit({ type: 'reorder', segment: id, lane, before: null }));
        }}
      />
    </td>
  );
}

/** Clip, repeats, length, seam and frames. */
function TextCells({ row, rate }: Pick<Props, 'row' | 'rate'>) {
  const { take, replace } = useBeatCells(row.segment, rate);
  const { span, segment } = row;
  const { name } = segment;
  return (
    <>
      <td className="px-2">
        <Cell label={`Clip of ${name}`} value={name} list="clip-names" onChange={(v) => void replace(v)} />
      </td>
      <td className="w-20 px-2">
        <Cell
          label={`Repeats of ${name}`}
          value={String(Number(row.repeat.toFixed(2)))}
          wide={false}
          onChange={take(typedRepeat)}
        />
      </td>
      <td className="w-20 px-2">
        <Cell
          label={`Length of ${name}`}
          value={span ? String(span.end - span.start) : ''}
          wide={false}
          disabled={!span}
          onChange={take(typedLength)}
        />
      </td>
      <td className="w-32 px-2">
        <Cell
          label={`Seam before ${name}`}
          value={row.seam}
          disabled={row.seam === ''}
          onChange={take(typedSeam)}
        />
      </td>
      <td className="px-2 whitespace-nowrap text-soft" colSpan={2}>
        {span ? `${span.start} to ${span.end}` : 'disabled'}
      </td>
    </>
  );
}
