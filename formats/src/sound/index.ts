// Sounds and lines of dialogue: kept apart from motion, which needs none of it.
export type { Caption } from './captions';
export { readCaptions, writeCaptions } from './captions';
export { MADE_RATE, madeSound, noise } from './madeSounds';
export type { HeardRhythm } from './onsets';
export { LISTENING_RATE, hearRhythm } from './onsets';
export type { SoundFile } from './soundFile';
export { readSoundFile } from './soundFile';
export { writeWav } from './wav';
export type { Waveform } from './waveform';
export { WAVEFORM_RATE, waveformOf } from './waveform';
