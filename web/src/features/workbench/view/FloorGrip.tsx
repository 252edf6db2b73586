import type { ThreeEvent } from '@react-three/fiber';
import { useThree } from '@react-three/fiber';
import type { Edit, FloorPlace } from '@warper/core';
import { useEffect, useState } from 'react';
import type { Vector3 } from 'three';
import { hueColour, themeColour } from '../../../parts/stage/colours';
import { Tape } from './Tape';
import type { FloorEdit } from './useFloorDrag';
import { turnedBy, useFloorDrag } from './useFloorDrag';

/** Radius of the ring and of the disc, metres, and their height over the floor. */
const RING = { radius: 0.52, width: 0.045 };
const DISC = 0.3;
const HEIGHT = 0.012;

/** What a handle stands for: where it is, and the edit that brings it elsewhere. */
export interface Grip {
  readonly place: FloorPlace;
  /** Metres over the floor; 0 without. */
  readonly height?: number;
  /** Of whose it is; null for nobody's. */
  readonly hue: number | null;
  /** What brings it to a place; freely where nothing is to be snapped to. */
  readonly edit: (to: FloorPlace, free: boolean) => Edit;
}

interface Props {
  readonly grip: Grip;
  /** How large it is drawn, of its usual size. */
  readonly size?: number;
  readonly turns?: boolean;
}

type Part = 'move' | 'turn';

/** A disc that is dragged over the floor, and a ring round it that turns, where its facing can be chosen. */
export function FloorGrip({ grip, size = 1, turns = true }: Props) {
  const invalidate = useThree((s) => s.invalidate);
  const floor = useFloorDrag();
  const [over, setOver] = useState<Part | null>(null);
  const { place, hue, height = 0 } = grip;
  useEffect(() => invalidate(), [place.x, place.z, place.heading, height, over, invalidate]);
  const edits: Record<Part, (at: Vector3) => FloorEdit> = {
    move: (at) => (point, free) =>
      grip.edit({ ...place, x: place.x + point.x - at.x, z: place.z + point.z - at.z }, free),
    turn: (at) => (now, free) => {
      const heading = place.heading + turnedBy(place, at, now, free);
      return grip.edit({ ...place, heading: free ? heading : Math.round(heading) }, free);
    },
  };
  const colour = hue === null ? themeColour('--signal') : hueColour(hue);
  const handlers = (part: Part) => ({
    onPointerDown: (e: ThreeEvent<PointerEvent>) => floor.begin(e, edits[part], height),
    onPointerMove: floor.onPointerMove,
    onPointerUp: floor.onPointerUp,
    onPointerOver: (e: ThreeEvent<PointerEvent>) => {
      e.stopPropagation();
      setOver(part);
      window.document.body.style.cursor = part === 'move' ? 'move' : 'grab';
    },
    onPointerOut: () => {
      setOver(null);
      window.document.body.style.cursor = '';
    },
  });
  const opacity = (part: Part): number => (over === part ? 0.85 : 0.5);
  return (
    <group
      position={[place.x, height + HEIGHT, place.z]}
      rotation={[0, (place.heading * Math.PI) / 180, 0]}
      scale={size}
      userData={{ handle: true }}
    >
      <mesh rotation={[-Math.PI / 2, 0, 0]} renderOrder={5} {...handlers('move')}>
        <circleGeometry args={[DISC, 32]} />
        <Tape colour={colour} opacity={opacity('move') * 0.6} />
      </mesh>
      {turns && <Ring colour={colour} opacity={opacity('turn')} handlers={handlers('turn')} />}
    </group>
  );
}

interface RingProps {
  readonly colour: string;
  readonly opacity: number;
  readonly handlers: Partial<
    Record<'onPointerDown' | 'onPointerMove' | 'onPointerUp', (e: ThreeEvent<PointerEvent>) => void>
  >;
}

/** The ring that turns, with the facing as a wedge beyond it. */
function Ring({ colour, opacity, handlers }: RingProps) {
  return (
    <>
      <mesh rotation={[-Math.PI / 2, 0, 0]} renderOrder={5} {...handlers}>
        <ringGeometry args={[RING.radius - RING.width, RING.radius + RING.width, 48]} />
        <Tape colour={colour} opacity={opacity} />
      </mesh>
      {/* The facing, as a wedge of tape beyond the ring. */}
      <mesh
        position={[0, 0, RING.radius + 0.16]}
        scale={[0.7, 1.7, 1]}
        rotation={[-Math.PI / 2, 0, Math.PI]}
        renderOrder={6}
        {...handlers}
      >
        <circleGeometry args={[0.11, 3, Math.PI / 2]} />
        <Tape colour={themeColour('--ink')} opacity={0.8} />
      </mesh>
    </>
  );
}
