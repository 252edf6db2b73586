import { framesPerSecond, parseRate } from '@warper/core';
import type { BakedFacts } from '@warper/formats';
import { useState } from 'react';
import { toast } from 'sonner';
import { describeError } from '../../data/importFiles';
import { Button } from '../../ui/controls';
import type { Baked } from './useBake';
import { save, saveFile } from './useBake';
import {
  addToLibrary,
  canAdd,
  hasFolders,
  saveReport,
  saveScene,
  saveTimeline,
  saveToFolder,
} from './handOver';
import { size } from './size';

/** What was written since the page was opened, the last first. */
export function BakedList({ baked }: { readonly baked: readonly Baked[] }) {
  if (baked.length === 0) return null;
  return (
    <section className="mt-6" aria-label="Baked files">
      <h2 className="mb-2 text-title font-bold">Baked</h2>
      {baked.map((one, i) => (
        <BakedOrder key={baked.length - i} baked={one} />
      ))}
    </section>
  );
}

function BakedOrder({ baked }: { readonly baked: Baked }) {
  const { order, result } = baked;
  const { files, zip } = result;
  return (
    <div className="mb-3 border-t pt-1">
      <ul>
        {files.map((file) => (
          <li key={file.name} className="flex items-baseline justify-between gap-3 py-0.5">
            <span className="min-w-0">
              <span className="text-good">●</span> {file.name}
              <span className="block text-soft">{told(file.facts)}</span>
            </span>
            <span className="flex shrink-0 gap-2">
              {canAdd(file) && <AddButton file={file} />}
              <Button look="quiet" onClick={() => saveFile(file)}>
                Save again
              </Button>
            </span>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-2 pt-1">
        {zip && <Button onClick={() => save(order, result)}>Save all as a zip again</Button>}
        {zip && hasFolders() && (
          <Button
            onClick={() =>
              void saveToFolder(files).then(
                (folder) => folder && toast(`${files.length} files saved to ${folder}`),
                (error) => toast.error(describeError(error).message),
              )
            }
          >
            Save to a folder
          </Button>
        )}
        <ReportButtons baked={baked} />
      </div>
    </div>
  );
}

function ReportButtons({ baked }: { readonly baked: Baked }) {
  const give = (kind: 'html' | 'json'): void =>
    void saveReport(baked, kind).catch((error) => toast.error(describeError(error).message));
  return (
    <>
      <Button onClick={() => give('html')}>Continuity report</Button>
      <Button look="quiet" onClick={() => give('json')}>
        As JSON
      </Button>
      <Button look="quiet" onClick={() => saveTimeline(baked)}>
        Timeline (OTIO)
      </Button>
      <Button
        look="quiet"
        onClick={() => void saveScene(baked).catch((error) => toast.error(describeError(error).message))}
      >
        Scene file
      </Button>
    </>
  );
}

/** Samples, size and, with reduced keys, what is left of them. */
function told({ frames, rate, bytes, reduced }: BakedFacts): string {
  const sum = frames.reduce((all, n) => all + n, 0);
  const takes = frames.length > 1 ? ` in ${frames.length} animations` : '';
  const keys = reduced
    ? `, ${Math.round((100 * reduced.keys) / reduced.of)} % of the keys, within ${reduced.errorMillimetres.toFixed(2)} mm`
    : '';
  return `${sum} frames${takes} at ${Number(framesPerSecond(parseRate(rate)).toFixed(3))}, ${size(bytes)}${keys}`;
}

function AddButton({ file }: { readonly file: Baked['result']['files'][number] }) {
  const [state, setState] = useState<'ready' | 'adding' | 'added'>('ready');
  const add = (): void => {
    setState('adding');
    addToLibrary(file).then(
      () => setState('added'),
      (error) => {
        setState('ready');
        toast.error(describeError(error).message);
      },
    );
  };
  return (
    <Button look="quiet" disabled={state !== 'ready'} onClick={add}>
      {state === 'added' ? 'In the library' : 'Add to the library'}
    </Button>
  );
}
