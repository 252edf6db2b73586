import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { zipSync } from 'fflate';
import { streamZip } from './streamZip';

const files = {
  'a.json': new Uint8Array([1, 2, 3]),
  'b.glb': new Uint8Array(5000).fill(7),
  'c.bvh': new Uint8Array(),
};
const zipped = zipSync({
  'a.json': [files['a.json'], { level: 0 }],
  'b.glb': files['b.glb'],
  'c.bvh': files['c.bvh'],
});

/** An archive that comes in pieces of a size. */
const inPieces = (bytes: Uint8Array, size: number): ReadableStream<Uint8Array> =>
  new ReadableStream({
    start: (controller) => {
      for (let i = 0; i < bytes.length; i += size) controller.enqueue(bytes.slice(i, i + size));
      controller.close();
    },
  });

describe('an archive that is read as it comes', () => {
  it('gives its files in order, however it is cut', async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 1, max: 6000 }), async (size) => {
        const seen: Record<string, Uint8Array> = {};
        for await (const { name, content } of streamZip(inPieces(zipped, size))) seen[name] = content;
        expect(Object.keys(seen)).toEqual(Object.keys(files));
        expect(seen).toEqual(files);
      }),
      { numRuns: 40 },
    );
  });

  it('gives a file before the next has come', async () => {
    const iterator = streamZip(inPieces(zipped, 60));
    const first = await iterator.next();
    expect(first.value).toEqual({ name: 'a.json', content: files['a.json'] });
    await iterator.return(undefined);
  });

  it('says when it ends within a file', async () => {
    const cut = async (): Promise<void> => {
      for await (const file of streamZip(inPieces(zipped.slice(0, 70), 30))) void file;
    };
    await expect(cut()).rejects.toThrow();
  });
});
