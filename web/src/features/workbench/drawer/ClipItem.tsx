import { describeFacts } from '../../../ui/describeFacts';
import { StripDrawing } from '../../../ui/Figures';
import { cm } from '../../../ui/grade';
import { seconds } from '../../../ui/time';
import type { StoredClip } from '../../../data/db';
import { usePreview } from '../../../data/previews';
import { useAppDispatch } from '../../../store/store';
import { appendClip } from './appendClip';
import { useClipDrag } from './useClipDrag';

interface Props {
  readonly clip: StoredClip;
  /** How far it is from what it would follow, centimetres. */
  readonly distance?: number;
  readonly inHand: boolean;
}

/** A clip that can be dragged onto a lane, or added at its end; the one in hand can be reached with Tab. */
export function ClipItem({ clip, distance, inHand }: Props) {
  const dispatch = useAppDispatch();
  const append = (): void => void dispatch(appendClip(clip));
  const { held, bind } = useClipDrag(clip);
  return (
    <>
      <div
        role="button"
        tabIndex={inHand ? 0 : -1}
        data-clip={clip.name}
        title="Drag it onto a lane, or press Enter to add it at the end"
        className="cursor-grab touch-none py-2 select-none"
        onDoubleClick={append}
        onKeyDown={(e) => {
          if (e.key !== 'Enter') return;
          e.preventDefault();
          append();
        }}
        {...bind()}
      >
        <ClipFace clip={clip} distance={distance} />
      </div>
      {held && (
        <div
          className="pointer-events-none fixed z-50 rounded border bg-raised px-2 py-0.5 font-semibold shadow"
          style={{ left: held[0] + 12, top: held[1] + 12 }}
        >
          {clip.name}
        </div>
      )}
    </>
  );
}

/** What is seen of a clip: its name, its figures over its steps, its facts. */
function ClipFace({ clip, distance }: Omit<Props, 'inHand'>) {
  const figures = usePreview(clip.id);
  return (
    <>
      <div className="flex items-baseline justify-between gap-2">
        <span className="truncate font-semibold">{clip.name}</span>
        <span className="shrink-0 text-soft">
          {distance !== undefined && `${cm(distance)} · `}
          {clip.facts.restPose ? 'rest pose' : seconds(clip.facts.seconds)}
        </span>
      </div>
      <div className="h-11">
        {figures && (
          <StripDrawing
            preview={figures}
            leftFoot={clip.facts.leftFoot}
            rightFoot={clip.facts.rightFoot}
            frames={clip.facts.frames}
            width={166}
          />
        )}
      </div>
      <div className="text-note text-soft">{describeFacts(clip.facts)}</div>
    </>
  );
}
