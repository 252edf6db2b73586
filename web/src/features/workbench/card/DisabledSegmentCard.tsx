import type { Scene, Segment } from '@warper/core';
import { outermostGroup } from '@warper/core';
import { Button } from '../../../ui/controls';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';

/** A segment that waits on its lane without being performed: why, and the way back. */
export function DisabledSegmentCard({ segment, scene }: { segment: Segment; scene: Scene }) {
  const dispatch = useAppDispatch();
  const group = outermostGroup(scene, segment.id);
  return (
    <>
      <p className="text-soft">Disabled segment</p>
      <h2 className="mb-1 text-title font-bold">{segment.name}</h2>
      <p className="pb-3 text-soft">
        {segment.off
          ? 'It is disabled: it takes no time, and its neighbours join as if it were not there.'
          : group?.muted
            ? `Its group, ${group.name}, is muted.`
            : 'Its lane is muted, or another lane is solo.'}
      </p>
      <div className="flex flex-wrap gap-2 border-t pt-3">
        {segment.off && (
          <Button onClick={() => dispatch(commit({ type: 'switch', segment: segment.id, off: false }))}>
            Enable
          </Button>
        )}
        {!segment.off && group?.muted && (
          <Button onClick={() => dispatch(sessionActions.selected({ kind: 'group', id: group.id }))}>
            Show the group
          </Button>
        )}
        <Button
          onClick={() => {
            dispatch(commit({ type: 'remove', segment: segment.id, close: false }));
            dispatch(sessionActions.selected({ kind: 'scene' }));
          }}
        >
          Remove
        </Button>
      </div>
    </>
  );
}
