import { useDrag } from '@use-gesture/react';
import type { Scene } from '@warper/core';
import { parseRate, segmentTiming } from '@warper/core';
import { useRef, useState } from 'react';
import { useStore } from 'react-redux';
import { describeFacts } from '../../../ui/describeFacts';
import { StripDrawing } from '../../../ui/Figures';
import { cm } from '../../../ui/grade';
import { seconds } from '../../../ui/time';
import { library, openSources } from '../../../data/pageLibrary';
import type { StoredClip } from '../../../data/db';
import { usePreview } from '../../../data/previews';
import { commit, preview } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { useAppDispatch } from '../../../store/store';
import { newSegment } from './newSegment';
import { appendClip } from './appendClip';

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

/** Drags the clip over the lanes, shown where it would go; `held` is where the pointer is meanwhile. */
function useClipDrag(clip: StoredClip) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const [held, setHeld] = useState<readonly [number, number] | null>(null);
  const segment = useRef(newSegment(clip));
  const bind = useDrag(
    ({ first, last, tap, xy, canceled }) => {
      if (tap) return;
      if (first) {
        segment.current = newSegment(clip);
        void openSources([clip.source]);
      }
      setHeld(last || canceled ? null : xy);
      const target = canceled ? null : placeAt(xy, store.getState());
      if (!target) {
        dispatch(preview(null));
        if (last && !canceled && isOnEmptyTimeline(xy, store.getState())) dispatch(appendClip(clip));
        return;
      }
      const change = { type: 'place', segment: segment.current, ...target } as const;
      if (last) {
        void openSources([clip.source]).then(() => {
          if (dispatch(commit(change)))
            dispatch(sessionActions.selected({ kind: 'segment', id: change.segment.id }));
        });
      } else dispatch(preview(change));
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  return { held, bind };
}

/** Whether a clip is dropped on the timeline of a scene that has no lanes yet. */
const isOnEmptyTimeline = ([x, y]: readonly [number, number], { scene }: RootState): boolean =>
  scene.document?.laneOrder.length === 0 &&
  document.elementsFromPoint(x, y).some((e) => e.closest('[data-timeline]') !== null);

/** The lane under the pointer, and the frame there; null beside all lanes. */
function placeAt(
  xy: readonly [number, number],
  state: RootState,
): { lane: string; at: number | 'end' } | null {
  const lane = laneAt(xy);
  const row = lane && document.querySelector(`[data-lane="${lane}"]`);
  if (!lane || !row) return null;
  const ppf = state.session.pixelsPerFrame;
  const frame = Math.round((xy[0] - row.getBoundingClientRect().left) / ppf);
  return { lane, at: joinsEnd(state.scene.document, lane, frame, ppf) ? 'end' : frame };
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

/** The lane under the pointer. */
function laneAt([x, y]: readonly [number, number]): string | null {
  const element = document.elementsFromPoint(x, y).find((e) => e instanceof HTMLElement && e.dataset.lane);
  return element instanceof HTMLElement ? (element.dataset.lane ?? null) : null;
}

/** Pixels behind the end of a lane within which a dropped clip joins its last segment. */
const JOIN_PIXELS = 40;

/** Whether a drop is near enough behind the last segment of a lane to be joined to it. */
function joinsEnd(scene: Scene | null, lane: string, frame: number, pixelsPerFrame: number): boolean {
  const last = scene?.lanes[lane]?.segments.at(-1);
  const segment = last && scene?.segments[last];
  const clip = segment && library.clip(segment.clip);
  if (!segment || !clip || !scene) return false;
  const end = segment.start + segmentTiming(segment, clip, parseRate(scene.rate)).frames;
  return frame >= segment.start && frame - end < JOIN_PIXELS / pixelsPerFrame;
}
