import { Dialog } from 'radix-ui';
import type { DragEvent } from 'react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { describeError, importFiles } from '../motion/importFiles';
import type { ImportReport } from '../motion/importFiles';
import { importScene } from '../storage/scenes';

/** Files on their way into the library. */
export interface Importing {
  readonly take: (files: readonly File[]) => void;
  readonly busy: boolean;
  readonly reports: readonly ImportReport[] | null;
  readonly close: () => void;
  readonly dropZone: { onDragOver: (e: DragEvent) => void; onDrop: (e: DragEvent) => void };
}

/** Takes files by drop or choice; a scene file opens as a new scene, everything else goes into the library. */
export function useImport(): Importing {
  const [busy, setBusy] = useState(false);
  const [reports, setReports] = useState<readonly ImportReport[] | null>(null);
  const navigate = useNavigate();
  const take = (files: readonly File[]): void => {
    if (files.length === 0) return;
    setBusy(true);
    setReports([]);
    void takeFiles(files, (id) => navigate(`/scene/${id}`))
      .then((r) => setReports(r.length > 0 ? r : null))
      .finally(() => setBusy(false));
  };
  return {
    take,
    busy,
    reports,
    close: () => setReports(null),
    dropZone: {
      onDragOver: (e) => {
        if (e.dataTransfer.types.includes('Files')) e.preventDefault();
      },
      onDrop: (e) => {
        if (!e.dataTransfer.types.includes('Files')) return;
        e.preventDefault();
        take([...e.dataTransfer.files]);
      },
    },
  };
}

async function takeFiles(files: readonly File[], open: (id: string) => void): Promise<ImportReport[]> {
  const scenes = files.filter((f) => /\.warper$/i.test(f.name));
  const reports = await importFiles(files.filter((f) => !scenes.includes(f)));
  for (const file of scenes) {
    try {
      open(await importScene(new Uint8Array(await file.arrayBuffer()), file.name));
    } catch (error) {
      reports.push({ file: file.name, clips: [], bodies: 0, remarks: [], error: describeError(error) });
    }
  }
  return reports;
}

/** What was found in the files, and what was wrong with those that were not taken. */
export function ImportSheet({ importing }: { importing: Importing }) {
  const { busy, reports, close } = importing;
  return (
    <Dialog.Root open={reports !== null} onOpenChange={(open) => !open && !busy && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 max-h-[80vh] w-[40rem] max-w-[92vw] -translate-1/2 overflow-auto rounded-lg border bg-raised p-6 shadow-lg"
        >
          <Dialog.Title className="mb-2 text-lg font-bold">
            {busy ? 'Reading files' : 'Files read'}
          </Dialog.Title>
          {busy && (
            <p role="status" className="text-soft">
              Reading and measuring the motion.
            </p>
          )}
          <ul className="flex flex-col gap-3">
            {reports?.map((r) => (
              <li key={r.file} className="border-t pt-2">
                <p className="font-semibold">{r.file}</p>
                {r.error ? (
                  <p role="alert" className="text-bad">
                    ■ {r.error.message}{' '}
                    <span className="text-soft">{r.error.hint} Nothing was kept of it.</span>
                  </p>
                ) : (
                  <p>
                    <span className="text-good">●</span>{' '}
                    {r.clips.length > 0 ? r.clips.join(', ') : 'a character without motion'}
                  </p>
                )}
                {r.remarks.map((remark) => (
                  <p key={remark.message} className="text-soft">
                    {remark.message}
                  </p>
                ))}
              </li>
            ))}
          </ul>
          {!busy && (
            <Dialog.Close className="mt-4 rounded-md border px-3 py-1 hover:border-soft">Close</Dialog.Close>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
