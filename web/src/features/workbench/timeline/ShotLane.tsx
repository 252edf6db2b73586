import type { Camera, Edit, LineCrossing, Scene, Shot } from '@warper/core';
import { cameraKeyFrames, shotsInOrder } from '@warper/core';
import { memo } from 'react';
import { useStore } from 'react-redux';
import { commit, preview } from '../../../store/edits';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { useLineCrossings } from '../filming/useLineCrossings';
import { BlockEnds } from './BlockEnds';
import { SHOT_KEYS, SHOT_ROW } from './geometry';
import { LaneHandle } from './LaneHandle';
import { useBlockHands } from './useBlockHands';

interface Props {
  readonly scene: Scene;
  readonly top: number;
  /** Pixels of a frame. */
  readonly ppf: number;
}

/** The camera lane: shots as framed blocks of paper, and below them the keys of the camera in hand. */
export const ShotLane = memo(function ShotLane({ scene, top, ppf }: Props) {
  const shots = shotsInOrder(scene.shots);
  const crossings = useLineCrossings();
  return (
    <div role="group" aria-label="Shots">
      {shots.map((shot) => (
        <ShotBlock
          key={shot.id}
          shot={shot}
          camera={scene.cameras[shot.camera]}
          crossing={crossings.find((c) => c.shot === shot.id)}
          scene={scene}
          {...{ top, ppf }}
        />
      ))}
      <CameraKeys scene={scene} top={top + SHOT_ROW - SHOT_KEYS} ppf={ppf} />
    </div>
  );
});

/** Words for a cut across the line between two. */
export const crossingWords = ({ between }: LineCrossing, { characters }: Scene): string =>
  `crosses the line between ${between.map((id) => characters[id]?.name ?? '').join(' and ')}`;

interface BlockProps {
  readonly shot: Shot;
  readonly camera: Camera | undefined;
  readonly crossing: LineCrossing | undefined;
  readonly scene: Scene;
  readonly top: number;
  readonly ppf: number;
}

function ShotBlock({ shot, camera, crossing, scene, top, ppf }: BlockProps) {
  const { id, name, start, end, blend } = shot;
  const selected = useAppSelector(
    ({ session: { selection } }) => selection.kind === 'shot' && selection.id === id,
  );
  const hands = useShotHands(shot);
  const words = crossing ? `, ${crossingWords(crossing, scene)}` : '';
  const height = SHOT_ROW - SHOT_KEYS - 4;
  return (
    <>
      <Button
        look="bare"
        data-shot={id}
        aria-label={`${name}, ${camera?.name ?? ''}, frames ${start} to ${end}${blend > 0 ? `, blend of ${blend}` : ''}${words}`}
        aria-pressed={selected}
        title={crossing ? `The cut ${crossingWords(crossing, scene)}` : undefined}
        className={`absolute z-10 cursor-grab touch-none overflow-hidden border-2 bg-raised text-left text-tick ${selected ? 'border-ink' : 'border-soft'}`}
        style={{ left: start * ppf, width: Math.max(3, (end - start) * ppf), top: top + 2, height }}
        {...hands}
      >
        {blend > 0 && <Blend width={blend * ppf} height={height} />}
        <span
          className="sticky left-1 inline-block max-w-full truncate px-1.5 leading-tight"
          style={{ marginLeft: Math.min(blend, (end - start) / 2) * ppf }}
        >
          <span className="font-semibold">{name}</span>
          {crossing && <span className="text-watch"> ▲ line</span>}
          <br />
          <span className="text-soft">{camera?.name}</span>
        </span>
      </Button>
      {selected && <Ends shot={shot} top={top + 2 + height / 2} ppf={ppf} />}
    </>
  );
}

/** A blend is a slope across the block. */
const Blend = ({ width, height }: { readonly width: number; readonly height: number }) => (
  <svg className="absolute inset-y-0 left-0" width={width} height={height} aria-hidden>
    <path d={`M0 ${height} L${width} 0 L0 0 Z`} fill="var(--rule)" />
    <path d={`M0 ${height} L${width} 0`} stroke="var(--soft)" fill="none" />
  </svg>
);

/** The ends of the shot in hand; those that join it go along. */
function Ends({ shot, top, ppf }: { readonly shot: Shot; readonly top: number; readonly ppf: number }) {
  const kept = useAppSelector((s) => s.scene.document?.shots[shot.id]);
  if (!kept) return null;
  return (
    <BlockEnds
      {...{ kept, top, ppf }}
      id={shot.id}
      name={shot.name}
      shown={shot}
      trim={(edge, frame) => ({ type: 'change shot', shot: shot.id, values: { [edge]: frame } })}
    />
  );
}

const moved = ({ id, start, end }: Shot, frames: number): Edit => ({
  type: 'change shot',
  shot: id,
  values: { start: start + frames, end: end + frames },
});

/** A shot in hand changes places with Alt and the arrows. */
function useShotHands(shot: Shot) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  return useBlockHands({
    ...shot,
    select: () => void dispatch(sessionActions.selected({ kind: 'shot', id: shot.id })),
    moved: (frames) => moved(shot, frames),
    remove: () => {
      dispatch(commit({ type: 'remove shot', shot: shot.id }));
      dispatch(sessionActions.selected({ kind: 'camera', id: shot.camera }));
    },
    order: (by) => {
      const { filming } = selectPreviewPlan(store.getState()).plan;
      const at = filming.shots.findIndex((s) => s.id === shot.id);
      dispatch(commit({ type: 'order shot', shot: shot.id, to: at + by }));
    },
  });
}

/** The keys of the camera in hand as upright pins. */
function CameraKeys({ scene, top, ppf }: Pick<Props, 'scene' | 'top' | 'ppf'>) {
  const dispatch = useAppDispatch();
  const selection = useAppSelector((s) => s.session.selection);
  const id =
    selection.kind === 'camera'
      ? selection.id
      : selection.kind === 'shot'
        ? scene.shots[selection.id]?.camera
        : undefined;
  const camera = id === undefined ? undefined : scene.cameras[id];
  const kept = useAppSelector((s) => (id === undefined ? undefined : s.scene.document?.cameras[id]));
  if (!camera || !kept) return null;
  // A key keeps its place in the list while it is dragged.
  const before = cameraKeyFrames(kept);
  return cameraKeyFrames(camera).map((frame, i) => {
    const from = before[i] ?? frame;
    const edit = (frames: number): Edit => ({
      type: 'move camera keys',
      camera: camera.id,
      from,
      to: from + frames,
    });
    return (
      <LaneHandle
        key={i}
        look="bar"
        label={`Key of ${camera.name} at frame ${frame}`}
        value={frame}
        text={`frame ${frame}`}
        left={frame * ppf}
        top={top + SHOT_KEYS / 2}
        ppf={ppf}
        onPreview={(by) => void dispatch(preview(by && edit(by.frames)))}
        onChange={({ frames }) => void dispatch(commit(edit(frames)))}
        onEnter={() => void dispatch(sessionActions.went(frame))}
        onRemove={() => void dispatch(commit(removalOfKey(camera, frame)))}
      />
    );
  });
}

/** The edit that takes away all keys that a camera has at a frame. */
export const removalOfKey = ({ id, keys }: Camera, frame: number): Edit => ({
  type: 'camera key',
  camera: id,
  frame,
  values: Object.fromEntries(Object.keys(keys).map((curve) => [curve, null])),
  curve: 'smooth',
});
