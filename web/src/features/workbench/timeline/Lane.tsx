import { defined } from '@warper/core';
import type { FocusEvent, KeyboardEvent, MouseEvent, RefObject } from 'react';
import { memo, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';
import type { LaneLook } from './drawing/drawLane';
import { drawLane } from './drawing/drawLane';
import { wereOwed } from './drawing/laneFacts';
import { cleared, forgetCanvas, paintSoon } from './drawing/painter';
import { paletteNow } from './drawing/palette';
import { makePen } from './drawing/pen';
import { FootfallHandles } from './FootfallHandles';
import { LayerHandles } from './LayerHandles';
import { hasSeams } from './laneShape';
import { seamKey } from './seamKeys';
import { segmentKey } from './segmentKeys';
import type { Reach } from './HitLayer';
import { TOUCH_SCALE, HitLayer } from './HitLayer';

interface Props extends Reach {
  /** Pixels of a frame now. */
  readonly ppf: number;
  /** Pixels of the content between which it is drawn; nothing is where they are the same. */
  readonly left: number;
  readonly right: number;
  /** Whether a pointer is being pressed on the lanes. */
  readonly pressing: RefObject<boolean>;
}

/** The segments and seams of one lane: drawn on a canvas as far as they are in sight, with what can be reached over it. */
export const Lane = memo(function Lane(props: Props) {
  const { row, rate, ppf, from, to, scale, selected, seam, silent, pressing } = props;
  const { lane, plan } = row;
  const { name } = plan.character;
  const dispatch = useAppDispatch();
  const [focus, setFocus] = useState<LaneLook['focus']>(null);
  const { canvas, known } = useLanePicture(props, focus);
  const onFocus = ({ target }: FocusEvent<HTMLElement>): void => {
    const touched = touchedBy(target);
    setFocus(target.matches(':focus-visible') ? touched : null);
    // A press decides for itself what is chosen: it may be one of several.
    if (pressing.current) return;
    if (touched?.kind === 'segment' && !selected.includes(touched.id))
      dispatch(sessionActions.selected({ kind: 'segment', id: touched.id }));
  };
  // A press comes by its place; what is set off without one, as screen readers do, comes by its element.
  const onClick = (event: MouseEvent<HTMLElement>): void => {
    const touched = event.detail === 0 ? touchedBy(event.target) : null;
    if (touched) dispatch(sessionActions.selected(touched));
  };
  const onKeyDown = (event: KeyboardEvent<HTMLElement>): void => {
    const touched = touchedBy(event.target);
    const index = row.segments.findIndex((s) => s.id === touched?.id);
    const segment = row.segments[index];
    if (!segment) return;
    if (touched?.kind === 'segment') dispatch(segmentKey(event, segment, lane.id));
    else dispatch(seamKey(event, segment));
  };
  return (
    <div
      data-lane={lane.id}
      role="group"
      aria-label={lane.kind === 'body' ? `Lane of ${name}` : `Layer ${lane.name} of ${name}`}
      className={`absolute inset-x-0 border-b ${lane.muted ? 'opacity-50' : ''}`}
      style={{ top: row.top, height: row.height }}
      onFocus={onFocus}
      onBlur={() => setFocus(null)}
      onClick={onClick}
      onKeyDown={onKeyDown}
    >
      <canvas ref={canvas} className="pointer-events-none absolute top-0" aria-hidden />
      <div
        className="absolute inset-y-0 left-0 w-0 origin-top-left"
        style={{ transform: `scaleX(${ppf / TOUCH_SCALE})` }}
      >
        <HitLayer
          row={row}
          rate={rate}
          from={from}
          to={to}
          scale={scale}
          selected={selected}
          seam={seam}
          silent={silent}
          known={known}
        />
      </div>
      <Handles {...props} />
    </div>
  );
});

/** What of a lane is moved by handles of its own: keys and weights of a layer, footfalls of the step in hand. */
function Handles({ row, rate, ppf, from, to, seam, selected }: Props) {
  const { lane } = row;
  if (lane.kind === 'layer')
    return lane.locked ? null : (
      <LayerHandles
        layer={lane}
        segments={row.segments}
        showsKeys={row.showsKeys}
        {...{ selected, ppf, from, to }}
      />
    );
  const step = hasSeams(row) ? row.segments.find((s) => s.id === seam && s.madeStep) : undefined;
  return step ? <FootfallHandles segment={step} rate={rate} ppf={ppf} /> : null;
}

/** Draws a lane on a canvas as far as it is in sight; counts how often what was not known yet became known. */
function useLanePicture(props: Props, focus: LaneLook['focus']) {
  const { row, rate, ppf, left, right, selected, seam, silent } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const [updates, setUpdates] = useState(0);
  const drawn = useRef<readonly unknown[]>([]);
  useLayoutEffect(() => {
    const element = defined(canvas.current);
    const look = { rate, silent, seam, focus, selected: new Set(selected) };
    const draw = (): boolean => {
      const width = right - left;
      const whole =
        width <= 0 ||
        drawLane(
          makePen(cleared(element, left, width, row.height), paletteNow(), ppf, left, width),
          row,
          look,
        );
      const owed = whole && wereOwed(row.plan);
      if (owed) setUpdates((n) => n + 1);
      return whole && !owed;
    };
    const shows = [row, rate, ppf, selected, seam, silent, focus];
    const scrolled = shows.every((v, i) => v === drawn.current[i]);
    drawn.current = shows;
    paintSoon(element, draw, scrolled);
  }, [row, rate, ppf, left, right, selected, seam, silent, focus]);
  useEffect(() => {
    const element = defined(canvas.current);
    return () => forgetCanvas(element);
  }, []);
  return { canvas, known: updates };
}

/** What an element of the hit layer stands for. */
function touchedBy(target: EventTarget): LaneLook['focus'] {
  if (!(target instanceof HTMLElement)) return null;
  const { segment, seam } = target.dataset;
  return segment ? { kind: 'segment', id: segment } : seam ? { kind: 'seam', id: seam } : null;
}
