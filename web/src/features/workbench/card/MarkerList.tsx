import type { Scene } from '@warper/core';
import { Group } from '../../../ui/controls';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';

/** The markers of a scene; a press goes there. */
export function MarkerList({ scene }: { scene: Scene }) {
  const dispatch = useAppDispatch();
  if (scene.markers.length === 0) return null;
  return (
    <Group title="Markers">
      <ul>
        {scene.markers.map((m) => (
          <li key={m.id}>
            <button
              type="button"
              className="flex w-full justify-between gap-2 rounded py-0.5 text-left hover:bg-paper"
              onClick={() => {
                dispatch(sessionActions.selected({ kind: 'marker', id: m.id }));
                dispatch(sessionActions.went(m.frame));
              }}
            >
              <span className="truncate">{m.name}</span>
              <span className="text-soft">
                {m.frame}
                {m.end === null ? '' : ` to ${m.end}`}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </Group>
  );
}
