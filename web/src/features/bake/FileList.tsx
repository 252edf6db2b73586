import type { PlannedFile, Remark } from '@warper/formats';
import { ShareBar } from '../../ui/ShareBar';
import { clock } from '../../ui/time';
import type { Running } from './useBake';
import { size } from './size';

interface Props {
  readonly files: readonly PlannedFile[];
  readonly remarks: readonly Remark[];
  readonly running: Running | null;
}

/** Exactly which files are written, with what in them; while they are, how far each is. */
export function FileList({ files, remarks, running }: Props) {
  const total = files.reduce((sum, f) => sum + f.estimatedBytes, 0);
  return (
    <section aria-label="Files to be written">
      <h2 className="mb-2 text-title font-bold">
        {files.length === 1 ? 'One file' : `${files.length} files`}{' '}
        <span className="text-body font-normal text-soft">about {size(total)}</span>
      </h2>
      <ul className="max-h-[40vh] overflow-y-auto border-y">
        {files.map((file, i) => (
          <li key={file.name} className="border-b py-1.5 last:border-b-0">
            <div className="flex items-baseline justify-between gap-3">
              <span className="min-w-0 truncate font-semibold">{file.name}</span>
              <span className="shrink-0 text-soft">{size(file.estimatedBytes)}</span>
            </div>
            <p className="text-soft">{contents(file)}</p>
            {running && (
              <ShareBar
                label={`Baking ${file.name}`}
                share={running.file > i ? 1 : running.file === i ? running.share : 0}
                className="mt-1 h-1.5"
              />
            )}
          </li>
        ))}
      </ul>
      {remarks.length > 0 && (
        <ul aria-label="Remarks" className="mt-2">
          {remarks.map((remark, i) => (
            <li key={i} className="text-watch">
              ▲ {remark.message}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** Who is in a file, and how long it is. */
function contents({ characters, spans, frames, rate, joints }: PlannedFile): string {
  const who = characters.map((c) => c.character.name).join(', ');
  const sum = frames.reduce((all, n) => all + n, 0);
  const takes =
    spans.length > 1
      ? `${spans.length} animations, ${sum} frames together`
      : `frames ${spans[0]?.from} to ${(spans[0]?.to ?? 0) - 1}, ${sum} samples`;
  return `${who} · ${takes} at ${Number(rate.toFixed(3))} a second, ${clock(sum, rate)} · ${joints} joints`;
}
