import { useEffect, useMemo, useState } from 'react';

/** A playhead of its own, outside the store: the frame, and who wants to know when it moves. */
export class Playing {
  private frame = 0;
  private readonly watchers = new Set<() => void>();

  /** The whole frame that is shown. */
  readonly now = (): number => Math.floor(this.frame + 1e-6);

  go(frame: number): void {
    this.frame = frame;
    this.watchers.forEach((w) => w());
  }

  watch(watcher: () => void): () => void {
    this.watchers.add(watcher);
    return () => void this.watchers.delete(watcher);
  }

  exact(): number {
    return this.frame;
  }
}

/** Plays so many frames over and over at their rate while `on`. */
export function usePlaying(frames: number, rate: number, on: boolean): { playing: Playing; frame: number } {
  const playing = useMemo(() => new Playing(), []);
  const [frame, setFrame] = useState(0);
  useEffect(() => playing.watch(() => setFrame(playing.now())), [playing]);
  useEffect(() => {
    if (playing.now() >= frames) playing.go(0);
    if (!on || frames < 2) return;
    const begin = playing.exact();
    const since = performance.now();
    let request = requestAnimationFrame(function tick(time) {
      playing.go((begin + (Math.max(0, time - since) / 1000) * rate) % frames);
      request = requestAnimationFrame(tick);
    });
    return () => cancelAnimationFrame(request);
  }, [on, frames, rate, playing]);
  return { playing, frame };
}
