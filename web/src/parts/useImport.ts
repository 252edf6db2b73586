import type { DragEvent } from 'react';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import type { FoundFile, Kept } from '../data/importFiles';
import { describeError, keepFiles, readFiles } from '../data/importFiles';
import { importScene } from '../data/scenes';
import { droppedFiles } from '../ui/droppedFiles';

/** Files on their way into the library. */
export interface Importing {
  readonly take: (files: readonly File[]) => void;
  /** Whether files are still being read. */
  readonly busy: boolean;
  /** What was found so far; null while nothing is taken in. */
  readonly found: readonly FoundFile[] | null;
  readonly keep: (kept: Kept) => void;
  /** Stops reading, or keeps nothing of what was read. */
  readonly leave: () => void;
  readonly dropZone: { onDragOver: (e: DragEvent) => void; onDrop: (e: DragEvent) => void };
}

/**
 * Takes files by drop or choice and shows what is in them before anything is kept. A scene file opens as a new scene.
 *
 * @param sceneRate the rate of the scene in hand
 */
export function useImport(sceneRate?: number | string): Importing {
  const [busy, setBusy] = useState(false);
  const [found, setFound] = useState<readonly FoundFile[] | null>(null);
  const stop = useRef<AbortController | null>(null);
  const navigate = useNavigate();
  const take = (files: readonly File[]): void => {
    if (files.length === 0 || busy) return;
    const control = new AbortController();
    const { signal } = control;
    stop.current = control;
    setBusy(true);
    setFound([]);
    readAll(files, {
      sceneRate,
      signal,
      open: (id) => void navigate(`/scene/${id}`),
      found: (index, file) => !signal.aborted && setFound((list) => placed(list ?? [], index, file)),
    })
      .then((count) => count === 0 && !signal.aborted && setFound(null))
      .catch((error) => {
        if (signal.aborted) return;
        setFound(null);
        toast.error(describeError(error).message);
      })
      // What was stopped must not end what was begun after it.
      .finally(() => stop.current === control && setBusy(false));
  };
  const keep = (kept: Kept): void => {
    keepFiles(found ?? [], kept).then(
      () => {
        setFound(null);
        if (kept.names.size > 0) toast(`${kept.names.size} ${kept.names.size === 1 ? 'clip' : 'clips'} kept`);
      },
      // Nothing was stored; the sheet stays, so that it can be tried again.
      (error) => toast.error(`Nothing could be kept: ${describeError(error).message}`),
    );
  };
  const leave = (): void => {
    stop.current?.abort();
    setBusy(false);
    setFound(null);
  };
  return { take, busy, found, keep, leave, dropZone: dropZone(take) };
}

/** Handlers of what takes dropped files. */
const dropZone = (take: (files: readonly File[]) => void): Importing['dropZone'] => ({
  onDragOver: (e) => {
    if (e.dataTransfer.types.includes('Files')) e.preventDefault();
  },
  onDrop: (e) => {
    if (!e.dataTransfer.types.includes('Files')) return;
    e.preventDefault();
    void droppedFiles(e.dataTransfer).then(take);
  },
});

interface ReadHow {
  readonly sceneRate: number | string | undefined;
  readonly signal: AbortSignal;
  /** Called with the id of a scene file's scene. */
  readonly open: (id: string) => void;
  readonly found: (index: number, file: FoundFile) => void;
}

/** Opens the scene files and reads the others; gives how many there are to be shown. */
async function readAll(files: readonly File[], { sceneRate, signal, open, found }: ReadHow): Promise<number> {
  const bad = await openScenes(files, open);
  bad.forEach((file, i) => found(i, file));
  const others = files.filter((f) => !isScene(f));
  await readFiles(others, { sceneRate, signal, found: (i, file) => found(bad.length + i, file) });
  return bad.length + others.length;
}

function placed(list: readonly FoundFile[], index: number, file: FoundFile): FoundFile[] {
  const next = [...list];
  next[index] = file;
  return next;
}

const isScene = (file: File): boolean => /\.warper$/i.test(file.name);

/** Opens the scene files among others; gives those that could not be. */
async function openScenes(files: readonly File[], open: (id: string) => void): Promise<FoundFile[]> {
  const bad: FoundFile[] = [];
  for (const file of files.filter(isScene)) {
    try {
      open(await importScene(new Uint8Array(await file.arrayBuffer()), file.name));
    } catch (error) {
      bad.push({ file: file.name, state: 'bad', ...describeError(error) });
    }
  }
  return bad;
}
