import type { Document, Node } from '@gltf-transform/core';
import type { BakedCamera } from '@warper/core';
import { defined } from '@warper/core';
import type { NodeTrack } from './animatedGlb';

/** A camera of a file: how it moves in each take. */
export interface FilmedTakes {
  readonly name: string;
  readonly takes: readonly BakedCamera[];
}

/** Metres between which a camera sees, as in the view. */
const NEAR = 0.05;
const FAR = 200;

/** Puts cameras into a document's scene as they stand at their first frame; gives their nodes. */
export function addCameras(document: Document, cameras: readonly FilmedTakes[]): Node[] {
  const root = document.getRoot();
  const scene = root.getDefaultScene() ?? root.listScenes()[0] ?? document.createScene();
  return cameras.map(({ name, takes }) => {
    const { places, rotations, fields, gate } = defined(takes[0]);
    const camera = document
      .createCamera(name)
      .setType('perspective')
      .setAspectRatio(gate[0] / gate[1])
      .setYFov(defined(fields[0]))
      .setZNear(NEAR)
      .setZFar(FAR);
    const [x = 0, y = 0, z = 0] = places;
    const [qx = 0, qy = 0, qz = 0, qw = 1] = rotations;
    const node = document
      .createNode(name)
      .setCamera(camera)
      .setTranslation([x, y, z])
      .setRotation([qx, qy, qz, qw]);
    scene.addChild(node);
    return node;
  });
}

/**
 * The tracks of a camera's take: its place and rotation sample by sample, and its field where the lens changes, which readers take that know
 * KHR_animation_pointer.
 *
 * @param node index of its node
 * @param camera index of the camera
 */
export function cameraTracks(
  take: BakedCamera,
  node: number,
  camera: number,
  times: Float32Array,
): NodeTrack[] {
  const { places, rotations, fields } = take;
  const common = { times, interpolation: 'LINEAR' } as const;
  const changes = fields.some((field) => field !== fields[0]);
  return [
    { ...common, node, path: 'translation', values: places },
    { ...common, node, path: 'rotation', values: rotations },
    ...(changes ? [{ ...common, node: camera, path: 'yfov' as const, values: fields }] : []),
  ];
}

/** Seconds of samples that are evenly apart. */
export const sampleTimes = ({ frames, rate }: Pick<BakedCamera, 'frames' | 'rate'>): Float32Array =>
  Float32Array.from({ length: frames }, (_, f) => f / rate);
