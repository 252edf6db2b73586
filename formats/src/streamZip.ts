import { InputError } from '@warper/core';
import { Unzip, UnzipInflate, UnzipPassThrough } from 'fflate';
import { joinBytes } from './joinBytes';

/** A file of an archive. */
export interface ZippedFile {
  readonly name: string;
  readonly content: Uint8Array;
}

/**
 * The files of a zip archive without a comment as they come, each as soon as it is whole, in the order of the archive.
 *
 * @throws InputError `zip` for an archive that ends too early
 */
export async function* streamZip(stream: ReadableStream<Uint8Array>): AsyncGenerator<ZippedFile> {
  const whole: ZippedFile[] = [];
  let open = 0;
  const unzip = new Unzip((file) => {
    const parts: Uint8Array[] = [];
    open++;
    file.ondata = (error, data, final) => {
      if (error) throw error;
      parts.push(data);
      if (!final) return;
      open--;
      whole.push({ name: file.name, content: joinBytes(parts) });
    };
    file.start();
  });
  unzip.register(UnzipPassThrough);
  unzip.register(UnzipInflate);
  const reader = stream.getReader();
  let tail = new Uint8Array();
  for (;;) {
    const { done, value = new Uint8Array() } = await reader.read();
    unzip.push(value, done);
    tail = joinBytes([tail, value]).slice(-END.size);
    yield* whole.splice(0);
    if (done) break;
  }
  if (open > 0 || !END.signature.every((byte, i) => tail[i] === byte))
    throw new InputError('zip', 'The archive ends too early.', { hint: 'Fetch it again.' });
}

/** How an archive without a comment ends: PKWARE APPNOTE 6.3, section 4.3.16. */
const END = { size: 22, signature: [0x50, 0x4b, 0x05, 0x06] };
