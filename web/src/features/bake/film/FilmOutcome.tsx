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

interface Props {
  readonly name: string;
  readonly plan: Plan;
  readonly cast: readonly CharacterPlan[];
  readonly span: BakeSpan;
  readonly settings: FilmSettings;
}

/** A film that was made. */
interface Made {
  readonly name: string;
  readonly film: Blob;
  readonly url: string;
  readonly isFilm: boolean;
}

/** What a film comes to, its making, and the film. */
export function FilmOutcome({ name, plan, cast, span, settings }: Props) {
  const [share, setShare] = useState<number | null>(null);
  const [message, setMessage] = useState('');
  const [made, setMade] = useState<Made | null>(null);
  const abort = useRef<AbortController | null>(null);
  useEffect(() => () => abort.current?.abort(), []);
  useEffect(() => () => void (made && URL.revokeObjectURL(made.url)), [made]);
  const count = filmFrames(span, settings.rate, plan);
  const rate = settings.rate ?? framesPerSecond(plan.rate);
  const file = `${fileName(name)}${settings.format === 'png' ? '-pictures.zip' : `.${settings.format}`}`;
  const start = (): void => {
    const control = new AbortController();
    abort.current = control;
    setShare(0);
    setMessage('');
    renderFilm({ plan, cast, span, settings, progress: setShare, signal: control.signal })
      .then((film) => {
        download(film, file, FILM_TYPES[settings.format]);
        setMade({ name: file, film, url: URL.createObjectURL(film), isFilm: settings.format !== 'png' });
      })
      .catch((error) => {
        const { message: text, hint } = describeError(error);
        setMessage(`${text} ${hint}`.trim());
      })
      .finally(() => setShare(null));
  };
  const isPictures = settings.format === 'png';
  return (
    <section aria-label="Film to be made">
      <h2 className="mb-1 text-title font-bold">{file}</h2>
      <p className="border-y py-1.5 text-soft">
        {cast.map((c) => c.character.name).join(', ')} · {count} {isPictures ? 'pictures' : 'frames'} of{' '}
        {settings.width} × {settings.height} at {Number(rate.toFixed(3))} a second, {clock(count, rate)}
      </p>
      <div className="mt-4 flex items-center gap-3">
        {share === null ? (
          <Button look="primary" onClick={start} disabled={cast.length === 0 || count < 1}>
            {isPictures ? 'Make pictures' : 'Make film'}
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
            <Button onClick={() => abort.current?.abort()}>Cancel</Button>
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
