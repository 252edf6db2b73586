import { useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import { Plane, Raycaster, Vector2, Vector3 } from 'three';

/** A place on the floor, metres. */
export interface FloorPoint {
  readonly x: number;
  readonly z: number;
}

type FindFloor = (point: readonly [number, number] | null) => FloorPoint | null;

const FLOOR = new Plane(new Vector3(0, 1, 0), 0);
/** Metres beyond which a place is too far away to be meant. */
const FURTHEST = 60;

const views = new Set<FindFloor>();

/**
 * The place on the floor of the view at a point of the page; null where the view is not there, or shows no floor.
 *
 * @param point pixels of the page; null for the middle of the view
 */
export function floorUnder(point: readonly [number, number] | null): FloorPoint | null {
  for (const find of views) {
    const found = find(point);
    if (found) return found;
  }
  return null;
}

/** Lets things be dropped into the view: tells where its floor is under the pointer. */
export function FloorFinder(): null {
  const { camera, gl } = useThree();
  useEffect(() => {
    const find: FindFloor = (point) => {
      const { left, top, width, height } = gl.domElement.getBoundingClientRect();
      const [x, y] = point ? [(point[0] - left) / width, (point[1] - top) / height] : [0.5, 0.55];
      if (x < 0 || x > 1 || y < 0 || y > 1) return null;
      const ray = new Raycaster();
      ray.setFromCamera(new Vector2(2 * x - 1, 1 - 2 * y), camera);
      const at = ray.ray.intersectPlane(FLOOR, new Vector3());
      return at && at.distanceTo(camera.position) < FURTHEST ? { x: at.x, z: at.z } : null;
    };
    views.add(find);
    return () => void views.delete(find);
  }, [camera, gl]);
  return null;
}
