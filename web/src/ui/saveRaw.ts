import { download } from './download';

/** Saves a stored record that cannot be read as JSON text; bytes in it are left out. */
export function saveRaw(record: unknown, name: string): void {
  const text = JSON.stringify(
    record,
    (_, value: unknown) => (ArrayBuffer.isView(value) || value instanceof Blob ? '(bytes)' : value),
    2,
  );
  download(new TextEncoder().encode(text ?? 'null'), `${name}.json`, 'application/json');
}
