import type { CharacterPlan, LayerLane, Plan, Scene, SegmentPlan } from '@warper/core';
import type { ReactNode } from 'react';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import type { Selection } from '../../../store/sessionState';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import type { Folding } from '../../../ui/controls';
import { FoldingContext } from '../../../ui/controls';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import { CameraCard } from './CameraCard';
import { CharacterCard } from './CharacterCard';
import { GroupCard, SeveralCard } from './GroupCard';
import { MarkerCard } from './MarkerCard';
import { LayerCard } from './LayerCard';
import { PropCard } from './PropCard';
import { SceneCard } from './SceneCard';
import { SeamCard } from './SeamCard';
import { SegmentCard } from './SegmentCard';
import { LineCard } from './LineCard';
import { ShotCard } from './ShotCard';
import { SoundCard } from './SoundCard';
import { SoundLaneCard } from './SoundLaneCard';
import { TetherCard } from './TetherCard';
import { DisabledSegmentCard } from './DisabledSegmentCard';

/** Rendered again only with what it shows: it has some hundred parts, and a drag among curves moves one number of it. */
const CalmLayerCard = memo(LayerCard);

/** Which groups are folded, remembered from visit to visit. */
function useFolding(): Folding {
  const dispatch = useAppDispatch();
  const folded = useAppSelector((s) => s.session.folded);
  return useMemo(
    () => ({ folded, onFold: (title) => void dispatch(sessionActions.folded(title)) }),
    [folded, dispatch],
  );
}

/** The one card for what is in hand. */
export function Card() {
  const selection = useAppSelector((s) => s.session.selection);
  const shown = useAppSelector(selectPreviewScene);
  const compiled = useAppSelector(selectPreviewPlan);
  const dragging = useAppSelector((s) => s.scene.draft !== null);
  const [scene, { plan }] = useCalm(shown, compiled, dragging);
  const aside = useRef<HTMLElement>(null);
  const folding = useFolding();
  useEffect(() => void aside.current?.scrollTo({ top: 0 }), [selection]);
  return (
    <aside
      ref={aside}
      aria-label="Selection"
      className="relative h-full overflow-y-auto border-l bg-raised px-4 py-3"
    >
      <FoldingContext value={folding}>
        <Content selection={selection} scene={scene} plan={plan} />
      </FoldingContext>
    </aside>
  );
}

interface ContentProps {
  readonly selection: Selection;
  readonly scene: Scene;
  readonly plan: Plan;
}

/** The card of what is selected; that of the scene where it is not there. */
function Content({ selection, scene, plan }: ContentProps): ReactNode {
  if (selection.kind === 'scene') return <SceneCard scene={scene} plan={plan} />;
  if (selection.kind === 'character') {
    const character = plan.characters.find((c) => c.character.id === selection.id);
    if (character?.character.prop) return <PropCard key={selection.id} plan={character} />;
    return character ? <CharacterCard plan={character} /> : <SceneCard scene={scene} plan={plan} />;
  }
  if (selection.kind === 'group') {
    const group = scene.groups[selection.id];
    return group ? (
      <GroupCard key={group.id} group={group} scene={scene} plan={plan} />
    ) : (
      <SceneCard scene={scene} plan={plan} />
    );
  }
  if (selection.kind === 'marker') {
    const marker = scene.markers.find((m) => m.id === selection.id);
    return marker ? (
      <MarkerCard key={marker.id} marker={marker} plan={plan} />
    ) : (
      <SceneCard scene={scene} plan={plan} />
    );
  }
  if (selection.kind === 'camera' || selection.kind === 'shot')
    return <FilmingCard id={selection.id} scene={scene} plan={plan} />;
  if (selection.kind === 'sound' || selection.kind === 'sound lane' || selection.kind === 'line')
    return <HeardCard {...{ selection, scene, plan }} />;
  if (selection.kind === 'tether') {
    const tether = scene.tethers[selection.id];
    const [child, parent] = [tether?.child, tether?.parent].map((id) =>
      plan.characters.find((c) => c.character.id === id),
    );
    return tether && child && parent ? (
      <TetherCard key={tether.id} {...{ tether, scene, plan, child, parent }} />
    ) : (
      <SceneCard scene={scene} plan={plan} />
    );
  }
  if (selection.kind === 'segment' && selection.with && selection.with.length > 0)
    return <SeveralCard scene={scene} plan={plan} />;
  if (selection.kind === 'layer') {
    const layer = scene.lanes[selection.id];
    const character = plan.characters.find((c) => c.character.id === layer?.character);
    return layer?.kind === 'layer' && character ? (
      <CalmLayerCard key={layer.id} layer={layer} scene={scene} character={character} rate={plan.rate} />
    ) : (
      <SceneCard scene={scene} plan={plan} />
    );
  }
  const segment = scene.segments[selection.id];
  const place = segment && placeOf(plan, selection.id);
  if (place && selection.kind === 'seam' && place.index > 0 && place.layer === null)
    return <SeamCard key={selection.id} segment={segment} {...place} rate={plan.rate} />;
  if (place) {
    const layer = place.layer === null ? null : (scene.lanes[place.layer] as LayerLane);
    return <SegmentCard key={selection.id} segment={segment} {...place} layer={layer} rate={plan.rate} />;
  }
  if (segment) return <DisabledSegmentCard key={selection.id} segment={segment} scene={scene} />;
  return <SceneCard scene={scene} plan={plan} />;
}

