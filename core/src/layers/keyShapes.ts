import type { ChannelKey } from './channels';

/** Keys with some of them changed, by their places in the list. */
const change = (
  keys: readonly ChannelKey[],
  chosen: ReadonlySet<number>,
  by: (key: ChannelKey, index: number) => ChannelKey,
): ChannelKey[] => keys.map((key, i) => (chosen.has(i) ? by(key, i) : key));

/** Keys moved in time, whole frames, and in value. */
export const shiftKeys = (
  keys: readonly ChannelKey[],
  chosen: ReadonlySet<number>,
  frames: number,
  value: number,
): ChannelKey[] =>
  change(keys, chosen, (k) => ({ ...k, frame: k.frame + Math.round(frames), value: k.value + value }));

/** Keys further from, or nearer to, a moment and a value by factors; slopes go along. */
export const scaleKeys = (
  keys: readonly ChannelKey[],
  chosen: ReadonlySet<number>,
  about: { readonly frame: number; readonly value: number },
  by: { readonly frames: number; readonly values: number },
): ChannelKey[] =>
  change(keys, chosen, (k) => ({
    ...k,
    frame: Math.round(about.frame + (k.frame - about.frame) * by.frames),
    value: about.value + (k.value - about.value) * by.values,
    into: (k.into * by.values) / by.frames,
    out: (k.out * by.values) / by.frames,
  }));

/**
 * Keys brought nearer to their neighbours: a quarter of each and half of its own, which takes away what alternates from key to key
 * (the binomial filter of three, as in any handbook of signal processing). The first and the last key of the list stay.
 */
export const smoothKeys = (keys: readonly ChannelKey[], chosen: ReadonlySet<number>): ChannelKey[] =>
  change(keys, chosen, (key, i) => {
    const [before, after] = [keys[i - 1], keys[i + 1]];
    if (!before || !after) return key;
    return { ...key, value: before.value / 4 + key.value / 2 + after.value / 4 };
  });
