import type { CharacterPlan, Plan, Scene } from '@warper/core';
import { framesPerSecond } from '@warper/core';
import type { BakeSpan } from '@warper/formats';
import { fileName } from '@warper/formats';
import { useEffect, useMemo, useState } from 'react';
import { filmPictures } from '../../../data/filmPictures';
import { Button } from '../../../ui/controls';
import { download } from '../../../ui/download';
import { ShareBar } from '../../../ui/ShareBar';
import { clock } from '../../../ui/time';
import { size } from '../size';
import type { FilmSettings } from '../../../data/keptFilm';
import { FILM_TYPES, directionsOf, filmFrames } from './filmSettings';
import type { FilmWork } from './renderFilm';
import { renderFilm } from './renderFilm';
import { useWork } from '../useWork';
import { renderSheet } from './renderSheet';

interface Props {
  readonly scene: Scene;
  readonly plan: Plan;
  readonly cast: readonly CharacterPlan[];
  /** One for a film; each is a row of a sheet. */
  readonly spans: readonly BakeSpan[];
  readonly settings: FilmSettings;
  readonly theme: 'day' | 'night';
}

const ENDINGS = {
  mp4: '.mp4',
  webm: '.webm',
  gif: '.gif',
  png: '-pictures.zip',
  sheet: '-sheet.zip',
} as const;

/** A film that was made. */
interface Made {
  readonly name: string;
  readonly film: Blob;
  readonly url: string;
  /** What shows it in the page. */
  readonly shows: 'video' | 'img' | null;
}

const SHOWN = { mp4: 'video', webm: 'video', gif: 'img', png: null, sheet: 'img' } as const;

/** The pictures of a sequence like the one that is set, which were made before it was stopped. */
function useKept({ scene, cast, spans, settings, theme }: Omit<Props, 'plan'>) {
  const [kept, setKept] = useState(0);
  const [count, setCount] = useState(0);
  const who = cast.map((c) => c.character.id);
  // All that the pictures show, and how.
  const { every: _every, ...seen } = settings;
  const what = JSON.stringify([scene, who, spans[0], seen, theme]);
  const sequence = useMemo(() => filmPictures(what), [what]);
  useEffect(() => {
    let isCurrent = true;
    void sequence.then((pictures) => pictures.kept()).then((n) => isCurrent && setKept(n));
    return () => void (isCurrent = false);
  }, [sequence, count]);
  return { sequence, kept: settings.format === 'png' ? kept : 0, look: () => setCount((n) => n + 1) };
}

/** Makes films, one at a time; leaving the page stops it. */
function useFilm({ scene, plan, cast, spans, settings, theme }: Props, file: string) {
  const { running: share, message, start: begin, cancel } = useWork<number>();
  const [made, setMade] = useState<Made | null>(null);
  useEffect(() => cancel, [cancel]);
  useEffect(() => () => void (made && URL.revokeObjectURL(made.url)), [made]);
  const { sequence, kept, look } = useKept({ scene, cast, spans, settings, theme });
  const start = (): void => {
    const done = begin(0, async (progress, signal) => {
      const { film, picture } = await make({ scene, plan, cast, settings, theme, progress, signal });
      download(film, file, FILM_TYPES[settings.format]);
      const shows = SHOWN[settings.format];
      setMade({ name: file, film, url: URL.createObjectURL(picture), shows });
    });
    void done.then(look);
  };
  const make = async (
    work: Omit<FilmWork, 'span' | 'pictures'>,
  ): Promise<{ readonly film: Blob; readonly picture: Blob }> => {
    const [span] = spans;
    if (settings.format === 'sheet' || !span) return renderSheet(work, spans, scene.name);
    const pictures = settings.format === 'png' ? await sequence : null;
    const film = await renderFilm({ ...work, span, pictures });
    return { film, picture: film };
  };
  const startOver = (): void => {
    void sequence.then((pictures) => pictures.drop()).then(start);
  };
  return { share, message, made, kept, start, startOver, cancel };
}

/** How many pictures a film comes to, and what else is to be known of it before it is made. */
function comesTo({ plan, cast, spans, settings }: Omit<Props, 'scene' | 'theme'>): {
  readonly count: number;
  readonly words: string;
} {
  const pixels = `${settings.width} × ${settings.height}`;
  if (settings.format === 'sheet') {
    const each = spans.reduce((sum, s) => sum + Math.ceil((s.to - s.from) / settings.every), 0);
    const directions = directionsOf(settings).length;
    const [count, rows] = [each * cast.length * directions, spans.length * cast.length * directions];
    return { count, words: `${count} pictures of ${pixels}, ${rows === 1 ? 'one row' : `${rows} rows`}` };
  }
  const rate = settings.rate ?? framesPerSecond(plan.rate);
  const count = spans[0] ? filmFrames(spans[0], settings.rate, plan) : 0;
  const what = settings.format === 'png' ? 'pictures' : 'frames';
  const time = `${Number(rate.toFixed(3))} a second, ${clock(count, rate)}`;
  return { count, words: `${count} ${what} of ${pixels} at ${time}` };
}

const VERBS = {
  mp4: 'Make film',
  webm: 'Make film',
  gif: 'Make GIF',
  png: 'Make pictures',
  sheet: 'Make sheet',
} as const;

/** What a film comes to, its making, and the film. */
export function FilmOutcome(props: Props) {
  const { scene, cast, settings } = props;
  const file = `${fileName(scene.name)}${ENDINGS[settings.format]}`;
  const { share, message, made, kept, start, startOver, cancel } = useFilm(props, file);
  const { count, words } = comesTo(props);
  return (
    <section aria-label="Film to be made">
      <h2 className="mb-1 text-title font-bold">{file}</h2>
      <p className="border-y py-1.5 text-soft">
        {cast.map((c) => c.character.name).join(', ')} · {words}
      </p>
      <div className="mt-4 flex items-center gap-3">
        {share === null ? (
          <>
            <Button look="primary" onClick={start} disabled={cast.length === 0 || count < 1}>
              {kept > 0 ? `Continue with picture ${kept + 1}` : VERBS[settings.format]}
            </Button>
            {kept > 0 && (
              <Button look="quiet" onClick={startOver}>
                Start over
              </Button>
            )}
          </>
        ) : (
          <>
            <ShareBar label={`Making ${file}`} share={share} />
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

function MadeFilm({ made: { name, film, url, shows } }: { readonly made: Made }) {
  return (
    <div className="mt-6">
      {shows === 'img' && <img src={url} alt={`The film ${name}`} className="max-w-full border" />}
      {shows === 'video' && (
        // Its lines are written into its pictures.
        <video src={url} controls loop className="w-full border" aria-label={`The film ${name}`} />
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
