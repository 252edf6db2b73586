import type { ThreeEvent } from '@react-three/fiber';
import { useThree } from '@react-three/fiber';
import type { Edit } from '@warper/core';
import { useEffect, useRef } from 'react';
import { Plane, Vector3 } from 'three';
import type { OrbitControls } from 'three-stdlib';
import { commit, preview } from '../../../store/edits';
import { useAppDispatch } from '../../../store/store';

/** The level plane at a height, metres. */
const levelAt = (height: number): Plane => new Plane(new Vector3(0, 1, 0), -height);

/** The edit that a drag over the floor asks for: from where the floor is under the pointer, and whether it is to be free. */
export type FloorEdit = (point: Vector3, free: boolean) => Edit;

/** Handlers for something in the view that is dragged over the floor. */
export interface FloorDrag {
  /** Takes hold of what was pressed, so many metres over the floor; `edit` is asked for with the place where it was. */
  begin(event: ThreeEvent<PointerEvent>, edit: (at: Vector3) => FloorEdit, height?: number): void;
  readonly onPointerMove: (event: ThreeEvent<PointerEvent>) => void;
  readonly onPointerUp: (event: ThreeEvent<PointerEvent>) => void;
}

/** Dragging over the floor: previewed, carried out when let go, given up with Escape; the camera rests meanwhile. */
export function useFloorDrag(): FloorDrag {
  const dispatch = useAppDispatch();
  const controls = useThree((s) => s.controls) as OrbitControls | null;
  const held = useRef<{ edit: FloorEdit; level: Plane; last: Edit | null } | null>(null);
  useEffect(() => {
    const giveUp = (): void => {
      if (!held.current) return;
      held.current = null;
      if (controls) controls.enabled = true;
      dispatch(preview(null));
    };
    const escape = (e: KeyboardEvent): void => void (e.key === 'Escape' && giveUp());
    window.addEventListener('keydown', escape);
    return () => {
      window.removeEventListener('keydown', escape);
      // What is dragged may be taken away under the pointer, as by an undo.
      giveUp();
    };
  }, [controls, dispatch]);
  return {
    begin: (e, edit, height = 0) => {
      const level = levelAt(height);
      const at = pointOn(level, e);
      if (!at) return;
      e.stopPropagation();
      (e.target as Element).setPointerCapture(e.pointerId);
      if (controls) controls.enabled = false;
      held.current = { edit: edit(at), level, last: null };
    },
    onPointerMove: (e) => {
      const current = held.current;
      const at = current && pointOn(current.level, e);
      if (!current || !at) return;
      e.stopPropagation();
      current.last = current.edit(at, e.nativeEvent.altKey);
      dispatch(preview(current.last));
    },
    onPointerUp: (e) => {
      const latest = held.current;
      held.current = null;
      if (controls) controls.enabled = true;
      if (!latest) return;
      e.stopPropagation();
      if (latest.last) dispatch(commit(latest.last));
    },
  };
}

const pointOn = (level: Plane, e: ThreeEvent<PointerEvent>): Vector3 | null =>
  e.ray.intersectPlane(level, new Vector3()) ?? null;

/**
 * Degrees by which a drag turns about a place, from where it was taken to where it is; whole ones unless it is to be free.
 */
export function turnedBy(
  about: { readonly x: number; readonly z: number },
  at: Vector3,
  point: Vector3,
  free: boolean,
): number {
  const angle = (p: Vector3): number => Math.atan2(p.x - about.x, p.z - about.z);
  const step = free ? 0.1 : 1;
  return Math.round(((angle(point) - angle(at)) * 180) / Math.PI / step) * step;
}
