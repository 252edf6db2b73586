import { useDrag } from '@use-gesture/react';
import type { Clip, Edit, Scene } from '@warper/core';
import { parseRate, segmentTiming } from '@warper/core';
import { useRef, useState } from 'react';
import { useStore } from 'react-redux';
import { library, openSources } from '../../../data/pageLibrary';
import type { StoredClip } from '../../../data/db';
import { commit, preview } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { useAppDispatch } from '../../../store/store';
import { newSegment } from './newSegment';
import { appendClip } from './appendClip';
import { freshLayerIds, layerOfClip, movesPartOnly } from './layerOfClip';

type Point = readonly [number, number];

/** Drags a clip over the lanes, shown where it would go; `held` is where the pointer is meanwhile. */
export function useClipDrag(clip: StoredClip) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const [held, setHeld] = useState<Point | null>(null);
  const dragged = useRef<Dragged>(takenUp(clip));
  const bind = useDrag(
    ({ first, last, tap, xy, canceled }) => {
      if (tap) return;
      if (first) {
        dragged.current = takenUp(clip);
        void openSources([clip.source]);
        dispatch(sessionActions.carried(true));
      }
      const isOver = last || canceled;
      setHeld(isOver ? null : xy);
      // Looked up before the places for new layers go.
      const target = canceled ? null : placeAt(xy, store.getState(), dragged.current.ids.layer);
      if (isOver) dispatch(sessionActions.carried(false));
      if (!target) {
        dispatch(preview(null));
        if (last && !canceled && isOnEmptyTimeline(xy, store.getState())) dispatch(appendClip(clip));
        return;
      }
      const asked = (): Edit => placed(store.getState(), target, dragged.current, clip);
      if (last) {
        void openSources([clip.source]).then(() => {
          const { segment, ids } = dragged.current;
          const change = asked();
          const id = change.type === 'place' ? segment.id : ids.segment;
          if (dispatch(commit(change))) dispatch(sessionActions.selected({ kind: 'segment', id }));
        });
      } else dispatch(preview(asked()));
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  return { held, bind };
}

const takenUp = (clip: StoredClip): Dragged => ({
  segment: newSegment(clip),
  ids: freshLayerIds(),
});

/** Where a clip is held: on a lane, or where a layer over a character would be made. */
type Target =
  | { readonly lane: string; readonly frame: number; readonly at: number | 'end' }
  | { readonly layerOver: string; readonly frame: number };

/** A clip in the hand: the segment that it becomes, and the layer, if it becomes one. */
interface Dragged {
  readonly segment: ReturnType<typeof newSegment>;
  readonly ids: ReturnType<typeof freshLayerIds>;
}

/** What letting go would do. A clip of a part of the body goes over a body lane as a layer, not onto it. */
function placed({ scene }: RootState, target: Target, dragged: Dragged, { id }: StoredClip): Edit {
  const { segment, ids } = dragged;
  const motion = library.clip(id);
  const document = scene.document;
  const over = document && motion ? characterBelow(document, target, motion) : null;
  if (document && motion && over !== null)
    return layerOfClip(document, over, motion, segment, target.frame, ids);
  // Until it is there, it is shown on the lane.
  const lane = 'lane' in target ? target.lane : (document?.laneOrder[0] ?? '');
  return { type: 'place', segment, lane, at: 'lane' in target ? target.at : target.frame };
}

/** The character over whom a clip becomes a new layer; null where it goes onto the lane. */
function characterBelow(scene: Scene, target: Target, motion: Clip): string | null {
  if ('layerOver' in target) return target.layerOver;
  const lane = scene.lanes[target.lane];
  return lane?.kind === 'body' && movesPartOnly(motion) ? lane.character : null;
}

function endOf(scene: Scene, id: string): number | undefined {
  const segment = scene.segments[id];
  const clip = segment && library.clip(segment.clip);
  return segment && clip && segment.start + segmentTiming(segment, clip, parseRate(scene.rate)).frames;
}

/** Whether a clip is dropped on the timeline of a scene that has no lanes yet. */
const isOnEmptyTimeline = ([x, y]: Point, { scene }: RootState): boolean =>
  scene.document?.laneOrder.length === 0 &&
  document.elementsFromPoint(x, y).some((e) => e.closest('[data-timeline]') !== null);

/**
 * What is under the pointer, and the frame there; null beside all lanes.
 *
 * @param shown the layer that is only shown yet: the lanes below it have moved down by its height, and are looked for where they stood
 */
function placeAt(xy: Point, state: RootState, shown: string): Target | null {
  const ppf = state.session.pixelsPerFrame;
  const over = elementAt(xy, 'newLayer');
  if (over) return { layerOver: over.value, frame: frameAt(over.element, xy, ppf) };
  const box = document.querySelector(`[data-lane="${shown}"]`)?.getBoundingClientRect();
  const lane = elementAt(box && xy[1] >= box.top ? [xy[0], xy[1] + box.height] : xy, 'lane');
  if (!lane) return null;
  const frame = frameAt(lane.element, xy, ppf);
  const at = joinsEnd(state.scene.document, lane.value, frame, ppf) ? 'end' : frame;
  return { lane: lane.value, frame, at };
}

const frameAt = (element: HTMLElement, [x]: Point, ppf: number): number =>
  Math.max(0, Math.round((x - element.getBoundingClientRect().left) / ppf));

/** The topmost element under the pointer that has a value of this name. */
function elementAt([x, y]: Point, name: string): { element: HTMLElement; value: string } | null {
  for (const element of document.elementsFromPoint(x, y)) {
    const value = element instanceof HTMLElement ? element.dataset[name] : undefined;
    if (value !== undefined) return { element: element as HTMLElement, value };
  }
  return null;
}

/** Pixels behind the end of a lane within which a dropped clip joins its last segment. */
const JOIN_PIXELS = 40;

/** Whether a drop is near enough behind the last segment of a lane to be joined to it. */
function joinsEnd(scene: Scene | null, lane: string, frame: number, pixelsPerFrame: number): boolean {
  const last = scene?.lanes[lane]?.segments.at(-1);
  const segment = last === undefined ? undefined : scene?.segments[last];
  const end = scene && last !== undefined ? endOf(scene, last) : undefined;
  if (!segment || end === undefined) return false;
  return frame >= segment.start && frame - end < JOIN_PIXELS / pixelsPerFrame;
}
