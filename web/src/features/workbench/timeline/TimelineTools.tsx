import { useStore } from 'react-redux';
import { selectPreviewPlan } from '../../../store/selectors';
import type { EdgeUse } from '../../../store/sessionState';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { Select } from '../../../ui/Select';
import { HEADER_WIDTH } from './geometry';

const EDGES: readonly (readonly [EdgeUse, string])[] = [
  ['trim', 'Edges: Trim'],
  ['repeat', 'Edges: Loop'],
  ['stretch', 'Edges: Stretch'],
];

/** Zoom, and what dragging an edge does. */
export function TimelineTools() {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const zoom = (by: number): void =>
    void dispatch(sessionActions.zoomed(store.getState().session.pixelsPerFrame * by));
  const edge = useAppSelector((s) => s.session.edge);
  const fit = (): void => {
    const width = document.querySelector('[data-timeline]')?.clientWidth ?? 1000;
    const { end } = selectPreviewPlan(store.getState()).plan;
    dispatch(sessionActions.zoomed((width - HEADER_WIDTH - 24) / Math.max(30, end)));
  };
  const button = 'px-1 text-soft hover:text-ink';
  return (
    <div role="group" aria-label="Zoom and edges" className="flex h-full items-center pl-1 text-note">
      <Button look="bare" className={button} aria-label="Zoom out" onClick={() => zoom(1 / 1.4)}>
        −
      </Button>
      <Button look="bare" className={button} aria-label="Zoom in" onClick={() => zoom(1.4)}>
        +
      </Button>
      <Button
        look="bare"
        className={button}
        aria-label="All of the scene"
        title="Show the whole scene"
        onClick={fit}
      >
        All
      </Button>
      <Select
        label="Drag edges to"
        className="ml-auto border-b-0! pr-1.5 text-note text-soft"
        value={edge}
        options={EDGES}
        onChange={(use) => dispatch(sessionActions.edged(use))}
      />
    </div>
  );
}
