import type { Scene } from '@warper/core';
import { Button, Group } from '../../../ui/controls';
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
            <Button
              look="row"

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
            </Button>
          </li>
        ))}
      </ul>
    </Group>
  );
}
