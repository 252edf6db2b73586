/** All files of a drop, those in folders included. The list of items is only there while the event runs. */
export async function droppedFiles(transfer: DataTransfer): Promise<File[]> {
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry?.()).filter((e) => e !== null);
  if (entries.every((e) => !e?.isDirectory)) return [...transfer.files];
  const files: File[] = [];
  const visit = async (entry: FileSystemEntry): Promise<void> => {
    if (entry.isFile) {
      files.push(
        await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject)),
      );
      return;
    }
    const reader = (entry as FileSystemDirectoryEntry).createReader();
    // A reader gives its entries in parts, and none when it is done.
    for (;;) {
      const part = await new Promise<FileSystemEntry[]>((resolve, reject) =>
        reader.readEntries(resolve, reject),
      );
      if (part.length === 0) return;
      for (const inner of part) await visit(inner);
    }
  };
  for (const entry of entries) if (entry) await visit(entry);
  return files;
}
