import { useFrame, useThree } from '@react-three/fiber';
import type { CameraPose } from '@warper/core';
import { makeCameraPose } from '@warper/core';
import type { RefObject } from 'react';
import { useEffect, useMemo, useRef } from 'react';
import { shallowEqual, useStore } from 'react-redux';
import type { Group } from 'three';
import { PerspectiveCamera } from 'three';
import { applyCameraPose } from '../../../parts/stage/applyCameraPose';
import { CharacterFigure } from '../../../parts/stage/CharacterFigure';
import { filmedPose } from '../../../parts/stage/filmedPose';
import { FloorPath } from '../../../parts/stage/FloorPath';
import type { Version } from '../../../store/alternates';
import { besidesNow, selectAlternates } from '../../../store/alternates';
import { selectPreviewPlan } from '../../../store/selectors';
import type { RootState } from '../../../store/store';
import { useAppSelector } from '../../../store/store';

/** Alternates side by side; the one in hand is null. */
export type Panes = readonly (Version | null)[];

/** The alternates that are seen side by side, from left to right in their order; the one in hand is null. */
export function usePanes(): Panes {
  const alternates = useAppSelector(selectAlternates);
  const besides = useAppSelector(besidesNow, shallowEqual);
  const isOn = useAppSelector((s) => s.session.comparison === 'side by side');
  return useMemo(() => {
    if (!isOn || besides.length === 0) return [];
    return alternates.flatMap((a): (Version | null)[] =>
      a.differences ? besides.filter((v) => v.alternate.id === a.id) : [null],
    );
  }, [alternates, besides, isOn]);
}

interface Props {
  readonly panes: Panes;
  /** All that is shown of the one in hand alone. */
  readonly own: RefObject<Group | null>;
  readonly theme: string;
}

/** Draws alternates side by side, each in a part of the view of its own, all seen by the same camera at the same frame. */
export function SideBySide({ panes, own, theme }: Props) {
  const store = useStore<RootState>();
  const invalidate = useThree((s) => s.invalidate);
  const groups = useRef(new Map<string, Group>());
  const { camera, pose } = useMemo(() => ({ camera: new PerspectiveCamera(), pose: makeCameraPose() }), []);
  useEffect(() => {
    invalidate();
    return () => invalidate();
  }, [panes, invalidate]);
  useFrame(({ gl, scene, camera: free, size }) => {
    const { frame, filmedBy, angle } = store.getState().session;
    const { plan } = selectPreviewPlan(store.getState());
    const width = size.width / panes.length;
    const isFilmed = angle === 'camera' && filmedPose(plan, filmedBy, frame, pose) !== null;
    if (isFilmed) aimFilmed(camera, pose, plan.filming.aspect, { width, height: size.height });
    else if (free instanceof PerspectiveCamera) aimFree(camera, free, panes.length, width / size.height);
    gl.autoClear = false;
    gl.setScissorTest(true);
    panes.forEach((shown, i) => {
      if (own.current) own.current.visible = shown === null;
      for (const [id, group] of groups.current) group.visible = id === shown?.alternate.id;
      gl.setViewport(i * width, 0, width, size.height);
      gl.setScissor(i * width, 0, width, size.height);
      gl.clear();
      gl.render(scene, camera);
    });
    if (own.current) own.current.visible = true;
    for (const group of groups.current.values()) group.visible = false;
    gl.setScissorTest(false);
    gl.setViewport(0, 0, size.width, size.height);
    gl.autoClear = true;
  }, 1);
  return panes.flatMap((version) => {
    if (!version) return [];
    const { alternate, plan } = version;
    const keep = (group: Group | null): void =>
      void (group ? groups.current.set(alternate.id, group) : groups.current.delete(alternate.id));
    return [
      <group key={alternate.id} ref={keep}>
        {plan.characters.map((c) => (
          <CharacterFigure key={c.character.id} plan={c} />
        ))}
        {plan.characters
          .filter((c) => c.segments.length > 0 && c.character.shown !== 'nothing')
          .map((c) => (
            <FloorPath key={`${c.character.id}-${theme}`} plan={c} rate={plan.rate} />
          ))}
      </group>,
    ];
  });
}

/** As wide as the picture of the scene's camera, however high the view is. */
function aimFilmed(
  camera: PerspectiveCamera,
  pose: CameraPose,
  aspect: number,
  { width, height }: { readonly width: number; readonly height: number },
): void {
  const halfHeight = Math.max(pose.halfHeight, (pose.halfHeight * aspect * height) / width);
  applyCameraPose(camera, { ...pose, halfHeight }, width / height);
}

/** A wider lens than that of the one view, so that narrow ones show what stood beside the middle, and figures stay large. */
function aimFree(camera: PerspectiveCamera, free: PerspectiveCamera, views: number, aspect: number): void {
  camera.copy(free);
  camera.fov = (2 * Math.atan(Math.tan((free.fov * Math.PI) / 360) * Math.sqrt(views)) * 180) / Math.PI;
  camera.aspect = aspect;
  camera.updateProjectionMatrix();
}

/** What is written over each of the views. */
export function PaneNames({ panes }: Pick<Props, 'panes'>) {
  const inHand = useAppSelector((s) => selectAlternates(s).find((a) => a.differences === null));
  return (
    <div className="pointer-events-none absolute inset-0 flex" data-panes={panes.length}>
      {panes.map((version, i) => (
        <div key={version?.alternate.id ?? ''} className={`relative flex-1 ${i > 0 ? 'border-l' : ''}`}>
          <p className="absolute inset-x-2 top-2 truncate text-center">
            <span className="rounded-sm bg-plaster/85 px-1.5 py-0.5">
              <span className={version ? '' : 'font-semibold'}>{(version?.alternate ?? inHand)?.name}</span>
              {!version && <span className="text-soft"> · in hand</span>}
            </span>
          </p>
        </div>
      ))}
    </div>
  );
}
