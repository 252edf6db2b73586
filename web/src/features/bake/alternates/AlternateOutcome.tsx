import type { Scene } from '@warper/core';
import { InputError, framesPerSecond } from '@warper/core';
import { fileName, plannedFiles } from '@warper/formats';
import { useEffect, useState } from 'react';
import { library } from '../../../data/pageLibrary';
import { Button } from '../../../ui/controls';
import { download } from '../../../ui/download';
import { ShareBar } from '../../../ui/ShareBar';
import { clock } from '../../../ui/time';
import { useMedia } from '../../../ui/useMedia';
import { size } from '../size';
import { useWork } from '../useWork';
import type { AlternateResult, BakedVersion, PreviewFormat } from './bakeAlternates';
import { archiveOf, bakeAlternates, foldersOf } from './bakeAlternates';

interface Props {
  readonly scene: Scene;
  readonly versions: readonly BakedVersion[];
  readonly preview: PreviewFormat | null;
  readonly theme: 'day' | 'night';
}

/** Alternates that were baked, as one archive. */
interface Made {
  readonly results: readonly AlternateResult[];
  readonly archive: Blob;
  readonly file: string;
}

/** Bakes the chosen alternates, one bake at a time; leaving the page stops it. */
function useAlternates({ scene, versions, preview, theme }: Props) {
  const work = useWork<{ readonly name: string; readonly share: number }>();
  const { cancel } = work;
  const [made, setMade] = useState<Made | null>(null);
  useEffect(() => cancel, [cancel]);
  const start = (): void =>
    void work.start({ name: versions[0]?.name ?? '', share: 0 }, async (progress, signal) => {
      const told = (name: string, share: number): void => progress({ name, share });
      const results = await bakeAlternates(versions, preview, theme, told, signal);
      const archive = await archiveOf(scene.name, results);
      const file = `${fileName(`${scene.name} alternates`)}.zip`;
      download(archive, file, 'application/zip');
      setMade({ results, archive, file });
    });
  return { ...work, made, start };
}

/** What is going to be written of each alternate, its making, and the previews beside each other. */
export function AlternateOutcome(props: Props) {
  const { versions, preview } = props;
  const { running, message, made, start, cancel } = useAlternates(props);
  const count = versions.length;
  return (
    <section aria-label="Alternates to be baked">
      <h2 className="mb-2 text-title font-bold">
        {count === 0 ? 'No alternate is chosen' : count === 1 ? 'One alternate' : `${count} alternates`}
      </h2>
      <ul className="border-y">
        {versions.map((version, i) => (
          <li key={version.id} className="border-b py-1.5 last:border-b-0">
            <p className="font-semibold">{version.name}</p>
            {version.comment && <p className="text-soft">{version.comment}</p>}
            <p className="text-soft">{contents(version, foldersOf(versions)[i] ?? '', preview)}</p>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex items-center gap-3">
        {running ? (
          <>
            <ShareBar label={`Baking ${running.name}`} share={running.share} />
            <span className="text-soft">{running.name}</span>
            <Button onClick={cancel}>Cancel</Button>
          </>
        ) : (
          <Button look="primary" data-bake disabled={count === 0} onClick={start}>
            {count === 1 ? 'Bake the alternate' : `Bake ${count} alternates`}
          </Button>
        )}
        {message && (
          <p role="alert" className="text-bad">
            {message}
          </p>
        )}
      </div>
      {made && <MadeAlternates made={made} />}
    </section>
  );
}

/** How long an alternate is, and what is written of it. */
function contents({ plan, order }: BakedVersion, folder: string, preview: PreviewFormat | null): string {
  try {
    const names = plannedFiles(plan, order, library).map((f) => f.name);
    const frames = order.spans.reduce((sum, s) => sum + s.to - s.from, 0);
    const files = [...names, ...(preview ? [`${folder}.${preview}`] : [])];
    return `${clock(frames, framesPerSecond(plan.rate))} · ${folder}/ ${files.join(', ')}`;
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    return `${error.message} ${error.hint}`;
  }
}

function MadeAlternates({ made: { results, archive, file } }: { readonly made: Made }) {
  return (
    <section className="mt-6" aria-label="Baked alternates">
      <p className="flex items-baseline justify-between">
        <span>
          <span className="text-good">●</span> {file} <span className="text-soft">{size(archive.size)}</span>
        </span>
        <Button look="quiet" onClick={() => download(archive, file, 'application/zip')}>
          Save again
        </Button>
      </p>
      <div className="mt-2 grid grid-cols-2 gap-4">
        {results.map((result) => (
          <Preview key={result.version.id} result={result} />
        ))}
      </div>
    </section>
  );
}

/** The moving preview of an alternate with its name and comment. */
function Preview({ result: { version, preview } }: { readonly result: AlternateResult }) {
  const url = useUrl(preview?.film ?? null);
  const isCalm = useMedia('(prefers-reduced-motion: reduce)');
  if (!preview || !url) return null;
  const label = `Preview of ${version.name}`;
  return (
    <figure>
      {preview.film.type === 'image/gif' ? (
        <img src={url} alt={label} className="w-full border" />
      ) : (
        // Its lines are written into its pictures.
        <video
          src={url}
          controls
          loop
          muted
          autoPlay={!isCalm}
          className="w-full border"
          aria-label={label}
        />
      )}
      <figcaption className="pt-1">
        <span className="font-semibold">{version.name}</span>
        {version.comment && <span className="block text-soft">{version.comment}</span>}
      </figcaption>
      <Button look="quiet" onClick={() => download(preview.film, preview.name, preview.film.type)}>
        Save the preview
      </Button>
    </figure>
  );
}

/** An address of something in memory, for as long as it is shown. */
function useUrl(blob: Blob | null): string | null {
  const [url, setUrl] = useState<string | null>(null);
  useEffect(() => {
    if (!blob) return setUrl(null);
    const made = URL.createObjectURL(blob);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [blob]);
  return url;
}
