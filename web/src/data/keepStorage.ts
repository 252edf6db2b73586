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
  // Not there on addresses that are not secure, nor where tests run.
  const storage = globalThis.navigator?.storage as StorageManager | undefined;
  if (!storage?.persist) return false;
  try {
    return (await storage.persisted()) || (await storage.persist());
  } catch {
    return false;
  }
}
