import { defined } from '@warper/core';
import { useFrame, useThree } from '@react-three/fiber';
import { useMemo } from 'react';
import { PerspectiveCamera, Vector3 } from 'three';
import type { OrbitControls } from 'three-stdlib';

const FROM = [new Vector3(0, 0.12, 1).normalize(), new Vector3(1, 0.12, 0).normalize()];

/** Draws the front and the side beside each other, both looking at what the view looks at, from as far. */
export function TwoViews() {
  const controls = useThree((s) => s.controls) as OrbitControls | null;
  const cameras = useMemo(() => FROM.map(() => new PerspectiveCamera(32, 1, 0.05, 120)), []);
  useFrame(({ gl, scene, camera, size }) => {
    const target = controls?.target ?? new Vector3();
    const distance = camera.position.distanceTo(target);
    const width = size.width / 2;
    gl.autoClear = false;
    gl.setScissorTest(true);
    cameras.forEach((own, i) => {
      own.aspect = width / size.height;
      own.position.copy(defined(FROM[i])).multiplyScalar(distance).add(target);
      own.lookAt(target);
      own.updateProjectionMatrix();
      gl.setViewport(i * width, 0, width, size.height);
      gl.setScissor(i * width, 0, width, size.height);
      gl.clear();
      gl.render(scene, own);
    });
    gl.setScissorTest(false);
    gl.setViewport(0, 0, size.width, size.height);
    gl.autoClear = true;
  }, 1);
  return null;
}
