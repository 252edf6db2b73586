import { useFrame, useThree } from '@react-three/fiber';
import { makeCameraPose } from '@warper/core';
import { useEffect, useMemo } from 'react';
import { useStore } from 'react-redux';
import type { Object3D } from 'three';
import { PerspectiveCamera } from 'three';
import { applyCameraPose } from '../../../parts/stage/applyCameraPose';
import { selectPreviewPlan } from '../../../store/selectors';
import type { RootState } from '../../../store/store';
import { filmedPose, insetIn, pictureIn, withLooseCameras } from '../../../parts/stage/filmedPose';

/** Draws what a camera of the scene sees: over the whole view, or in its corner. */
export function ShotPicture({ inset }: { readonly inset: boolean }) {
  const store = useStore<RootState>();
  const invalidate = useThree((s) => s.invalidate);
  const { camera, pose } = useMemo(() => ({ camera: new PerspectiveCamera(), pose: makeCameraPose() }), []);
  useEffect(() => {
    invalidate();
    return () => invalidate();
  }, [inset, invalidate]);
  useFrame(({ gl, scene, camera: free, size }) => {
    const state = store.getState();
    const { plan: whole } = selectPreviewPlan(state);
    const plan = state.scene.draft ? withLooseCameras(whole) : whole;
    const { frame, filmedBy } = state.session;
    const { aspect } = plan.filming;
    if (inset) gl.render(scene, free);
    if (!filmedPose(plan, filmedBy, frame, pose)) {
      if (!inset) gl.render(scene, free);
      return;
    }
    const { left, top, width, height } = inset ? insetIn(size, aspect) : pictureIn(size, aspect);
    // Around its picture the whole view shows what lies beside it.
    const beside = inset ? 1 : Math.max(size.width / width, 1);
    const above = inset ? 1 : Math.max(size.height / height, 1);
    applyCameraPose(camera, { ...pose, halfHeight: pose.halfHeight * above }, (aspect * beside) / above);
    gl.autoClear = false;
    if (inset) {
      gl.setScissorTest(true);
      gl.setViewport(left, size.height - top - height, width, height);
      gl.setScissor(left, size.height - top - height, width, height);
    }
    gl.clear();
    withoutHandles(scene, () => gl.render(scene, camera));
    // The frame, and where it was drawn from, for whoever compares it with what is baked.
    gl.domElement.dataset.camera = `${frame} ${camera.matrixWorld.elements.join(' ')}`;
    gl.setScissorTest(false);
    gl.setViewport(0, 0, size.width, size.height);
    gl.autoClear = true;
  }, 1);
  return null;
}

/** Draws something while what stands in the scene to be taken hold of is out of sight. */
export function withoutHandles(scene: Object3D, draw: () => void): void {
  const hidden = scene.children.flatMap((c) => handlesIn(c));
  for (const object of hidden) object.visible = false;
  draw();
  for (const object of hidden) object.visible = true;
}

/** What stands in the scene to be taken hold of, and is no part of a picture. */
function handlesIn(object: Object3D): Object3D[] {
  if (!object.visible) return [];
  return object.userData.handle === true ? [object] : object.children.flatMap(handlesIn);
}
