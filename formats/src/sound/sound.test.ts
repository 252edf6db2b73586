import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { InputError, captionText } from '@warper/core';
import type { Caption } from '.';
import { readSoundFile, readCaptions, waveformOf, writeCaptions, writeWav } from '.';
import fc from 'fast-check';
import { LISTENING_RATE, hearRhythm } from './onsets';
import { MADE_RATE, madeSound } from './madeSounds';

const made = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../../demo/made/${name}`, import.meta.url)));

/** Knocks at given times: noise that dies away. */
function knocks(times: readonly number[], seconds: number): Float32Array {
  const out = new Float32Array(seconds * LISTENING_RATE);
  let state = 1;
  for (const at of times)
    for (let i = 0; i < 0.08 * LISTENING_RATE; i++) {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      const index = Math.round(at * LISTENING_RATE) + i;
      if (index < out.length) out[index]! += ((state / 2 ** 31 - 1) * Math.exp(-i / 350)) / 2;
    }
  return out;
}

describe('a sound file', () => {
  it('is looked at: its kind, its length, its content', async () => {
    const shanty = await readSoundFile(made('shanty.wav'), 'shanty.wav');
    expect(shanty).toMatchObject({ type: 'audio/wav', file: 'shanty.wav' });
    // 16 beats of five sixths of a second, at 16,000 samples a second.
    expect(shanty.seconds).toBeCloseTo(40 / 3, 4);
  });

  it('is refused where it is none, empty or damaged, with its name and what to do', async () => {
    for (const bytes of [
      made('keeper-walk.glb'),
      writeWav([new Float32Array(0)], 8000),
      new TextEncoder().encode('RIFF....WAVEfmt'),
      new Uint8Array(0),
    ])
      await expect(readSoundFile(bytes, 'a.wav')).rejects.toMatchObject({
        code: 'sound',
        place: { file: 'a.wav' },
      });
    await expect(readSoundFile(made('wind.wav').subarray(0, 30), 'a.wav')).rejects.toBeInstanceOf(InputError);
  });

  it('that was cut anywhere is read or refused, never more', async () => {
    const whole = made('hail-boat.wav');
    await fc.assert(
      fc.asyncProperty(fc.nat(200), async (length) => {
        try {
          expect((await readSoundFile(whole.subarray(0, length), 'a.wav')).seconds).toBeLessThan(1.4);
        } catch (error) {
          expect(error).toBeInstanceOf(InputError);
        }
      }),
      { numRuns: 40 },
    );
  });

  it('that is written has the samples, of every channel, as an outside reader finds them', async () => {
    const left = Float32Array.from({ length: 400 }, (_, i) => Math.sin(i / 9) * 1.2);
    const right = left.map((v) => -v / 2);
    const bytes = writeWav([left, right], 8000);
    const { ALL_FORMATS, AudioSampleSink, BufferSource, Input } = await import('mediabunny');
    const input = new Input({ source: new BufferSource(bytes), formats: ALL_FORMATS });
    const track = (await input.getPrimaryAudioTrack())!;
    expect([track.numberOfChannels, track.sampleRate, await track.computeDuration()]).toEqual([
      2, 8000, 0.05,
    ]);
    const found: number[] = [];
    for await (const sample of new AudioSampleSink(track).samples()) {
      const data = new Float32Array(sample.numberOfFrames * 2);
      sample.copyTo(data, { planeIndex: 0, format: 'f32' });
      found.push(...data);
      sample.close();
    }
    expect(found).toHaveLength(800);
    for (let i = 0; i < 400; i++) {
      expect(found[i * 2]).toBeCloseTo(Math.min(1, Math.max(-1, left[i]!)), 3);
      expect(found[i * 2 + 1]).toBeCloseTo(right[i]!, 3);
    }
  });
});

describe('what is heard in a sound', () => {
  it.each([66, 90, 120, 150])(
    'at %d beats a minute are its beats, within a frame at 30 a second',
    (tempo) => {
      const times = Array.from({ length: Math.floor((15 * tempo) / 60) }, (_, i) => 0.4 + (i * 60) / tempo);
      const { beats, onsets, tempo: found } = hearRhythm(knocks(times, 16));
      expect(found).toBeCloseTo(tempo, 0);
      expect(onsets).toHaveLength(times.length);
      onsets.forEach((at, i) => expect(Math.abs(at - times[i]!)).toBeLessThan(1 / 60));
      for (const beat of beats) {
        const near = Math.min(...times.map((t) => Math.abs(t - beat)));
        expect(near < 1 / 30 || beat > times.at(-1)! || beat < times[0]!).toBe(true);
      }
    },
  );

  it('is nothing in silence, and no beat in a single knock', () => {
    expect(hearRhythm(new Float32Array(40_000))).toEqual({ onsets: [], beats: [], tempo: null });
    expect(hearRhythm(new Float32Array(10))).toEqual({ onsets: [], beats: [], tempo: null });
    const { onsets, tempo } = hearRhythm(knocks([0.7], 2));
    expect(tempo).toBeNull();
    expect(Math.abs(onsets[0]! - 0.7)).toBeLessThan(1 / 60);
  });

  it('is drawn by its lowest and highest samples', () => {
    const samples = new Float32Array(1000);
    samples[105] = 0.5;
    samples[990] = -1;
    const waveform = waveformOf(samples, 1000);
    expect(waveform).toHaveLength(200);
    const loud = [...waveform].flatMap((v, i) => (v === 0 ? [] : [[i, v]]));
    expect(loud).toEqual([
      [21, 64],
      [198, -127],
    ]);
  });
});

describe('made-up steps', () => {
  it('are heard at once, end in silence, and no two are alike', () => {
    const steps = [0, 1, 2, 3].map((i) => madeSound(`made:stone-${i}`)!);
    for (const step of steps) {
      const loudest = step.reduce((most, v, i) => (Math.abs(v) > Math.abs(step[most]!) ? i : most), 0);
      expect(loudest / MADE_RATE).toBeLessThan(0.02);
      expect(Math.abs(step.at(-1)!)).toBeLessThan(0.001);
      expect(Math.max(...step.map(Math.abs))).toBeLessThan(1.2);
    }
    expect(new Set(steps.map((s) => s.join())).size).toBe(4);
    expect(madeSound('made:stone-1')).toEqual(steps[1]);
    expect(madeSound('made:snow-1')).toBeNull();
    expect(madeSound('abc')).toBeNull();
  });
});

describe('captions', () => {
  it('are read as the W3C’s format has them: voices, tags, escapes, settings, notes', async () => {
    const text = [
      'WEBVTT - evening',
      '',
      'NOTE not said',
      '',
      '1',
      '00:01.000 --> 00:00:02.500 align:left',
      '<v Keeper>Come <i>ashore</i> &amp; be quick!',
      '',
      '01:00:03.250 --> 01:00:04.000',
      'Boat: We are coming in',
      '',
    ].join('\r\n');
    expect(await readCaptions(text, 'a.vtt')).toEqual([
      { speaker: 'Keeper', text: 'Come ashore & be quick!', start: 1, end: 2.5 },
      { speaker: 'Boat', text: 'We are coming in', start: 3603.25, end: 3604 },
    ]);
    expect(await readCaptions('1\n00:00:01,000 --> 00:00:02,500\nAhoy\n', 'a.srt')).toEqual([
      { speaker: '', text: 'Ahoy', start: 1, end: 2.5 },
    ]);
  });

  it('that cannot be read are refused with the line', async () => {
    await expect(readCaptions('WEBVTT\n\n00:xx --> 00:02.000\nhi\n', 'a.vtt')).rejects.toMatchObject({
      code: 'captions',
      place: { file: 'a.vtt', line: 3 },
    });
    await expect(readCaptions('a walk', 'a.vtt')).rejects.toMatchObject({ code: 'captions' });
    await expect(readCaptions('WEBVTT\n', 'a.vtt')).rejects.toMatchObject({ code: 'captions' });
  });

  it('that are written are read as they were', async () => {
    const word = fc.string({ minLength: 1, maxLength: 12 }).filter((t) => /^[^\s:](.*[^\s])?$/.test(t));
    await fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.record({
            speaker: fc.constantFrom('', 'Keeper', 'The boat & crew'),
            text: fc.oneof(word, fc.constantFrom('a --> b', '<v Nobody>hm', 'two\nlines', '1', 'NOTE of it')),
            start: fc.nat(7_000_000),
            length: fc.integer({ min: 1, max: 90_000 }),
          }),
          { minLength: 1, maxLength: 6 },
        ),
        async (list) => {
          const lines = list
            .map(({ speaker, text, start, length }) => ({
              speaker,
              text: text.replace(/\s*\n\s*/g, '\n'),
              start: start / 1000,
              end: (start + length) / 1000,
            }))
            .sort((a, b) => a.start - b.start);
          // A line that nobody says and that begins like "Keeper: " is read as the Keeper's: what is shown is the same.
          const shown = (list: readonly Caption[]) => list.map((l) => [captionText(l), l.start, l.end]);
          expect(shown(await readCaptions(writeCaptions(lines), 'a.vtt'))).toEqual(shown(lines));
        },
      ),
      { numRuns: 100 },
    );
  });
});
