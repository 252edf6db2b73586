import { useThree } from '@react-three/fiber';
import { surfaceAlong } from '@warper/core';
import { useEffect } from 'react';
import { useStore } from 'react-redux';
import { Raycaster, Vector2 } from 'three';
import { selectPreviewPlan } from '../../../store/selectors';
import type { RootState } from '../../../store/store';
import { addView } from './floorUnder';

/** Metres beyond which a place is too far away to be meant. */
const FURTHEST = 60;
/** Where the middle of the view is for what is put there: a little below the real one. */
const MIDDLE = [0.5, 0.55] as const;

/** Lets things be dropped into the view: tells where its floor is under the pointer, or what stands on it. */
export function FloorFinder(): null {
  const { camera, gl } = useThree();
  const store = useStore<RootState>();
  useEffect(
    () =>
      addView((point) => {
        const { left, top, width, height } = gl.domElement.getBoundingClientRect();
        const [x, y] = point ? [(point[0] - left) / width, (point[1] - top) / height] : MIDDLE;
        if (x < 0 || x > 1 || y < 0 || y > 1) return null;
        const caster = new Raycaster();
        caster.setFromCamera(new Vector2(2 * x - 1, 1 - 2 * y), camera);
        const state = store.getState();
        const { origin, direction } = caster.ray;
        const found = surfaceAlong(
          selectPreviewPlan(state).plan,
          state.session.frame,
          origin.toArray(),
          direction.toArray(),
        );
        if (!found) return null;
        const far = Math.hypot(found.x - origin.x, found.height - origin.y, found.z - origin.z);
        const { prop, ...place } = found;
        return far < FURTHEST ? { ...place, on: prop?.character.name ?? null } : null;
      }),
    [camera, gl, store],
  );
  return null;
}
