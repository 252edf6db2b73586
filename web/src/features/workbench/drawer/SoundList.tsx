import { useDrag } from '@use-gesture/react';
import { useLiveQuery } from 'dexie-react-hooks';
import { Play, Square } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useStore } from 'react-redux';
import type { StoredAsset, StoredSound } from '../../../data/db';
import { db } from '../../../data/db';
import { describeError } from '../../../data/importFiles';
import { studiedSound } from '../../../data/sounds';
import { commit } from '../../../store/edits';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { useAppDispatch } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { seconds } from '../../../ui/time';
import { HeldName } from './HeldName';
import { listenTo } from '../sound/listenTo';
import { addSoundEdit } from '../sound/soundEdits';
import { useStudiedSound } from '../sound/useStudiedSound';
import { timelineElement } from '../timeline/useTimelineDrag';
import { HEADER_WIDTH } from '../timeline/geometry';

/** The sounds of the library, to be listened to, and dragged onto the timeline or put at the playhead. */
export function SoundList({ query }: { readonly query: string }) {
  const assets = useLiveQuery(() => db.assets.filter((a) => a.type.startsWith('audio/')).toArray(), []) ?? [];
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  const listed = assets
    .filter(({ file }) => words.every((w) => file.toLowerCase().includes(w)))
    .sort((a, b) => a.file.localeCompare(b.file));
  if (listed.length === 0)
    return (
      <p className="px-3.5 py-4 text-soft">
        {assets.length === 0
          ? 'No sounds yet: drop WAV, MP3, Ogg or FLAC files here.'
          : 'No sound has all these words.'}
      </p>
    );
  return (
    <ul aria-label="Sounds" className="h-full overflow-y-auto px-3.5">
      {listed.map((asset) => (
        <li key={asset.id} className="flex items-center gap-1 border-b">
          <SoundItem asset={asset} />
        </li>
      ))}
    </ul>
  );
}

/** What a sound is called: its file without the ending. */
const nameOf = ({ file }: StoredAsset): string => file.replace(/\.[^.]+$/, '') || file;

/** Puts a sound of the library onto a lane at a frame. */
function useAddSound(asset: StoredAsset): (frame: number) => void {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  return (frame) => {
    studiedSound(asset.id)
      .then(({ seconds: length }) => {
        const state = store.getState();
        const scene = state.scene.document;
        if (!scene) return;
        const { plan } = selectPreviewPlan(state);
        const { selection } = state.session;
        const lane = selection.kind === 'sound lane' ? selection.id : undefined;
        const added = addSoundEdit(
          scene,
          plan,
          { id: asset.id, name: nameOf(asset), seconds: length },
          frame,
          lane,
        );
        if (!dispatch(commit(added.edit))) return;
        dispatch(sessionActions.selected({ kind: 'sound', id: added.sound.id }));
        dispatch(sessionActions.announced(`${added.sound.name} added at frame ${added.sound.start}`));
      })
      .catch((error: unknown) => dispatch(sessionActions.refused(describeError(error))));
  };
}

function SoundItem({ asset }: { readonly asset: StoredAsset }) {
  const store = useStore<RootState>();
  const study = useStudiedSound(asset.id);
  const [held, setHeld] = useState<readonly [number, number] | null>(null);
  const name = nameOf(asset);
  const add = useAddSound(asset);
  const bind = useDrag(
    ({ last, tap, xy, canceled }) => {
      if (tap) return;
      setHeld(last || canceled ? null : xy);
      const frame = last && !canceled ? frameUnder(xy, store.getState().session.pixelsPerFrame) : null;
      if (frame !== null) add(frame);
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  const addAtPlayhead = (): void => add(store.getState().session.frame);
  return (
    <>
      <ListenButton asset={asset} name={name} />
      <div
        role="button"
        tabIndex={0}
        data-library-sound={asset.file}
        title="Drag it onto the timeline, or press Enter to put it at the playhead"
        className="min-w-0 flex-1 cursor-grab touch-none py-1.5 select-none"
        onDoubleClick={addAtPlayhead}
        onKeyDown={(e) => {
          if (e.key !== 'Enter') return;
          e.preventDefault();
          addAtPlayhead();
        }}
        {...bind()}
      >
        <span className="flex items-baseline justify-between gap-2">
          <span className="truncate font-semibold">{name}</span>
          <span className="shrink-0 text-note text-soft">{study ? seconds(study.seconds) : '…'}</span>
        </span>
        {study && <SmallWave study={study} />}
      </div>
      {held && <HeldName name={name} at={held} />}
    </>
  );
}

/** The frame under the pointer on the timeline; null elsewhere. */
function frameUnder([x, y]: readonly [number, number], ppf: number): number | null {
  const scroller = timelineElement();
  if (!scroller) return null;
  const box = scroller.getBoundingClientRect();
  const inside = x >= box.left + HEADER_WIDTH && x < box.right && y >= box.top && y < box.bottom;
  return inside ? Math.max(0, (x - box.left - HEADER_WIDTH + scroller.scrollLeft) / ppf) : null;
}

function ListenButton({ asset, name }: { readonly asset: StoredAsset; readonly name: string }) {
  const dispatch = useAppDispatch();
  const [on, setOn] = useState(false);
  const end = useRef<() => void>(() => undefined);
  useEffect(() => () => end.current(), []);
  const listen = (): void => {
    if (on) return end.current();
    setOn(true);
    end.current = listenTo(asset.id, (error) => {
      setOn(false);
      if (error !== null) dispatch(sessionActions.refused(describeError(error)));
    });
  };
  const Sign = on ? Square : Play;
  return (
    <Button
      look="soft"
      className="p-1"
      aria-label={on ? `Stop ${name}` : `Listen to ${name}`}
      onClick={listen}
    >
      <Sign size={13} aria-hidden />
    </Button>
  );
}

/** Columns of a small waveform, and its height. */
const COLUMNS = 120;
const HEIGHT = 22;

function SmallWave({ study: { waveform } }: { readonly study: StoredSound }) {
  const count = waveform.length / 2;
  const path = Array.from({ length: COLUMNS }, (_, i) => {
    const [from, to] = [Math.floor((i * count) / COLUMNS), Math.ceil(((i + 1) * count) / COLUMNS)];
    let high = 0;
    for (let k = from; k < to; k++) high = Math.max(high, waveform[k * 2 + 1] ?? 0, -(waveform[k * 2] ?? 0));
    const up = Math.max(0.5, (high / 127) * (HEIGHT / 2));
    return `M${i} ${(HEIGHT / 2 - up).toFixed(1)}v${(2 * up).toFixed(1)}`;
  }).join('');
  return (
    <svg
      width="100%"
      height={HEIGHT}
      viewBox={`0 0 ${COLUMNS} ${HEIGHT}`}
      preserveAspectRatio="none"
      aria-hidden
    >
      <path d={path} stroke="var(--soft)" strokeWidth={0.7} fill="none" />
    </svg>
  );
}
