import { readFileSync } from 'node:fs';
import type { CharacterPlan } from '@warper/core';
import { compile, evaluate, makePoseBuffer } from '@warper/core';
import { assembleCues, parseCueSheet } from '@warper/formats';
import { compare } from './measure';

const PROPS = 20;
const TETHERS = 10;
const FRAMES = 400;

/** Frames of the demonstration with many props and tethers; the peer evaluates the characters alone. */
export async function benchStaging(): Promise<void> {
  const read = (name: string): Uint8Array => new Uint8Array(readFileSync(`demo/made/${name}`));
  const sheet = JSON.parse(new TextDecoder().decode(read('lamp-round.cues.json')));
  const shapes = ['box', 'bench', 'lantern', 'hand cart', 'storm shutter'];
  const props = Array.from({ length: PROPS }, (_, i) => ({
    name: `Prop ${i}`,
    prop: { shape: shapes[i % shapes.length] },
    start: { x: i % 5, z: Math.floor(i / 5) },
  }));
  const tethers = Array.from({ length: TETHERS }, (_, i) => ({
    child: `Prop ${i}`,
    parent: ['Keeper', 'Visitor', 'Dog'][i % 3],
    joint: 'head',
    start: 10,
  }));
  const { scene, library } = await assembleCues(
    parseCueSheet({ ...sheet, characters: [...sheet.characters, ...props], tethers }),
    (name) => Promise.resolve(read(name)),
  );
  const { characters } = compile(scene, library);
  const all = (plans: readonly CharacterPlan[]): (() => void) => {
    const buffers = plans.map((c) => makePoseBuffer(c.skeleton));
    return () => {
      for (let f = 0; f < FRAMES; f++) for (const [i, c] of plans.entries()) evaluate(c, f, buffers[i]!);
    };
  };
  compare(
    `Staging: ${PROPS} props, ${TETHERS} tethers beside the demonstration's ${sheet.characters.length} characters`,
    'frame',
    FRAMES,
    all(characters),
    { name: 'characters alone', run: all(characters.slice(0, sheet.characters.length)) },
  );
}
