import { DOMParser } from '@xmldom/xmldom';

/** Reads a blob as three's exporter does, where the platform has no FileReader. */
class BlobReader {
  result: ArrayBuffer | null = null;
  onloadend: (() => void) | null = null;
  onerror: ((error: unknown) => void) | null = null;

  readAsArrayBuffer(blob: Blob): void {
    blob.arrayBuffer().then(
      (result) => {
        this.result = result;
        this.onloadend?.();
      },
      (error: unknown) => this.onerror?.(error),
    );
  }
}

/** An element that never loads anything: nothing that a file names is asked for. */
const inertElement = (): object => ({
  addEventListener: () => undefined,
  removeEventListener: () => undefined,
});

const PARTS: Readonly<Record<string, unknown>> = {
  DOMParser,
  FileReader: BlobReader,
  document: { createElementNS: inertElement, createElement: inertElement },
};

/** What three's readers say on the console is said to nobody: what matters of it becomes an error or a remark. */
const SILENT = ['debug', 'log', 'warn', 'error'] as const;

/**
 * Gives three's readers the parts of a page that they use, for as long as they are at work: a worker and Node have none. Parts that are
 * there stay.
 */
export function withBrowserParts<T>(work: () => Promise<T>): Promise<T> {
  const result = last.then(() => run(work));
  last = result.catch(() => undefined);
  return result;
}

/** One after the other: the parts are there for all or for none. */
let last: Promise<unknown> = Promise.resolve();

async function run<T>(work: () => Promise<T>): Promise<T> {
  const scope = globalThis as Record<string, unknown>;
  const added = Object.keys(PARTS).filter((name) => scope[name] === undefined);
  const said = SILENT.map((name) => [name, Reflect.get(console, name) as unknown] as const);
  for (const name of added) scope[name] = PARTS[name];
  for (const name of SILENT) console[name] = () => undefined;
  try {
    return await work();
  } finally {
    for (const name of added) delete scope[name];
    for (const [name, method] of said) Reflect.set(console, name, method);
  }
}

/** Why a reader of three's gave up, in words for people: most of what it meets is told by the engine alone. */
export const reasonOf = (cause: unknown): string =>
  cause instanceof TypeError || cause instanceof RangeError || cause instanceof ReferenceError
    ? 'something in it is missing, or refers to what is not there'
    : (cause as Error).message.replace(/^THREE\.\w+: |\s+/g, ' ').trim();
