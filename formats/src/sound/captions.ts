import { InputError } from '@warper/core';
import type { VTTCue, VTTNode } from 'media-captions';
import { parseText, tokenizeVTTCue } from 'media-captions';

/** A line of dialogue in a captions file: what is said, by whom, and from when to when, seconds. */
export interface Caption {
  readonly text: string;
  readonly speaker: string;
  readonly start: number;
  readonly end: number;
}

/**
 * Reads lines of dialogue from WebVTT (W3C, WebVTT: The Web Video Text Tracks Format), or from SubRip, which has no header. Who speaks is told
 * by a voice span, or by a name and a colon; how text is styled is left out.
 *
 * @throws InputError `captions` where there are none, or one of them cannot be read
 */
export async function readCaptions(text: string, file: string): Promise<Caption[]> {
  const plain = text.replace(/^\ufeff/, '').replace(/\r\n?/g, '\n');
  const type = /^WEBVTT/.test(plain) ? 'vtt' : 'srt';
  const { cues, errors } = await parseText(plain, { type, errors: true });
  const [error] = errors;
  if (error)
    throw new InputError('captions', `The captions cannot be read: ${error.message}.`, {
      place: { file, line: error.line },
      hint: 'Times are written as 00:00:01.000 --> 00:00:02.500, the text below them.',
    });
  const lines = cues.map(captionOf).filter((l) => l.text !== '' && l.end > l.start);
  if (lines.length === 0)
    throw new InputError('captions', `There are no lines in ${file}.`, {
      place: { file },
      hint: 'Lines are read from WebVTT and SubRip files.',
    });
  return lines;
}

/** Times are in thousandths; the package adds up their parts. */
const inMilliseconds = (seconds: number): number => Math.round(seconds * 1000) / 1000;

function captionOf(cue: VTTCue): Caption {
  let speaker = '';
  const textOf = (node: VTTNode): string => {
    if (node.type === 'text') return node.data;
    if (node.type === 'v') speaker ||= node.voice.trim();
    return node.children.map(textOf).join('');
  };
  const said = tokenizeVTTCue(cue).map(textOf).join('').trim();
  // "Keeper: Come ashore!" is how those are told apart who have no voice span.
  const named = speaker === '' ? /^([\p{L}][\p{L}\p{N} .'-]{0,40}):\s+(?=\S)/u.exec(said) : null;
  return {
    text: (named ? said.slice(named[0].length) : said).slice(0, 2000),
    speaker: (named?.[1] ?? speaker).slice(0, 200),
    start: inMilliseconds(cue.startTime),
    end: inMilliseconds(cue.endTime),
  };
}

const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');

/** A time as WebVTT writes it: hours, minutes, seconds and thousandths. */
function timestamp(seconds: number): string {
  const ms = Math.max(0, Math.round(seconds * 1000));
  const two = (n: number): string => String(Math.floor(n)).padStart(2, '0');
  const rest = String(ms % 1000).padStart(3, '0');
  return `${two(ms / 3_600_000)}:${two((ms / 60_000) % 60)}:${two((ms / 1000) % 60)}.${rest}`;
}

/** Writes lines as WebVTT, by their start; those before the beginning are left out. */
export function writeCaptions(lines: readonly Caption[]): string {
  const cues = [...lines]
    .filter((l) => l.end > 0)
    .sort((a, b) => a.start - b.start)
    .map(({ text, speaker, start, end }) => {
      // A blank line would end the cue.
      const said = escaped(text.replace(/\s*\n\s*/g, '\n').trim());
      const voice = escaped(speaker.replace(/\s+/g, ' ').trim());
      return `${timestamp(start)} --> ${timestamp(end)}\n${voice ? `<v ${voice}>` : ''}${said}\n`;
    });
  return ['WEBVTT\n', ...cues].join('\n');
}
