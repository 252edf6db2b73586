import type { ThreeEvent } from '@react-three/fiber';
import type { CharacterPlan, SegmentPlan } from '@warper/core';
import { moveAbout, moveOnFloor } from '@warper/core';
import { useEffect, useRef, useState } from 'react';
import { useStore } from 'react-redux';
import type { InstancedMesh } from 'three';
import { Matrix4 } from 'three';
import { compileScene } from '../../../store/plan';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { useAppSelector } from '../../../store/store';
import { pivotOf } from '../card/pivotOf';
import { TICK } from '../../../parts/stage/paths';
import type { Facing } from '../../../parts/stage/paths';
import type { FloorEdit } from './useFloorDrag';
import { turnedBy, useFloorDrag } from './useFloorDrag';

/** What a pointer meets of a tick: around the tick itself, metres. */
const MEET = { width: 0.09, length: 0.2 };

interface Props {
  readonly plan: CharacterPlan;
  readonly facings: readonly Facing[];
}

/**
 * What is taken of the ticks along a floor path: dragged round its place on the path, a tick turns the segment that is played
 * there about that segment's start, so that the character comes to face the pointer; what follows goes along.
 */
export function FacingGrips({ plan, facings: latest }: Props) {
  const facings = useAtRest(latest);
  const store = useStore<RootState>();
  const grips = useRef<InstancedMesh>(null);
  const floor = useFloorDrag();
  useEffect(() => {
    const matrix = new Matrix4();
    facings.forEach(({ x, z, heading }, i) => {
      const [s, c] = [Math.sin(heading), Math.cos(heading)];
      matrix.makeRotationY(heading).setPosition(x + s * TICK.at, 0.006, z + c * TICK.at);
      grips.current?.setMatrixAt(i, matrix);
    });
    grips.current?.computeBoundingSphere();
  }, [facings]);
  const take = (e: ThreeEvent<PointerEvent>): void => {
    const facing = e.instanceId === undefined ? undefined : facings[e.instanceId];
    const segment = facing && playedAt(plan.segments, facing.frame);
    const { document } = store.getState().scene;
    if (!facing || !segment || !document) return;
    store.dispatch(sessionActions.selected({ kind: 'segment', id: segment.id }));
    const base = compileScene(document).plan;
    const pivot = pivotOf(base, [segment.id]);
    floor.begin(e, (at): FloorEdit => (point, free) => {
      const turn = (turnedBy(facing, at, point, free) * Math.PI) / 180;
      const move = moveAbout(pivot, { x: 0, z: 0, turn });
      return moveOnFloor(document, base, [segment.id], move, `facing of ${segment.name}`);
    });
  };
  const point = (cursor: string): void => void (window.document.body.style.cursor = cursor);
  return (
    <instancedMesh
      key={facings.length}
      ref={grips}
      args={[undefined, undefined, facings.length]}
      visible={false}
      onPointerDown={take}
      onPointerMove={floor.onPointerMove}
      onPointerUp={floor.onPointerUp}
      onPointerOver={() => point('grab')}
      onPointerOut={() => point('')}
    >
      <boxGeometry args={[MEET.width, 0.001, MEET.length]} />
      <meshBasicMaterial />
    </instancedMesh>
  );
}

/** What is taken stays where it was while a drag lasts: made anew under the pointer, it would lose it. */
function useAtRest<T>(latest: T): T {
  const dragging = useAppSelector((s) => s.scene.draft !== null);
  const [kept, setKept] = useState(latest);
  if (!dragging && kept !== latest) setKept(latest);
  return kept;
}

/** The segment that is played at a frame: in a seam the one that comes in. */
const playedAt = (segments: readonly SegmentPlan[], frame: number): SegmentPlan | undefined =>
  segments.findLast((s) => s.start <= frame);
