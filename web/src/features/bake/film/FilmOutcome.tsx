import type { CharacterPlan, Plan } from '@warper/core';
import { framesPerSecond } from '@warper/core';
import type { BakeSpan } from '@warper/formats';
import { fileName } from '@warper/formats';
import { Progress } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { describeError } from '../../../data/importFiles';
import { Button } from '../../../ui/controls';
import { download } from '../../../ui/download';
import { clock } from '../../../ui/time';
import { size } from '../size';
import type { FilmSettings } from './renderFilm';
import { FILM_TYPES, filmFrames, renderFilm } from './renderFilm';
import { renderSheet } from './renderSheet';

interface Props {
  readonly name: string;
  readonly plan: Plan;
  readonly cast: readonly CharacterPlan[];
  /** One for a film; each is a row of a sheet. */
  readonly spans: readonly BakeSpan[];
  readonly settings: FilmSettings;
}

const ENDINGS = { mp4: '.mp4', webm: '.webm', png: '-pictures.zip', sheet: '-sheet.zip' } as const;

/** A film that was made. */
interface Made {
  readonly name: string;
  readonly film: Blob;
  readonly url: string;
  readonly isFilm: boolean;
}

/** Makes films, one at a time; leaving the page stops it. */
function useFilm({ name, plan, cast, spans, settings }: Props, file: string) {
  const [share, setShare] = useState<number | null>(null);
  const [message, setMessage] = useState('');
  const [made, setMade] = useState<Made | null>(null);
  const abort = useRef<AbortController | null>(null);
  useEffect(() => () => abort.current?.abort(), []);
  useEffect(() => () => void (made && URL.revokeObjectURL(made.url)), [made]);
  const start = (): void => {
    const control = new AbortController();
    abort.current = control;
    setShare(0);
    setMessage('');
    const work = { plan, cast, settings, progress: setShare, signal: control.signal };
    const [span] = spans;
    const making =
      settings.format === 'sheet' || !span ? renderSheet(work, spans, name) : renderFilm({ ...work, span });
    making
      .then((film) => {
        download(film, file, FILM_TYPES[settings.format]);
        const isFilm = settings.format === 'mp4' || settings.format === 'webm';
        setMade({ name: file, film, url: URL.createObjectURL(film), isFilm });
      })
      .catch((error) => {
        const { message: text, hint } = describeError(error);
        setMessage(`${text} ${hint}`.trim());
      })
      .finally(() => setShare(null));
  };
  return { share, message, made, start, cancel: () => abort.current?.abort() };
}

/** How many pictures a film comes to, and what else is to be known of it before it is made. */
function comesTo({ plan, cast, spans, settings }: Props): { readonly count: number; readonly words: string } {
  const pixels = `${settings.width} × ${settings.height}`;
  if (settings.format === 'sheet') {
    const each = spans.reduce((sum, s) => sum + Math.ceil((s.to - s.from) / settings.every), 0);
    const [count, rows] = [each * cast.length, spans.length * cast.length];
    return { count, words: `${count} pictures of ${pixels}, ${rows === 1 ? 'one row' : `${rows} rows`}` };
  }
  const rate = settings.rate ?? framesPerSecond(plan.rate);
  const count = spans[0] ? filmFrames(spans[0], settings.rate, plan) : 0;
  const what = settings.format === 'png' ? 'pictures' : 'frames';
  const time = `${Number(rate.toFixed(3))} a second, ${clock(count, rate)}`;
  return { count, words: `${count} ${what} of ${pixels} at ${time}` };
}

const VERBS = { mp4: 'Make film', webm: 'Make film', png: 'Make pictures', sheet: 'Make sheet' } as const;

/** What a film comes to, its making, and the film. */
export function FilmOutcome(props: Props) {
  const { name, cast, settings } = props;
  const file = `${fileName(name)}${ENDINGS[settings.format]}`;
  const { share, message, made, start, cancel } = useFilm(props, file);
  const { count, words } = comesTo(props);
  return (
    <section aria-label="Film to be made">
      <h2 className="mb-1 text-title font-bold">{file}</h2>
      <p className="border-y py-1.5 text-soft">
        {cast.map((c) => c.character.name).join(', ')} · {words}
      </p>
      <div className="mt-4 flex items-center gap-3">
        {share === null ? (
          <Button look="primary" onClick={start} disabled={cast.length === 0 || count < 1}>
            {VERBS[settings.format]}
          </Button>
        ) : (
          <>
            <Progress.Root
              value={Math.round(share * 100)}
              className="h-2 w-60 overflow-hidden rounded-full bg-rule"
              aria-label={`Making ${file}`}
            >
              <Progress.Indicator className="h-full bg-signal" style={{ width: `${share * 100}%` }} />
            </Progress.Root>
            <Button onClick={cancel}>Cancel</Button>
          </>
        )}
        {message && (
          <p role="alert" className="text-bad">
            {message}
          </p>
        )}
      </div>
      {made && <MadeFilm made={made} />}
    </section>
  );
}

function MadeFilm({ made: { name, film, url, isFilm } }: { readonly made: Made }) {
  return (
    <div className="mt-6">
      {isFilm && (
        // It has no sound that could be told in words.
        <video src={url} controls muted loop className="w-full border" aria-label={`The film ${name}`} />
      )}
      <p className="mt-2 flex items-baseline justify-between">
        <span>
          <span className="text-good">●</span> {name} <span className="text-soft">{size(film.size)}</span>
        </span>
        <Button look="quiet" onClick={() => download(film, name, film.type)}>
          Save again
        </Button>
      </p>
    </div>
  );
}
