import { noise, writeWav } from '@warper/formats/sound';

/** Samples a second of the demonstration's sounds. */
const RATE = 16_000;

/** Seconds from one beat of the shanty to the next, and how many it has. */
const SHANTY = { beat: 5 / 6, beats: 16 } as const;

/** Formants of vowels of men's voices, Hz (Peterson and Barney, Journal of the Acoustical Society of America 24, 1952, table II). */
const VOWELS = {
  a: [730, 1090, 2440],
  o: [570, 840, 2410],
  u: [300, 870, 2240],
  e: [530, 1840, 2480],
  i: [270, 2290, 3010],
} as const;
type Vowel = keyof typeof VOWELS;

/** Loudness of a formant beside the one below it, and its width, Hz. */
const FALL = 0.55;
const WIDTH = 90;
/** Hertz beyond which a voice has nothing. */
const HIGHEST = 4200;

/** A tone that is sung: when, how high, and from which vowel to which. */
interface Sung {
  readonly from: number;
  readonly to: number;
  /** Hz at its start and its end. */
  readonly pitch: readonly [number, number];
  readonly vowels: readonly [Vowel, Vowel];
  readonly level: number;
}

const silence = (seconds: number): Float32Array => new Float32Array(Math.round(seconds * RATE));

/** How loud a voice is at a frequency. */
function gainOf(hertz: number, formants: readonly number[]): number {
  let [gain, loudness] = [0.02, 1];
  for (const formant of formants) {
    gain += loudness / (1 + ((hertz - formant) / WIDTH) ** 2);
    loudness *= FALL;
  }
  return gain;
}

/** Adds a tone of a made-up voice: the harmonics of its pitch, each as loud as the formants let it be. */
function sing(out: Float32Array, { from, to, pitch, vowels, level }: Sung): void {
  const first = Math.round(from * RATE);
  const count = Math.min(out.length, Math.round(to * RATE)) - first;
  const [attack, release] = [0.03 * RATE, 0.09 * RATE];
  let phase = 0;
  for (let i = 0; i < count; i++) {
    const share = i / count;
    const vibrato = 1 + 0.012 * Math.min(1, i / (0.25 * RATE)) * Math.sin((2 * Math.PI * 5.4 * i) / RATE);
    const hertz = (pitch[0] + (pitch[1] - pitch[0]) * share) * vibrato;
    phase += (2 * Math.PI * hertz) / RATE;
    const formants = VOWELS[vowels[0]].map((f, k) => f + ((VOWELS[vowels[1]][k] ?? f) - f) * share);
    let wave = 0;
    // The sines of multiples of an angle follow from the two before: sin(n a) = 2 cos(a) sin((n - 1) a) - sin((n - 2) a).
    const twice = 2 * Math.cos(phase);
    let [sine, before] = [Math.sin(phase), 0];
    for (let n = 1; n * hertz < HIGHEST; n++) {
      wave += (gainOf(n * hertz, formants) * sine) / Math.sqrt(n);
      [sine, before] = [twice * sine - before, sine];
    }
    const shape = Math.min(1, i / attack, (count - i) / release);
    out[first + i] = (out[first + i] ?? 0) + level * shape * wave;
  }
}

/** Adds a knock: a low tone and noise that die away. */
function knock(
  out: Float32Array,
  at: number,
  hertz: number,
  decay: number,
  level: number,
  seed: number,
): void {
  const random = noise(seed);
  const first = Math.round(at * RATE);
  const count = Math.min(out.length - first, Math.round(decay * 7 * RATE));
  for (let i = 0; i < count; i++) {
    const t = i / RATE;
    const wave = Math.sin(2 * Math.PI * hertz * t) + 0.4 * random() * Math.exp(-t / (decay / 4));
    const shape = Math.min(1, i / 12) * Math.exp(-t / decay) * Math.min(1, (count - i) / 200);
    out[first + i] = (out[first + i] ?? 0) + level * shape * wave;
  }
}

/** Somebody who hails a boat, or answers: two vowels, the second held. */
function hail(pitch: number, vowels: readonly [Vowel, Vowel], seconds: number): Float32Array {
  const out = silence(seconds);
  const [first, second] = vowels;
  const turn = 0.28 * seconds;
  sing(out, {
    from: 0.02,
    to: turn + 0.06,
    pitch: [pitch * 0.84, pitch],
    vowels: [first, first],
    level: 0.5,
  });
  sing(out, {
    from: turn,
    to: seconds,
    pitch: [pitch * 1.12, pitch * 0.94],
    vowels: [first, second],
    level: 0.7,
  });
  return out;
}

