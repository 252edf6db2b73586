import { derivation } from '../memory/memory';
import type { Filming } from '../plan/plan';
import type { Scene } from '../scene/scene';
import { shotsInOrder } from '../scene/shot';

/** What a scene is seen through; the same object as long as its cameras and shots are the same. */
export const filming = derivation(
  'filming',
  20,
  (
    memory,
    cameras: Scene['cameras'],
    cameraOrder: Scene['cameraOrder'],
    shots: Scene['shots'],
    aspect: number,
  ): Filming => ({
    cameras: cameraOrder.flatMap((id) => cameras[id] ?? []),
    shots: shotsInOrder(shots),
    aspect,
    memory,
  }),
);
