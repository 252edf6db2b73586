import { useFrame, useThree } from '@react-three/fiber';
import { makeCameraPose } from '@warper/core';
import type { RefObject } from 'react';
import { useEffect, useMemo } from 'react';
import { useStore } from 'react-redux';
import { PerspectiveCamera } from 'three';
import { applyCameraPose } from '../../../parts/stage/applyCameraPose';
import { filmedPose, pictureIn, withLooseCameras } from '../../../parts/stage/filmedPose';
import { selectPreviewPlan } from '../../../store/selectors';
import type { RootState } from '../../../store/store';
import { useAppSelector } from '../../../store/store';
import { ShotFrame } from './ShotFrame';
import { withoutHandles } from './ShotPicture';
import { useFieldSize } from './useFieldSize';

/** What a camera of the scene sees, in a field of its own beside the view; the picture is drawn by `BesidePicture`. */
export function ShotBeside({ picture }: { readonly picture: RefObject<HTMLCanvasElement | null> }) {
  const [area, field] = useFieldSize();
  const aspect = useAppSelector((s) => selectPreviewPlan(s).plan.filming.aspect);
  const { left, top, width, height } = pictureIn(field, aspect);
  return (
    <div
      ref={area}
      role="img"
      aria-label="What the camera sees"
      className="relative h-full w-[45%] shrink-0 overflow-hidden border-l"
    >
      <canvas ref={picture} data-beside className="absolute" style={{ left, top, width, height }} />
      <ShotFrame inset={false} field={field} />
    </div>
  );
}

/** Draws what a camera of the scene sees, hands it to the field beside the view, and then draws the view. */
export function BesidePicture({ picture }: { readonly picture: RefObject<HTMLCanvasElement | null> }) {
  const store = useStore<RootState>();
  const invalidate = useThree((s) => s.invalidate);
  const { camera, pose } = useMemo(() => ({ camera: new PerspectiveCamera(), pose: makeCameraPose() }), []);
  useEffect(() => {
    invalidate();
    const element = picture.current;
    if (!element) return;
    const observer = new ResizeObserver(() => invalidate());
    observer.observe(element);
    return () => observer.disconnect();
  }, [picture, invalidate]);
  useFrame(({ gl, scene, camera: free, size }) => {
    const state = store.getState();
    const { plan: whole } = selectPreviewPlan(state);
    const plan = state.scene.draft ? withLooseCameras(whole) : whole;
    const { frame, filmedBy } = state.session;
    const field = picture.current;
    if (field && field.clientWidth > 0 && filmedPose(plan, filmedBy, frame, pose)) {
      const { aspect } = plan.filming;
      const ratio = gl.getPixelRatio();
      const { width, height } = pictureIn(size, aspect);
      applyCameraPose(camera, pose, aspect);
      gl.setScissorTest(true);
      gl.setViewport(0, 0, width, height);
      gl.setScissor(0, 0, width, height);
      withoutHandles(scene, () => gl.render(scene, camera));
      gl.setScissorTest(false);
      gl.setViewport(0, 0, size.width, size.height);
      const [wide, high] = [Math.round(field.clientWidth * ratio), Math.round(field.clientHeight * ratio)];
      if (field.width !== wide || field.height !== high) Object.assign(field, { width: wide, height: high });
      const from = gl.domElement.height - height * ratio;
      field
        .getContext('2d')
        ?.drawImage(gl.domElement, 0, from, width * ratio, height * ratio, 0, 0, wide, high);
    }
    gl.render(scene, free);
  }, 1);
  return null;
}
