import type { Edit, LayerLane, LayerValues, SegmentPlan } from '@warper/core';
import { defined, keyFrames } from '@warper/core';
import { commit, preview } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { KeySheet } from './KeySheet';
import type { Shift } from './LaneHandle';
import { LaneHandle } from './LaneHandle';
import {
  KEY_TOP,
  LAYER_TOP,
  SEAM_TOP,
  fadeOf,
  movedPoint,
  movedSpan,
  weightTop,
  withFade,
} from './layerShape';

interface Props {
  /** The layer as a drag in hand shows it. */
  readonly layer: LayerLane;
  readonly segments: readonly SegmentPlan[];
  /** Ids of the segments in hand. */
  readonly selected: readonly string[];
  /** Whether its keys are shown list by list. */
  readonly showsKeys: boolean;
  /** Pixels of a frame. */
  readonly ppf: number;
  /** Frames in sight, and some around. */
  readonly from: number;
  readonly to: number;
}

interface KindProps extends Props {
  /** The layer as it is in the document: drags begin from there. */
  readonly kept: LayerLane;
}

/** What can be taken hold of on the row of a layer: the ends of its span, the points of its weight, its keys, and fades. */
export function LayerHandles(props: Props) {
  const kept = useAppSelector((s) => s.scene.document?.lanes[props.layer.id]);
  if (kept?.kind !== 'layer') return null;
  return (
    <>
      <SpanHandles {...props} kept={kept} />
      <WeightHandles {...props} kept={kept} />
      {props.showsKeys ? <KeySheet {...props} kept={kept} /> : <KeyHandles {...props} kept={kept} />}
      {props.segments.map((segment, i) =>
        props.selected.includes(segment.id) ? <FadeHandles key={segment.id} {...props} index={i} /> : null,
      )}
      {props.segments.map((segment, i) =>
        isSeamInHand(props, i) ? <SeamHandles key={segment.id} {...props} index={i} /> : null,
      )}
    </>
  );
}

/** Handlers of a handle whose moves are an edit. */
function useMoves() {
  const dispatch = useAppDispatch();
  return (edit: (shift: Shift) => Edit) => ({
    onPreview: (shift: Shift | null) => void dispatch(preview(shift && edit(shift))),
    onChange: (shift: Shift) => void dispatch(commit(edit(shift))),
  });
}

const change = ({ id }: LayerLane, values: LayerValues): Edit => ({
  type: 'change layer',
  layer: id,
  values,
});

function SpanHandles({ layer, kept, ppf, from, to }: KindProps) {
  const moves = useMoves();
  const { span } = kept;
  if (!span) return null;
  return (['start', 'end'] as const).map((edge) => {
    const at = (layer.span ?? span)[edge];
    if (at === null || at < from || at > to) return null;
    return (
      <LaneHandle
        key={edge}
        look="edge"
        label={`${edge === 'start' ? 'Start' : 'End'} of the span of ${layer.name}`}
        value={at}
        text={`frame ${at}`}
        left={at * ppf}
        top={KEY_TOP}
        ppf={ppf}
        {...moves(({ frames }) => change(kept, { span: movedSpan(span, edge, frames) }))}
      />
    );
  });
}

/** The inner ends of the fades of a segment in hand. */
function FadeHandles({ segments, index, ppf }: Props & { readonly index: number }) {
  const moves = useMoves();
  const id = defined(segments[index]).id;
  const kept = useAppSelector((s) => s.scene.document?.segments[id]);
  const { name, start, end } = defined(segments[index]);
  if (!kept) return null;
  const shown = fadeOf(segments, index);
  const free = { in: segments[index]?.overlap === 0, out: (segments[index + 1]?.start ?? end) >= end };
  return (['in', 'out'] as const).map((side) => {
    if (!free[side]) return null;
    const at = side === 'in' ? start + shown.in : end - shown.out;
    const by = (frames: number): number => (side === 'in' ? frames : -frames);
    return (
      <LaneHandle
        key={side}
        look="point"
        label={`Fade ${side} of ${name}`}
        value={shown[side]}
        least={0}
        text={`${shown[side]} frames`}
        left={at * ppf}
        top={LAYER_TOP}
        ppf={ppf}
        {...moves(({ frames }) => ({
          type: 'change',
          segment: id,
          values: { fade: withFade(kept.fade, side, kept.fade[side] + by(frames), end - start) },
        }))}
      />
    );
  });
}

