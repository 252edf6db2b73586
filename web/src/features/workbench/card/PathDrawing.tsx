import type { Segment, SegmentPlan } from '@warper/core';
import { framesPerSecond } from '@warper/core';
import { sessionActions } from '../../../store/sessionSlice';
import { selectPreviewPlan } from '../../../store/selectors';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { wayLength } from './wayLength';

interface Props {
  readonly segment: Segment;
  readonly plan: SegmentPlan;
}

/** Drawing a path with clicks, and how fast the steps go along it. */
export function PathDrawing({ segment, plan }: Props) {
  const dispatch = useAppDispatch();
  const drawing = useAppSelector((s) => s.session.drawing === segment.id);
  const { plan: scene } = useAppSelector(selectPreviewPlan);
  const seconds = (plan.end - plan.start) / framesPerSecond(scene.rate);
  const walked = wayLength(plan);
  const drawn = segment.path.slice(1).reduce((sum, [x, z], i) => {
    const [bx, bz] = segment.path[i] ?? [x, z];
    return sum + Math.hypot(x - bx, z - bz);
  }, 0);
  return (
    <>
      <div>
        <Button
          aria-pressed={drawing}
          onClick={() => dispatch(sessionActions.drawing(drawing ? null : segment.id))}
        >
          {drawing ? 'Stop drawing' : 'Draw a path in the view'}
        </Button>
      </div>
      {segment.travel === 'path' && segment.path.length > 1 && (
        <p className="text-note text-soft">
          {drawn.toFixed(1)} m between its points. Its steps take it {walked.toFixed(1)} m in{' '}
          {seconds.toFixed(1)} s, {(walked / Math.max(seconds, 1e-6)).toFixed(2)} m/s.
        </p>
      )}
    </>
  );
}
