import { LISTENING_RATE, hearRhythm, waveformOf } from '@warper/formats/sound';
import { expose } from 'comlink';

/** Draws and listens to a sound away from the page. */
const listening = {
  hear: (samples: Float32Array) => ({
    waveform: waveformOf(samples, LISTENING_RATE),
    ...hearRhythm(samples),
  }),
};

export type Listening = typeof listening;

expose(listening);
