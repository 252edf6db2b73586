import { useDroppable } from '@dnd-kit/core';
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import type { CharacterPlan, Plan } from '@warper/core';
import { framesPerSecond } from '@warper/core';
import { clock } from '../../../ui/time';
import { BeatRow } from './BeatRow';
import { Cell } from './Cell';
import type { CueRow } from './cueRows';

interface Props {
  readonly character: CharacterPlan;
  readonly plan: Plan;
  readonly rows: readonly CueRow[];
  readonly lane: string;
  /** The body lane of each character. */
  readonly lanes: Readonly<Record<string, string>>;
  readonly onStep: (row: CueRow, way: -1 | 1) => void;
  readonly onAdd: (name: string) => void;
}

/** The beats of one character, and a row to add one. */
export function CharacterBeats({ character, plan, rows, lane, lanes, onStep, onAdd }: Props) {
  const characters = plan.characters.map((c) => c.character);
  return (
    <SortableContext items={rows.map((r) => r.segment.id)} strategy={verticalListSortingStrategy}>
      <tbody className="border-b">
        {rows.map((row) => (
          <BeatRow
            key={row.segment.id}
            row={row}
            rate={plan.rate}
            characters={characters}
            lanes={lanes}
            onStep={(way) => onStep(row, way)}
          />
        ))}
        <LastRow plan={character} fps={framesPerSecond(plan.rate)} lane={lane} onAdd={onAdd} />
      </tbody>
    </SortableContext>
  );
}

interface LastProps {
  readonly plan: CharacterPlan;
  readonly fps: number;
  readonly lane: string;
  readonly onAdd: (name: string) => void;
}

/** The end of a lane: beats are let go here, or added by name. */
function LastRow({ plan: { character, segments, start, end }, fps, lane, onAdd }: LastProps) {
  const { setNodeRef, isOver } = useDroppable({ id: `end of ${lane}`, data: { lane, end: true } });
  return (
    <tr ref={setNodeRef} className={`text-soft ${isOver ? 'bg-raised' : ''}`}>
      <td className="w-1.5 p-0" style={{ background: `var(--hue-${character.hue})` }} />
      <td />
      <td className="px-2 py-0.5">{character.name}</td>
      <td className="px-2 py-0.5">
        <Cell
          label={`New beat of ${character.name}`}
          value=""
          placeholder="Add a clip"
          list="clip-names"
          onChange={onAdd}
        />
      </td>
      <td colSpan={5} className="px-2 py-0.5 text-right">
        {segments.length} beats, {end - start} frames, {clock(end - start, fps)}
      </td>
    </tr>
  );
}
