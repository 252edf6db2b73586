import type { Character } from '@warper/core';
import { sizedSkeleton } from '@warper/core';
import { Group } from 'three';
import { library } from '../../data/pageLibrary';
import { boneFigure } from './boneFigure';
import { hueColour } from './colours';
import type { Figure } from './meshFigure';
import { meshFigure } from './meshFigure';

/** What is drawn of a character: its mesh, its bones, or both; null where nothing is to be shown. */
export async function loadFigure({ body: id, hue, shown, size }: Character): Promise<Figure | null> {
  const entry = library.bodyEntry(id);
  if (!entry || shown === 'nothing') return null;
  const { body, source } = entry;
  const skeleton = sizedSkeleton(body.skeleton, size);
  const bones = (over: boolean): Figure => boneFigure(skeleton, hueColour(hue), { over });
  if (!body.meshed || body.layout.kind !== 'gltf' || shown === 'bones') return bones(false);
  const mesh = await meshFigure(body, source.bytes, size);
  return shown === 'both' ? together(mesh, bones(true)) : mesh;
}

/** Two figures of one body, posed as one. */
function together(a: Figure, b: Figure): Figure {
  const object = new Group();
  object.add(a.object, b.object);
  return {
    object,
    pose: (pose) => {
      a.pose(pose);
      b.pose(pose);
    },
    tint: (weights, colour) => {
      a.tint(weights, colour);
      b.tint(weights, colour);
    },
    dispose: () => {
      a.dispose();
      b.dispose();
    },
  };
}
