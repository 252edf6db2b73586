import type { Announcements, DragEndEvent } from '@dnd-kit/core';
import { DndContext, PointerSensor, closestCenter, useSensor, useSensors } from '@dnd-kit/core';
import type { Edit } from '@warper/core';
import type { ReactNode } from 'react';
import { commit } from '../../../store/edits';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import type { Beat } from './beatEdits';
import { movedBeat, steppedBeat } from './beatEdits';
import { CharacterBeats } from './CharacterBeats';
import type { CueRow } from './cueRows';
import { cueRows } from './cueRows';

interface Props {
  readonly onAdd: (lane: string, name: string) => void;
  /** What stands at the end of the head. */
  readonly copy: (rows: readonly CueRow[]) => ReactNode;
}

const HEADS = ['', 'Enabled', 'Character', 'Clip', 'Repeats', 'Length', 'Seam before', 'Frames'];

/** What a screen reader says of a grip; the arrows are heard by the whole row. */
const INSTRUCTIONS = { draggable: 'Press Alt with the up or down arrow to move it by one place.' };

/** The beats of all characters; they are put into another order by their grips, or with Alt and the arrow keys. */
export function BeatTable({ onAdd, copy }: Props) {
  const scene = useAppSelector(selectPreviewScene);
  const { plan } = useAppSelector(selectPreviewPlan);
  const rows = cueRows(scene, plan);
  const order = useOrder(rows);
  const lanes = Object.fromEntries(
    Object.values(scene.lanes).flatMap((l) => (l.kind === 'body' ? [[l.character, l.id]] : [])),
  );
  return (
    <DndContext {...order.drag}>
      <div className="min-h-0 flex-1 overflow-auto" tabIndex={0} aria-label="Beats; paste a table here">
        <table className="w-full max-w-5xl border-collapse text-left">
          <thead className="sticky top-0 z-10 bg-paper text-xs text-soft">
            <tr>
              {HEADS.map((h) => (
                <th key={h} className="border-b px-2 py-1 font-normal">
                  {h}
                </th>
              ))}
              <th className="border-b px-2 py-0.5 text-right font-normal">{copy(rows)}</th>
            </tr>
          </thead>
          {plan.characters.map((c) => {
            const lane = lanes[c.character.id];
            return lane === undefined ? null : (
              <CharacterBeats
                key={c.character.id}
                character={c}
                plan={plan}
                rows={rows.filter((r) => r.character === c.character.id)}
                lane={lane}
                lanes={lanes}
                onStep={order.step}
                onAdd={(name) => onAdd(lane, name)}
              />
            );
          })}
        </table>
      </div>
    </DndContext>
  );
}

/** How beats are put into another order: by dragging, and one place up or down. */
function useOrder(rows: readonly CueRow[]) {
  const dispatch = useAppDispatch();
  const beats = rows.map((r): Beat => ({ id: r.segment.id, lane: r.lane }));
  const nameOf = (id: unknown): string => rows.find((r) => r.segment.id === id)?.segment.name ?? 'the end';
  const carryOut = (edit: Edit | null, said: string): void => {
    if (edit && dispatch(commit(edit))) dispatch(sessionActions.announced(said));
  };
  const announcements: Announcements = {
    onDragStart: ({ active }) => `${nameOf(active.id)} is taken up.`,
    onDragOver: ({ active, over }) => (over ? `${nameOf(active.id)} is over ${nameOf(over.id)}.` : undefined),
    onDragEnd: ({ active }) => `${nameOf(active.id)} is let go.`,
    onDragCancel: ({ active }) => `${nameOf(active.id)} stays where it was.`,
  };
  const sensors = useSensors(useSensor(PointerSensor));
  return {
    drag: {
      sensors,
      collisionDetection: closestCenter,
      accessibility: { announcements, screenReaderInstructions: INSTRUCTIONS },
      onDragEnd: ({ active, over }: DragEndEvent): void => {
        const at = over?.data.current as { lane?: string; end?: boolean } | undefined;
        if (!over || at?.lane === undefined) return;
        const target = at.end ? { id: null, lane: at.lane } : { id: String(over.id), lane: at.lane };
        carryOut(movedBeat(beats, String(active.id), target), `${nameOf(active.id)} moved`);
      },
    },
    step: ({ segment, lane }: CueRow, way: -1 | 1): void =>
      carryOut(
        steppedBeat(beats, { id: segment.id, lane }, way),
        `${segment.name} moved ${way < 0 ? 'up' : 'down'}`,
      ),
  };
}
