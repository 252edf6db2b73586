import { defined } from '@warper/core';
import { useFrame, useThree } from '@react-three/fiber';
import { useMemo } from 'react';
import { PerspectiveCamera, Vector3 } from 'three';
import type { OrbitControls } from 'three-stdlib';
import { FIELD, directionOf } from './framing';

/** Draws the front and the side beside each other, both looking at what the view looks at, from as far. */
export function TwoViews({ heading }: { readonly heading: number }) {
  const controls = useThree((s) => s.controls) as OrbitControls | null;
  const cameras = useMemo(
    () => (['front', 'side'] as const).map(() => new PerspectiveCamera(FIELD, 1, 0.05, 120)),
    [],
  );
  const from = useMemo(
    () => (['front', 'side'] as const).map((a) => new Vector3(...directionOf(a, heading))),
    [heading],
  );
  useFrame(({ gl, scene, camera, size }) => {
    const target = controls?.target ?? new Vector3();
    const distance = camera.position.distanceTo(target);
    const width = size.width / 2;
    gl.autoClear = false;
    gl.setScissorTest(true);
    cameras.forEach((half, i) => {
      half.aspect = width / size.height;
      half.position.copy(defined(from[i])).multiplyScalar(distance).add(target);
      half.lookAt(target);
      half.updateProjectionMatrix();
      gl.setViewport(i * width, 0, width, size.height);
      gl.setScissor(i * width, 0, width, size.height);
      gl.clear();
      gl.render(scene, half);
    });
    gl.setScissorTest(false);
    gl.setViewport(0, 0, size.width, size.height);
    gl.autoClear = true;
  }, 1);
  return null;
}
