import { describe, expect, it } from '@jest/globals';
import { clipFacts } from '@warper/core';
import { readFileSync, readdirSync } from 'node:fs';
import { readMotionFile } from './read';
import type { SearchedClip } from './search';
import { CLIP_FILTERS, ClipIndex, filtersOf } from './search';

const folder = new URL('../../demo/made/', import.meta.url);
const clips: SearchedClip[] = [];
for (const file of readdirSync(folder).filter((n) =>
  /^(keeper-(walk|turn|idle|wave).*|dog-.*)\.glb$/.test(n),
)) {
  const { clips: found } = await readMotionFile(new Uint8Array(readFileSync(new URL(file, folder))), file);
  for (const clip of found)
    clips.push({
      id: clip.id,
      name: clip.name,
      file,
      tags: clip.name === 'Wave' ? ['greeting'] : [],
      facts: clipFacts(clip),
    });
}
const index = new ClipIndex();
index.add(clips);
const names = (...search: Parameters<ClipIndex['search']>): string[] =>
  index.search(...search).map((id) => clips.find((c) => c.id === id)!.name);

describe('searching clips', () => {
  it('finds all of them without words, in their order', () => {
    expect(names('')).toEqual(clips.map((c) => c.name));
    expect(names('  ')).toHaveLength(clips.length);
  });

  it('finds them by name, tag, file and fact, by the beginning of words and with a slip', () => {
    expect(names('walk stop')[0]).toBe('Walk stop');
    expect(names('wal')).toContain('Walk');
    expect(names('greet')).toEqual(['Wave']);
    expect(names('dog')).toEqual(expect.arrayContaining(['Dog stand', 'Dog trot']));
    expect(names('idel')[0] ?? 'Idle').toBe('Idle');
    // Others have the word more often.
    const [walk] = clips.filter((c) => c.name === 'Walk');
    const many = new ClipIndex();
    many.add([
      { ...walk!, id: 'a', name: 'Visitor sit', file: 'sit/sit.glb', tags: ['sit'] },
      { ...walk!, id: 'b', name: 'Sit', file: 'x.glb', tags: [] },
    ]);
    expect(many.search('sit')).toEqual(['b', 'a']);
    expect(names('wa st')).toEqual(expect.arrayContaining(['Walk start', 'Walk stop']));
    expect(names('  Turn   left ')).toEqual(expect.arrayContaining(['Turn left 90']));
    expect(names('driftign')).toEqual(['Walk drifting']);
    expect(names('turn left')).toEqual(expect.arrayContaining(['Turn left 45', 'Turn left 90']));
    expect(names('no such thing')).toEqual([]);
    // Other forms of a word, and letters that changed places.
    expect(names('wlak')).toEqual(expect.arrayContaining(['Walk', 'Walk start']));
    expect(names('travelling')).toEqual(names('travels'));
    expect(names('walking')).toContain('Walk');
    expect(names('turning left')).toContain('Turn left 90');
  });

  it('narrows down by facts, together with words', () => {
    expect(names('', ['turns right'])).toEqual(expect.arrayContaining(['Turn right 45', 'Turn right 90']));
    expect(names('', ['turns right', 'turns left'])).toEqual([]);
    expect(names('walk', ['loopable', 'travels'])).toEqual(expect.arrayContaining(['Walk', 'Walk drifting']));
    expect(names('walk', ['loopable', 'travels'])).not.toContain('Walk in place');
    for (const filter of CLIP_FILTERS)
      expect(names('', [filter])).toEqual(
        clips.filter((c) => filtersOf(c.facts).includes(filter)).map((c) => c.name),
      );
  });

  it('forgets and replaces', () => {
    const own = new ClipIndex();
    own.add(clips);
    const wave = clips.find((c) => c.name === 'Wave')!;
    own.add([{ ...wave, name: 'Signal', tags: [] }]);
    expect(own.search('greeting')).toEqual([]);
    expect(own.search('signal')).toEqual([wave.id]);
    own.remove(wave.id);
    expect(own.search('signal')).toEqual([]);
    expect(own.size).toBe(clips.length - 1);
  });
});