/** Semitones over the tonic that the shanty's voices sing on each of its beats; the crew answers in the second half of each line. */
const MELODY = [0, 3, 5, 7, 7, 5, 3, 5, 7, 10, 7, 5, 3, 0, -2, 0] as const;
const VOWELS_SUNG: readonly Vowel[] = ['o', 'a', 'e', 'o', 'a', 'o', 'a', 'u'];
const TONIC = 147;

/** Work that is sung to: a stamp on every beat, a voice that leads, and others that answer. It goes on from its end at its beginning. */
function shanty(): Float32Array {
  const out = silence(SHANTY.beat * SHANTY.beats);
  MELODY.forEach((semitones, i) => {
    const at = i * SHANTY.beat;
    knock(out, at, i % 2 === 0 ? 78 : 104, 0.07, 0.55, i + 1);
    const pitch = TONIC * 2 ** (semitones / 12);
    const vowel = VOWELS_SUNG[i % VOWELS_SUNG.length] ?? 'a';
    const sung: Sung = {
      from: at + 0.01,
      to: at + SHANTY.beat * 0.86,
      pitch: [pitch, pitch],
      vowels: [vowel, vowel],
      level: 0.28,
    };
    sing(out, sung);
    if (i % 8 < 4) return;
    // Three who answer are never quite together, nor quite in tune.
    for (const [late, detune, octave] of [
      [0.025, 1.004, 1],
      [0.04, 0.995, 1],
      [0.015, 1.002, 2],
    ] as const)
      sing(out, {
        ...sung,
        from: sung.from + late,
        pitch: [pitch * detune * octave, pitch * detune * octave],
        level: 0.14,
      });
  });
  return out;
}

/** Wind that goes on from its end at its beginning: noise that grows brighter and duller in gusts. */
function wind(): Float32Array {
  const seconds = 6;
  const out = silence(seconds);
  const overlap = Math.round(0.5 * RATE);
  const random = noise(7);
  const long = new Float32Array(out.length + overlap);
  let [low, band] = [0, 0];
  for (let i = 0; i < long.length; i++) {
    const t = (i % out.length) / out.length;
    const gust = 0.5 + 0.3 * Math.sin(2 * Math.PI * t) + 0.2 * Math.sin(2 * Math.PI * 3 * t + 1);
    // A state-variable filter: a band that moves with the gust.
    const tuning = 2 * Math.sin((Math.PI * (220 + 420 * gust)) / RATE);
    low += tuning * band;
    band += tuning * (random() - low - 0.35 * band);
    long[i] = band * (0.18 + 0.3 * gust);
  }
  for (let i = 0; i < out.length; i++) {
    const share = Math.min(1, i / overlap);
    out[i] =
      share * (long[i] ?? 0) +
      Math.sqrt(1 - share * share) * (long[out.length + i] ?? 0) * (i < overlap ? 1 : 0);
  }
  return out;
}

/** The lamp's clockwork being wound: a ratchet over the hum of a gear. It goes on from its end at its beginning. */
function winding(): Float32Array {
  const seconds = 2;
  const clicks = 14;
  const out = silence(seconds);
  for (let i = 0; i < clicks; i++)
    knock(out, (i * seconds) / clicks, 1250 + 60 * (i % 3), 0.011, 0.4 + 0.1 * (i % 2), 40 + i);
  for (let i = 0; i < out.length; i++) {
    // Whole waves in the two seconds, so that the hum goes on.
    const t = i / RATE;
    const sway = 0.6 + 0.4 * Math.sin(2 * Math.PI * 1 * t);
    out[i] =
      (out[i] ?? 0) + 0.05 * sway * (Math.sin(2 * Math.PI * 63 * t) + 0.5 * Math.sin(2 * Math.PI * 189 * t));
  }
  return out;
}

/** The highest sample comes to half of what there can be: several are heard together. */
const LOUDEST = 0.5;

function wav(samples: Float32Array): Uint8Array {
  const highest = samples.reduce((most, v) => Math.max(most, Math.abs(v)), 1e-9);
  return writeWav([samples.map((v) => (v * LOUDEST) / highest)], RATE);
}

/** Makes the demonstration's sounds: files by name. */
export const makeSounds = (): Map<string, Uint8Array> =>
  new Map([
    ['wind.wav', wav(wind())],
    ['lamp-winding.wav', wav(winding())],
    ['shanty.wav', wav(shanty())],
    ['hail-boat.wav', wav(hail(165, ['a', 'o'], 1.3))],
    ['hail-answer.wav', wav(hail(220, ['o', 'e'], 1.1))],
  ]);
