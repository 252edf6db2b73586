import type { ThreeEvent } from '@react-three/fiber';
import { defined } from '@warper/core';
import { useEffect } from 'react';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';

/** Metres of floor that can be pressed, and pixels that a press may wander without being a drag of the camera. */
const FLOOR = 400;
const STILL = 5;
/** Centimetres to which a press is rounded. */
const ROUNDED = 100;

/** While a path is drawn: presses on the floor add points to it; Enter or Escape ends it. */
export function PathDrawer() {
  const dispatch = useAppDispatch();
  const drawing = useAppSelector((s) => s.session.drawing);
  const segment = useAppSelector((s) => (drawing === null ? undefined : s.scene.document?.segments[drawing]));
  useEffect(() => {
    if (drawing === null) return;
    const end = (e: KeyboardEvent): void => {
      if (e.key !== 'Enter' && e.key !== 'Escape') return;
      e.preventDefault();
      dispatch(sessionActions.drawing(null));
      dispatch(sessionActions.announced('The path is drawn'));
    };
    window.addEventListener('keydown', end, { capture: true });
    return () => window.removeEventListener('keydown', end, { capture: true });
  }, [drawing, dispatch]);
  if (!segment) return null;
  const add = (e: ThreeEvent<MouseEvent>): void => {
    if (e.delta > STILL) return;
    e.stopPropagation();
    const [x, z] = [e.point.x, e.point.z].map((v) => Math.round(v * ROUNDED) / ROUNDED);
    const before = segment.travel === 'path' ? segment.path : [];
    const path = [...before, [defined(x), defined(z)] as const];
    if (dispatch(commit({ type: 'change', segment: segment.id, values: { travel: 'path', path } })))
      dispatch(sessionActions.announced(`Point ${path.length} of the path at ${x}, ${z}`));
  };
  return (
    <mesh rotation={[-Math.PI / 2, 0, 0]} onClick={add}>
      <planeGeometry args={[FLOOR, FLOOR]} />
      <meshBasicMaterial transparent opacity={0} depthWrite={false} />
    </mesh>
  );
}

/** What is to be done while a path is drawn. */
export function DrawingHint() {
  const dispatch = useAppDispatch();
  const drawing = useAppSelector((s) => s.session.drawing);
  if (drawing === null) return null;
  return (
    <p
      role="status"
      className="absolute top-2 left-1/2 -translate-x-1/2 rounded-md border bg-raised px-3 py-1 text-small"
    >
      Click the floor to add points to the path.{' '}
      <Button look="link" onClick={() => dispatch(sessionActions.drawing(null))}>
        Done
      </Button>{' '}
      <span className="text-soft">(Enter)</span>
    </p>
  );
}
