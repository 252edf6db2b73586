import { useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import { Plane, Raycaster, Vector2, Vector3 } from 'three';
import { addView } from './floorUnder';

const FLOOR = new Plane(new Vector3(0, 1, 0), 0);
/** Metres beyond which a place is too far away to be meant. */
const FURTHEST = 60;
/** Where the middle of the view is for what is put there: a little below the real one. */
const MIDDLE = [0.5, 0.55] as const;

/** Lets things be dropped into the view: tells where its floor is under the pointer. */
export function FloorFinder(): null {
  const { camera, gl } = useThree();
  useEffect(
    () =>
      addView((point) => {
        const { left, top, width, height } = gl.domElement.getBoundingClientRect();
        const [x, y] = point ? [(point[0] - left) / width, (point[1] - top) / height] : MIDDLE;
        if (x < 0 || x > 1 || y < 0 || y > 1) return null;
        const ray = new Raycaster();
        ray.setFromCamera(new Vector2(2 * x - 1, 1 - 2 * y), camera);
        const at = ray.ray.intersectPlane(FLOOR, new Vector3());
        return at && at.distanceTo(camera.position) < FURTHEST ? { x: at.x, z: at.z } : null;
      }),
    [camera, gl],
  );
  return null;
}
