/** What this browser keeps: megabytes, and whether it has promised not to clear it by itself. */
export interface KeptStorage {
  readonly megabytes: number;
  readonly promised: boolean;
}

/** How much is kept here, and how safely; null where the browser does not say. */
export async function keptStorage(): Promise<KeptStorage | null> {
  const storage = storageOf();
  if (!storage?.estimate) return null;
  try {
    const { usage = 0 } = await storage.estimate();
    return { megabytes: usage / 1e6, promised: await storage.persisted() };
  } catch {
    return null;
  }
}

/** Not there on addresses that are not secure, nor where tests run. */
function storageOf(): StorageManager | undefined {
  const there: { readonly storage?: StorageManager } = typeof navigator === 'undefined' ? {} : navigator;
  return there.storage;
}

let asked: Promise<boolean> | null = null;

/**
 * Asks the browser not to clear what Warper keeps when the disk is short; asked once a visit, when there is something to
 * keep. Gives whether it promised so.
 */
export function keepStorage(): Promise<boolean> {
  asked ??= ask();
  return asked;
}

async function ask(): Promise<boolean> {
  const storage = storageOf();
  if (!storage?.persist) return false;
  try {
    return (await storage.persisted()) || (await storage.persist());
  } catch {
    return false;
  }
}
