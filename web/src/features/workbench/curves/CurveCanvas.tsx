import { defined } from '@warper/core';
import { memo, useEffect, useLayoutEffect, useMemo, useRef } from 'react';
import { cleared, forgetCanvas, paintSoon } from '../timeline/drawing/painter';
import { paletteNow } from '../timeline/drawing/palette';
import type { Pen } from '../timeline/drawing/pen';
import { makePen } from '../timeline/drawing/pen';
import type { Sight } from '../timeline/useViewport';
import type { ChosenOnTracks, Track } from './curveSource';
import type { HandlePoint } from './drawing/drawCurves';
import { drawCurve, drawHandles, drawKeys, drawValues, isInHand } from './drawing/drawCurves';
import type { Envelope } from './drawing/envelope';
import { makeEnvelope } from './drawing/envelope';
import type { Scale } from './scale';

/** Milliseconds of one picture after which the curves behind go on with the next. */
const PATIENCE = 4;

interface Props {
  /** Curves that are looked at, and those in hand among them. */
  readonly tracks: readonly Track[];
  readonly chosen: ChosenOnTracks;
  readonly handles: readonly HandlePoint[];
  readonly scale: Scale;
  readonly sight: Sight;
}

/** Keeps the envelope of every curve while the curve is the same. */
function useEnvelopes(): (track: Track) => Envelope {
  const cache = useRef(new WeakMap<Track['curve'], Envelope>());
  return useMemo(
    () => (track) => {
      const known = cache.current.get(track.curve) ?? makeEnvelope(track.curve.values);
      cache.current.set(track.curve, known);
      return known;
    },
    [],
  );
}

interface CanvasProps extends Pick<Props, 'scale' | 'sight'> {
  readonly tracks: readonly Track[];
  readonly envelopeOf: (track: Track) => Envelope;
}

/** The curves: those in hand with their keys over the others, each lot on a canvas of its own, so that a drag draws few. */
export function CurveCanvas({ tracks, chosen, handles, scale, sight }: Props) {
  const envelopeOf = useEnvelopes();
  const few = tracks.length <= 9;
  const back = useSame(tracks.filter(({ id }) => !few && !isInHand(chosen, id)));
  const front = tracks.filter(({ id }) => few || isInHand(chosen, id));
  return (
    <>
      <Behind tracks={back} {...{ scale, sight, envelopeOf }} />
      <InHand tracks={front} {...{ scale, sight, envelopeOf, chosen, handles }} />
    </>
  );
}

const LOOK = 'pointer-events-none absolute top-0';

/** Curves that are looked at only, over lines of round values; many of them are drawn over several pictures. */
const Behind = memo(function Behind({ tracks, scale, sight: { ppf, left, right }, envelopeOf }: CanvasProps) {
  const canvas = useCanvas();
  useLayoutEffect(() => {
    const element = defined(canvas.current);
    let pen: Pen | null = null;
    let next = 0;
    const draw = (): boolean => {
      const began = performance.now();
      if (!pen) {
        next = 0;
        const ctx = cleared(element, left, right - left, scale.height);
        pen = makePen(ctx, paletteNow(), ppf, left, right - left);
        drawValues(pen, scale);
      }
      for (; next < tracks.length; next++) {
        if (performance.now() - began > PATIENCE) return false;
        const track = defined(tracks[next]);
        pen.ctx.globalAlpha = 0.6;
        drawCurve(pen, track, envelopeOf(track), scale, false);
        pen.ctx.globalAlpha = 1;
      }
      pen = null;
      return true;
    };
    paintSoon(element, draw, false);
  }, [canvas, tracks, scale, ppf, left, right, envelopeOf]);
  return <canvas ref={canvas} className={LOOK} aria-hidden />;
});

/** Curves with their keys, and the handles of those in hand. */
function InHand({
  tracks,
  scale,
  sight: { ppf, left, right },
  envelopeOf,
  chosen,
  handles,
}: CanvasProps & Pick<Props, 'chosen' | 'handles'>) {
  const canvas = useCanvas();
  useLayoutEffect(() => {
    const element = defined(canvas.current);
    const draw = (): boolean => {
      const ctx = cleared(element, left, right - left, scale.height);
      const pen = makePen(ctx, paletteNow(), ppf, left, right - left);
      for (const track of tracks) {
        drawCurve(pen, track, envelopeOf(track), scale, isInHand(chosen, track.id));
        drawKeys(pen, track, scale, chosen.get(track.id));
      }
      drawHandles(pen, handles, left);
      return true;
    };
    paintSoon(element, draw, false);
  });
  return <canvas ref={canvas} className={LOOK} aria-hidden />;
}

/** A canvas that the painter lets go of with its component. */
function useCanvas() {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = defined(canvas.current);
    return () => forgetCanvas(element);
  }, []);
  return canvas;
}

/** A list of tracks that stays the very one while it looks the same: a track is made anew with every edit, its curve is not. */
function useSame(list: readonly Track[]): readonly Track[] {
  const kept = useRef(list);
  const isSame =
    kept.current.length === list.length && list.every((v, i) => looksSame(v, defined(kept.current[i])));
  useLayoutEffect(() => {
    if (!isSame) kept.current = list;
  });
  return isSame ? kept.current : list;
}

const looksSame = (a: Track, b: Track): boolean =>
  a === b || (a.curve === b.curve && a.id === b.id && a.hue === b.hue && a.dash === b.dash);
