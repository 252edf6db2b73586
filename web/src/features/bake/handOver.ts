import { bakeReport, fileName, otioTimeline, plannedFiles, reportHtml, reportedFile } from '@warper/formats';
import { defined } from '@warper/core';
import { motion } from '../../data/motion';
import { keepRead, library } from '../../data/pageLibrary';
import { exportScene } from '../../data/scenes';
import { download } from '../../ui/download';
import type { Baked } from './useBake';
import type { BakedFile } from '../../workers/protocol';

/** Whether a baked file is one that the library reads. */
export const canAdd = ({ name }: BakedFile): boolean => /\.(glb|gltf|vrma|bvh|usda|usdz)$/.test(name);

/** Keeps a baked file in the library, with the steps and facts that are found in it. */
export async function addToLibrary({ name, file }: BakedFile): Promise<void> {
  const result = await motion.read(new Uint8Array(await file.arrayBuffer()), name);
  await keepRead(result);
}

interface FolderPicker {
  showDirectoryPicker?: (options: { readonly mode: 'readwrite' }) => Promise<FileSystemDirectoryHandle>;
}

const picker = (): FolderPicker => globalThis as FolderPicker;

/** Whether this browser gives a page a folder (File System Access). */
export const hasFolders = (): boolean => picker().showDirectoryPicker !== undefined;

/** Writes files into a folder that the user chooses; gives its name, null where none was chosen. */
export async function saveToFolder(files: readonly BakedFile[]): Promise<string | null> {
  const choose = picker().showDirectoryPicker;
  if (!choose) return null;
  let folder: FileSystemDirectoryHandle;
  try {
    folder = await choose.call(globalThis, { mode: 'readwrite' });
  } catch (error) {
    if ((error as Error).name === 'AbortError') return null;
    throw error;
  }
  for (const { name, file } of files) {
    const handle = await folder.getFileHandle(name, { create: true });
    const stream = await handle.createWritable();
    // A stream that is not closed leaves what was there as it was.
    await stream.write(file);
    await stream.close();
  }
  return folder.name;
}

/** Measures what was baked and hands over the report, as a page or as JSON. */
export async function saveReport(
  { order, scene, plan, result }: Baked,
  kind: 'html' | 'json',
): Promise<void> {
  const files = plannedFiles(plan, order, library).map((file, i) =>
    reportedFile(file, defined(result.files[i]).facts),
  );
  const report = bakeReport(scene, plan, await motion.continuity(scene), files);
  const name = `${fileName(`${order.name} continuity`)}.${kind}`;
  if (kind === 'html') download(new TextEncoder().encode(reportHtml(report, plan)), name, 'text/html');
  else download(new TextEncoder().encode(`${JSON.stringify(report, null, 2)}\n`), name, 'application/json');
}

/** Hands over the scene that was baked, with the files that it uses. */
export async function saveScene({ order, scene }: Baked): Promise<void> {
  download(await exportScene(scene), `${fileName(order.name)}.warper`, 'application/zip');
}

/** Hands over the arrangement that was baked, for programs that cut. */
export function saveTimeline({ order, scene, plan }: Baked): void {
  const text = `${JSON.stringify(otioTimeline(scene, plan, library), null, 2)}\n`;
  download(new TextEncoder().encode(text), `${fileName(order.name)}.otio`, 'application/json');
}
