import type { HeardSound } from '@warper/core';
import { MIX_RATE, decodedSound, soundBuffer } from '../../data/sounds';
import { scheduleSounds } from './scheduleSounds';

/**
 * The sounds of a span added up, in stereo: exactly as long as the span. Where they add up to more than can be written, the whole is made softer.
 *
 * @param from seconds of the scene
 * @throws InputError `sound` where one of them is missing or cannot be decoded
 */
export async function mixSounds(
  sounds: readonly HeardSound[],
  from: number,
  to: number,
): Promise<AudioBuffer> {
  const heard = sounds.filter((s) => s.start < to && s.end > from);
  const buffers = new Map<string, AudioBuffer>();
  for (const { source } of heard)
    if (!buffers.has(source)) buffers.set(source, decodedSound(source) ?? (await soundBuffer(source)));
  const context = new OfflineAudioContext(2, Math.max(1, Math.round((to - from) * MIX_RATE)), MIX_RATE);
  scheduleSounds(context.destination, heard, (source) => buffers.get(source), { from, to, at: 0, pace: 1 });
  const mix = await context.startRendering();
  softened(mix);
  return mix;
}

/** Makes a sound softer that is beyond what can be written. */
function softened(mix: AudioBuffer): void {
  const channels = [0, 1].map((c) => mix.getChannelData(c));
  const loudest = channels.reduce((most, c) => c.reduce((m, v) => Math.max(m, Math.abs(v)), most), 0);
  if (loudest <= 1) return;
  for (const channel of channels) channel.set(channel.map((v) => v / loudest));
}
