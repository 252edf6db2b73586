import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { MoreKeys } from './MoreKeys';
import { framesNear } from './nearKeys';

/** The frames of keys near the playhead, each to be gone to. */
export function KeyFrames({ frames }: { readonly frames: readonly number[] }) {
  const dispatch = useAppDispatch();
  const frame = useAppSelector((s) => s.session.frame);
  const listed = framesNear(frames, frame);
  return (
    <>
      <MoreKeys count={frames.length} shown={listed.length} />
      <ul>
        {listed.map((at) => (
          <li key={at}>
            <Button look="bare" className="hover:underline" onClick={() => dispatch(sessionActions.went(at))}>
              Frame {at}
            </Button>
          </li>
        ))}
      </ul>
    </>
  );
}
