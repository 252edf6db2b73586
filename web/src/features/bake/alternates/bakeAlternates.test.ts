import { describe, expect, it } from '@jest/globals';
import { emptyScene } from '@warper/core';
import { streamZip } from '@warper/formats';
import type { AlternateResult, BakedVersion } from './bakeAlternates';
import { archiveOf, commentsText, foldersOf } from './bakeAlternates';

const version = (name: string, comment = ''): BakedVersion => ({
  id: name,
  name,
  comment,
  scene: emptyScene('Look-out'),
  plan: undefined as never,
  order: undefined as never,
});

const result = (name: string, folder: string, comment = ''): AlternateResult => ({
  version: version(name, comment),
  folder,
  files: [{ name: 'take.glb', file: new Blob(['glTF']), facts: undefined as never }],
  preview: { name: `${folder}.gif`, film: new Blob(['GIF89a']) },
});

describe('alternates that are baked together', () => {
  it('have folders that no two of them share, on any disk', () => {
    const names = ['Over the rail', 'over the rail', 'Over/the rail', 'Hand'];
    const folders = foldersOf(names.map((name) => version(name)));
    expect(new Set(folders.map((f) => f.toLowerCase())).size).toBe(4);
    expect([folders[0], folders[3]]).toEqual(['Over-the-rail', 'Hand']);
    for (const folder of folders) expect(folder).not.toMatch(/[/\\]/);
  });

  it('are one archive, with what was said of them', async () => {
    const results = [result('Over the rail', 'Over-the-rail', 'Quieter.'), result('Hand', 'Hand')];
    const archive = await archiveOf('Look-out', results);
    const files: Record<string, Uint8Array> = {};
    for await (const { name, content } of streamZip(archive.stream())) files[name] = content;
    expect(Object.keys(files)).toEqual([
      'alternates.txt',
      'Over-the-rail/take.glb',
      'Over-the-rail/Over-the-rail.gif',
      'Hand/take.glb',
      'Hand/Hand.gif',
    ]);
    expect(new TextDecoder().decode(files['Hand/take.glb'])).toBe('glTF');
    expect(new TextDecoder().decode(files['alternates.txt'])).toBe(commentsText('Look-out', results));
    expect(commentsText('Look-out', results)).toBe(
      'Look-out\n\nOver-the-rail/  Over the rail: Quieter.\nHand/  Hand\n',
    );
  });
});
