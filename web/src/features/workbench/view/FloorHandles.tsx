import type { ThreeEvent } from '@react-three/fiber';
import { useThree } from '@react-three/fiber';
import type { CharacterPlan, Edit, FloorPlace, Plan, Scene } from '@warper/core';
import { evaluate, makePoseBuffer, moveAbout, moveOnFloor, defined } from '@warper/core';
import { useEffect, useState } from 'react';
import type { Vector3 } from 'three';
import { compileScene } from '../../../store/plan';
import { selectedSegments } from '../../../store/selection';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import { useAppSelector } from '../../../store/store';
import { pivotOf } from '../card/pivotOf';
import { hueColour, themeColour } from '../../../parts/stage/colours';
import type { FloorEdit } from './useFloorDrag';
import { Tape } from './Tape';
import { turnedBy, useFloorDrag } from './useFloorDrag';

/** Radius of the ring and of the disc, metres, and their height over the floor. */
const RING = { radius: 0.52, width: 0.045 };
const DISC = 0.3;
const HEIGHT = 0.012;

/** What a handle stands for: where it is, and the edit that brings it elsewhere. */
interface Grip {
  readonly place: FloorPlace;
  readonly hue: number;
  readonly edit: (to: FloorPlace) => Edit;
}

/** The handle of what is in hand: the start of a character, of a segment, of what comes in at a seam, or of a group and all that follows it. */
export function FloorHandles() {
  const scene = useAppSelector(selectPreviewScene);
  const { plan } = useAppSelector(selectPreviewPlan);
  const selection = useAppSelector((s) => s.session.selection);
  const document = useAppSelector((s) => s.scene.document);
  // A seam is nudged by moving what comes in.
  const chosen = selection.kind === 'seam' ? [selection.id] : selectedSegments(selection, scene);
  if (!document) return null;
  if (selection.kind === 'character') {
    const character = plan.characters.find((c) => c.character.id === selection.id);
    return character ? <Handle key={selection.id} grip={characterGrip(character)} /> : null;
  }
  if (chosen.length === 0) return null;
  const owner = plan.characters.find((c) => c.segments.some((s) => chosen.includes(s.id)));
  if (!owner) return null;
  return (
    <Handle
      key={chosen.join()}
      grip={segmentsGrip(document, plan, owner, chosen, nameOf(scene, selection))}
    />
  );
}

const nameOf = (scene: Scene, selection: { kind: string; id?: string }): string =>
  (selection.kind === 'group'
    ? scene.groups[defined(selection.id)]?.name
    : scene.segments[selection.id ?? '']?.name) ?? 'segments';

function characterGrip(plan: CharacterPlan): Grip {
  const { character } = plan;
  const place = character.start ?? placeAt(plan, plan.segments[0]?.start ?? 0);
  return {
    place,
    hue: character.hue,
    edit: (start) => ({ type: 'start character', character: character.id, start }),
  };
}

function placeAt(character: CharacterPlan, frame: number): FloorPlace {
  const { root } = evaluate(character, frame, makePoseBuffer(character.skeleton));
  return { x: defined(root[0]), z: defined(root[1]), heading: (defined(root[2]) * 180) / Math.PI };
}

/** Segments are moved from where they are in the document, not from where the drag in hand shows them. */
function segmentsGrip(
  document: Scene,
  shown: Plan,
  character: CharacterPlan,
  segments: readonly string[],
  name: string,
): Grip {
  const first = defined(character.segments.find((s) => segments.includes(s.id)));
  const pivot = pivotOf(shown, segments);
  const place = { ...placeAt(character, first.start + first.overlap), ...pivot };
  return {
    place,
    hue: character.character.hue,
    edit: (to) => {
      const { plan } = compileScene(document);
      const from = pivotOf(plan, segments);
      const base = defined(plan.characters.find((c) => c.character.id === character.character.id));
      const start = defined(base.segments.find((s) => s.id === first.id));
      const heading = placeAt(base, start.start + start.overlap).heading;
      const turn = ((to.heading - heading) * Math.PI) / 180;
      const move = moveAbout(from, { x: to.x - from.x, z: to.z - from.z, turn });
      return moveOnFloor(document, plan, segments, move, `floor place of ${name}`);
    },
  };
}

type Part = 'move' | 'turn';

/** A disc that is dragged over the floor, and a ring round it that turns. */
function Handle({ grip }: { grip: Grip }) {
  const invalidate = useThree((s) => s.invalidate);
  const floor = useFloorDrag();
  const [over, setOver] = useState<Part | null>(null);
  const { place, hue } = grip;
  useEffect(() => invalidate(), [place.x, place.z, place.heading, over, invalidate]);
  const edits: Record<Part, (at: Vector3) => FloorEdit> = {
    move: (at) => (point) =>
      grip.edit({ ...place, x: place.x + point.x - at.x, z: place.z + point.z - at.z }),
    turn: (at) => (now, free) => {
      const heading = place.heading + turnedBy(place, at, now, free);
      return grip.edit({ ...place, heading: free ? heading : Math.round(heading) });
    },
  };
  const colour = hueColour(hue);
  const handlers = (part: Part) => ({
    onPointerDown: (e: ThreeEvent<PointerEvent>) => floor.begin(e, edits[part]),
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
      position={[place.x, HEIGHT, place.z]}
      rotation={[0, (place.heading * Math.PI) / 180, 0]}
      userData={{ handle: true }}
    >
      <mesh rotation={[-Math.PI / 2, 0, 0]} renderOrder={5} {...handlers('move')}>
        <circleGeometry args={[DISC, 32]} />
        <Tape colour={colour} opacity={opacity('move') * 0.6} />
      </mesh>
      <mesh rotation={[-Math.PI / 2, 0, 0]} renderOrder={5} {...handlers('turn')}>
        <ringGeometry args={[RING.radius - RING.width, RING.radius + RING.width, 48]} />
        <Tape colour={colour} opacity={opacity('turn')} />
      </mesh>
      {/* The facing, as a wedge of tape beyond the ring. */}
      <mesh
        position={[0, 0, RING.radius + 0.16]}
        scale={[0.7, 1.7, 1]}
        rotation={[-Math.PI / 2, 0, Math.PI]}
        renderOrder={6}
        {...handlers('turn')}
      >
        <circleGeometry args={[0.11, 3, Math.PI / 2]} />
        <Tape colour={themeColour('--ink')} opacity={0.8} />
      </mesh>
    </group>
  );
}