/** The card of a camera or a shot. */
function FilmingCard({ id, scene, plan }: { readonly id: string } & Pick<ContentProps, 'scene' | 'plan'>) {
  const shot = scene.shots[id];
  const camera = scene.cameras[shot?.camera ?? id];
  if (!camera) return <SceneCard scene={scene} plan={plan} />;
  if (!shot) return <CameraCard key={camera.id} camera={camera} plan={plan} />;
  return <ShotCard key={shot.id} {...{ shot, camera, scene, plan }} />;
}

/** The card of a sound, a sound lane or a line. */
function HeardCard({ selection, scene, plan }: ContentProps) {
  if (selection.kind === 'scene') return null;
  const sound = selection.kind === 'sound' ? scene.sounds[selection.id] : undefined;
  if (sound) return <SoundCard key={sound.id} {...{ sound, scene, plan }} />;
  const lane = selection.kind === 'sound lane' ? scene.soundLanes[selection.id] : undefined;
  if (lane) return <SoundLaneCard key={lane.id} lane={lane} scene={scene} />;
  const line = selection.kind === 'line' ? scene.lines[selection.id] : undefined;
  return line ? <LineCard key={line.id} line={line} plan={plan} /> : <SceneCard scene={scene} plan={plan} />;
}

interface Place {
  readonly character: CharacterPlan;
  readonly row: readonly SegmentPlan[];
  readonly index: number;
  /** The id of the layer; null on the character's own lane. */
  readonly layer: string | null;
}

/** Where a segment is performed; null where it is not. */
function placeOf(plan: Plan, id: string): Place | null {
  for (const character of plan.characters) {
    const rows: Pick<Place, 'layer' | 'row'>[] = [
      { layer: null, row: character.segments },
      ...character.layers.map((l) => ({ layer: l.id, row: l.segments })),
    ];
    for (const { layer, row } of rows) {
      const index = row.findIndex((s) => s.id === id);
      if (index >= 0) return { character, row, index, layer };
    }
  }
  return null;
}

/** Milliseconds between two looks of the card at a drag in hand. */
const CALM = 250;

/** A scene and its plan; while a drag lasts only a few times a second, since nobody reads faster. */
function useCalm<A, B>(scene: A, plan: B, dragging: boolean): readonly [A, B] {
  const [calm, setCalm] = useState<readonly [A, B] | null>(null);
  const latest = useRef<readonly [A, B]>([scene, plan]);
  useEffect(() => void (latest.current = [scene, plan]), [scene, plan]);
  useEffect(() => {
    if (!dragging) return;
    setCalm(latest.current);
    const timer = setInterval(() => setCalm(latest.current), CALM);
    return () => {
      clearInterval(timer);
      setCalm(null);
    };
  }, [dragging]);
  return dragging && calm ? calm : [scene, plan];
}