/** Whether a segment of a layer goes over into one in hand, or the other way. */
function isSeamInHand({ segments, selected }: Props, index: number): boolean {
  const [before, after] = [segments[index - 1], segments[index]];
  if (!before || !after || before.end < after.start) return false;
  return [before, after].some((s) => selected.includes(s.id));
}

/** Where two segments of a layer meet: the whole seam is moved, and its crossfade made longer or shorter. */
function SeamHandles({ segments, index, ppf }: Props & { readonly index: number }) {
  const moves = useMoves();
  const [before, after] = [defined(segments[index - 1]), defined(segments[index])];
  const { id: segment, start, overlap: shared } = after;
  const names = `${before.name} and ${after.name}`;
  return (
    <>
      <LaneHandle
        look="bar"
        label={`Seam of ${names}`}
        value={start}
        text={`frame ${start}`}
        left={(start + shared / 2) * ppf}
        top={SEAM_TOP}
        ppf={ppf}
        {...moves(({ frames }) => ({ type: 'shift seam', segment, frames }))}
      />
      <LaneHandle
        look="edge"
        label={`Crossfade of ${names}`}
        value={shared}
        least={0}
        text={`${shared} frames`}
        left={(start + shared) * ppf}
        top={KEY_TOP}
        ppf={ppf}
        {...moves(({ frames }) => ({ type: 'overlap', segment, frames: Math.max(0, shared + frames) }))}
      />
    </>
  );
}

function WeightHandles({ layer, kept, ppf, from, to }: KindProps) {
  const dispatch = useAppDispatch();
  const moves = useMoves();
  return layer.weight.map(([frame, weight], i) =>
    frame < from || frame > to ? null : (
      <LaneHandle
        key={i}
        look="point"
        label={`Weight ${i + 1} of ${layer.name}`}
        value={weight * 100}
        least={0}
        most={100}
        text={`${Math.round(weight * 100)} % at frame ${frame}`}
        left={frame * ppf}
        top={weightTop(weight)}
        ppf={ppf}
        {...moves(({ frames, down }) => change(kept, { weight: movedPoint(kept.weight, i, frames, down) }))}
        onRemove={() => dispatch(commit(change(kept, { weight: kept.weight.filter((_, k) => k !== i) })))}
      />
    ),
  );
}

function KeyHandles({ layer, kept, ppf, from, to }: KindProps) {
  const dispatch = useAppDispatch();
  const moves = useMoves();
  const shown = keyFrames(layer);
  return keyFrames(kept).map((frame, i) => {
    // While one is dragged over another there is one less to be shown.
    const at = shown[i] ?? frame;
    if (at < from || at > to) return null;
    const frames = [frame];
    return (
      <LaneHandle
        key={frame}
        look="peg"
        label={`Key at frame ${frame} of ${layer.name}`}
        value={at}
        text={`frame ${at}`}
        left={at * ppf}
        top={KEY_TOP}
        ppf={ppf}
        {...moves((shift) => ({ type: 'move keys', layer: layer.id, frames, by: shift.frames }))}
        onRemove={() => dispatch(commit({ type: 'remove keys', layer: layer.id, frames }))}
        onEnter={() => {
          dispatch(sessionActions.selected({ kind: 'layer', id: layer.id }));
          dispatch(sessionActions.went(frame));
        }}
      />
    );
  });
}
