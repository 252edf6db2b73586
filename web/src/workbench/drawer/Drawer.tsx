import { useDrag } from '@use-gesture/react';
import type { Scene } from '@warper/core';
import { bodyLane, parseRate, segmentTiming } from '@warper/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Plus } from 'lucide-react';
import { useRef, useState } from 'react';
import { Button } from '../../parts/controls';
import { describeFacts } from '../../parts/describeFacts';
import { StripDrawing } from '../../parts/Figures';
import { ImportButton } from '../../parts/ImportButton';
import { seconds } from '../../parts/time';
import { library, openSources } from '../../motion/pageLibrary';
import type { StoredClip } from '../../storage/db';
import { usePreview } from '../../storage/previews';
import { useClips } from '../../library/useClips';
import { commit, preview } from '../../store/edits';
import { sessionActions } from '../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../store/store';
import { laneAt } from '../timeline/SegmentBlock';
import { AddCharacter } from './AddCharacter';
import { newSegment } from './newSegment';

/** Height of a clip in the list, pixels. */
const ITEM_HEIGHT = 97;

/** The clips of the library, to be searched and dragged onto a lane. */
export function Drawer({ onImport }: { onImport: (files: readonly File[]) => void }) {
  const [query, setQuery] = useState('');
  const clips = useClips({ words: query, filters: [], tags: [], collection: null });
  const shown = clips?.found ?? [];
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ITEM_HEIGHT,
    overscan: 4,
  });
  return (
    <aside aria-label="Library" className="flex h-full min-h-0 flex-col border-r">
      <div className="flex flex-col gap-2 px-3.5 pt-2.5 pb-2">
        <input
          type="search"
          aria-label="Search clips"
          placeholder="Search clips"
          className="w-full border-b border-ink bg-transparent py-1 placeholder:text-soft"
          value={query}
          onChange={(e) => setQuery(e.currentTarget.value)}
        />
        <div className="flex gap-1.5 text-[12.5px]">
          <AddCharacter>
            <Button className="px-2!">
              <Plus size={14} aria-hidden /> Character
            </Button>
          </AddCharacter>
          <ImportButton label="Import" fieldLabel="Files to import" className="px-2!" onFiles={onImport} />
        </div>
      </div>
      <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto px-3.5">
        <ul aria-label="Clips" className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((row) => (
            <li
              key={shown[row.index]!.id}
              aria-setsize={shown.length}
              aria-posinset={row.index + 1}
              className="absolute inset-x-0 border-b"
              style={{ top: row.start, height: ITEM_HEIGHT }}
            >
              <ClipItem clip={shown[row.index]!} />
            </li>
          ))}
        </ul>
        {clips && shown.length === 0 && (
          <p className="py-4 text-soft">
            {clips.all.length > 0
              ? 'No clip has all these words.'
              : 'No clips yet: drop BVH, glTF or GLB files here.'}
          </p>
        )}
      </div>
    </aside>
  );
}

function ClipItem({ clip }: { clip: StoredClip }) {
  const dispatch = useAppDispatch();
  const lane = useAppSelector((s) => targetLane(s.scene.document, s.session.selection));
  const ppf = useAppSelector((s) => s.session.pixelsPerFrame);
  const scene = useAppSelector((s) => s.scene.document);
  const [held, setHeld] = useState<readonly [number, number] | null>(null);
  const segment = useRef(newSegment(clip));
  const figures = usePreview(clip.id);

  const bind = useDrag(
    ({ first, last, tap, xy, canceled }) => {
      if (tap) return;
      if (first) {
        segment.current = newSegment(clip);
        void openSources([clip.source]);
      }
      setHeld(last || canceled ? null : xy);
      const over = laneAt(xy);
      const row = over && document.querySelector(`[data-lane="${over}"]`);
      if (!over || !row || canceled) return void dispatch(preview(null));
      const pointed = Math.round((xy[0] - row.getBoundingClientRect().left) / ppf);
      const at = joinsEnd(scene, over, pointed, ppf) ? 'end' : pointed;
      const change = { type: 'place', lane: over, segment: segment.current, at } as const;
      if (last) {
        void openSources([clip.source]).then(() => {
          if (dispatch(commit(change)))
            dispatch(sessionActions.selected({ kind: 'segment', id: change.segment.id }));
        });
      } else dispatch(preview(change));
    },
    { filterTaps: true, pointer: { keys: false } },
  );

  const append = (): void => {
    if (!lane) return void dispatch(sessionActions.announced('Add a character first'));
    const added = newSegment(clip);
    void openSources([clip.source]).then(() => {
      if (!dispatch(commit({ type: 'place', lane, segment: added, at: 'end' }))) return;
      dispatch(sessionActions.selected({ kind: 'segment', id: added.id }));
      dispatch(sessionActions.announced(`${clip.name} added at the end`));
    });
  };

  return (
    <>
      <div
        role="button"
        tabIndex={0}
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
        <div className="flex items-baseline justify-between gap-2">
          <span className="truncate font-semibold">{clip.name}</span>
          <span className="shrink-0 text-soft">
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
        <div className="text-[12.5px] text-soft">{describeFacts(clip.facts)}</div>
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

/** Where Enter puts a clip: the lane of what is selected, else the first one. */
function targetLane(scene: Scene | null, selection: { kind: string; id?: string }): string | null {
  if (!scene) return null;
  const lanes = Object.values(scene.lanes);
  if (selection.kind === 'character' && selection.id) return bodyLane(scene, selection.id)?.id ?? null;
  const own = lanes.find((l) => selection.id !== undefined && l.segments.includes(selection.id));
  return own?.id ?? scene.laneOrder[0] ?? null;
}
