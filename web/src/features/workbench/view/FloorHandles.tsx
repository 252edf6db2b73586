import type { CharacterPlan, FloorPlace, Plan, Scene } from '@warper/core';
import { evaluate, makePoseBuffer, moveAbout, moveOnFloor, movedProp, defined } from '@warper/core';
import { useStore } from 'react-redux';
import { compileScene } from '../../../store/plan';
import { selectedSegments } from '../../../store/selection';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import type { RootState } from '../../../store/store';
import { useAppSelector } from '../../../store/store';
import { pivotOf } from '../card/pivotOf';
import type { Grip } from './FloorGrip';
import { FloorGrip } from './FloorGrip';

/** The handle of what is in hand: the start of a character, of a segment, of what comes in at a seam, or of a group and all that follows it. */
export function FloorHandles() {
  const scene = useAppSelector(selectPreviewScene);
  const { plan } = useAppSelector(selectPreviewPlan);
  const selection = useAppSelector((s) => s.session.selection);
  const document = useAppSelector((s) => s.scene.document);
  const store = useStore<RootState>();
  // A seam is nudged by moving what comes in.
  const chosen = selection.kind === 'seam' ? [selection.id] : selectedSegments(selection, scene);
  if (!document) return null;
  if (selection.kind === 'character') {
    const character = plan.characters.find((c) => c.character.id === selection.id);
    return character ? (
      <FloorGrip
        key={selection.id}
        grip={characterGrip(plan, character, () => store.getState().session.frame)}
      />
    ) : null;
  }
  if (chosen.length === 0) return null;
  const owner = plan.characters.find((c) => c.segments.some((s) => chosen.includes(s.id)));
  if (!owner) return null;
  return (
    <FloorGrip
      key={chosen.join()}
      grip={segmentsGrip(document, plan, owner, chosen, nameOf(scene, selection))}
    />
  );
}

const nameOf = (scene: Scene, selection: { kind: string; id?: string }): string =>
  (selection.kind === 'group'
    ? scene.groups[defined(selection.id)]?.name
    : scene.segments[selection.id ?? '']?.name) ?? 'segments';

function characterGrip(whole: Plan, plan: CharacterPlan, frameNow: () => number): Grip {
  const { character } = plan;
  const place = character.start ?? placeAt(plan, plan.segments[0]?.start ?? 0);
  return {
    place,
    height: character.prop?.raised ?? 0,
    hue: character.hue,
    edit: (start, free) => movedProp(whole, plan, start, frameNow(), free),
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
