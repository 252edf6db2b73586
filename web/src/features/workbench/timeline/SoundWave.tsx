import type { Sound } from '@warper/core';
import { soundEnd } from '@warper/core';
import { WAVEFORM_RATE } from '@warper/formats/sound';
import { useEffect, useRef } from 'react';
import { useAppSelector } from '../../../store/store';
import { useStudiedSound } from '../sound/useStudiedSound';
import type { Sight } from './useViewport';

interface Props {
  readonly sound: Sound;
  readonly fps: number;
  readonly sight: Sight;
  readonly height: number;
}

/** The waveform of a sound on its lane: what of it is in sight, as loud as it is heard there, fades and repeats with it. */
export function SoundWave({ sound, fps, sight, height }: Props) {
  const { ppf, left, right } = sight;
  const canvas = useRef<HTMLCanvasElement>(null);
  const study = useStudiedSound(sound.source);
  const theme = useAppSelector((s) => s.session.theme);
  const begin = sound.start * ppf;
  const from = Math.max(0, Math.floor(left - begin));
  const to = Math.min(Math.ceil((soundEnd(sound, fps) - sound.start) * ppf), Math.ceil(right - begin));
  const width = Math.max(0, to - from);
  const waveform = study?.waveform;
  useEffect(() => {
    const element = canvas.current;
    const ctx = element?.getContext('2d');
    if (!element || !ctx || !waveform || width === 0) return;
    const scale = devicePixelRatio;
    element.width = width * scale;
    element.height = height * scale;
    ctx.scale(scale, scale);
    ctx.fillStyle = getComputedStyle(element).color;
    drawWave(ctx, waveform, sound, { from, width, height, secondsOfPixel: 1 / (fps * ppf) });
  }, [waveform, sound, fps, ppf, from, width, height, theme]);
  if (width === 0) return null;
  return (
    <canvas
      ref={canvas}
      aria-hidden
      className="pointer-events-none absolute top-0 text-soft opacity-60"
      style={{ left: from, width, height }}
    />
  );
}

interface Drawing {
  /** Pixels from the start of the sound to the first that is drawn. */
  readonly from: number;
  readonly width: number;
  readonly height: number;
  readonly secondsOfPixel: number;
}

function drawWave(
  ctx: CanvasRenderingContext2D,
  waveform: Int8Array,
  sound: Sound,
  { from, width, height, secondsOfPixel }: Drawing,
): void {
  const each = sound.out - sound.in;
  const length = each * sound.repeat;
  const loudness = Math.min(1.5, 10 ** (sound.gain / 20));
  const middle = height / 2;
  for (let x = 0; x < width; x++) {
    const time = (from + x) * secondsOfPixel;
    const at = sound.in + (time % each);
    const first = Math.floor(at * WAVEFORM_RATE);
    const last = Math.max(first + 1, Math.ceil((at + secondsOfPixel) * WAVEFORM_RATE));
    let [low, high] = [0, 0];
    for (let i = first; i < last && i * 2 + 1 < waveform.length; i++) {
      low = Math.min(low, waveform[i * 2] ?? 0);
      high = Math.max(high, waveform[i * 2 + 1] ?? 0);
    }
    const rising = sound.fadeIn > 0 ? Math.min(1, time / sound.fadeIn) : 1;
    const falling = sound.fadeOut > 0 ? Math.min(1, Math.max(0, length - time) / sound.fadeOut) : 1;
    const gain = (loudness * rising * falling * middle) / 127;
    ctx.fillRect(x, middle - high * gain, 1, Math.max(1, (high - low) * gain));
  }
}
