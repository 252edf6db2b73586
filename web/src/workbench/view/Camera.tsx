import { OrbitControls, PerspectiveCamera } from '@react-three/drei';
import { useFrame, useThree } from '@react-three/fiber';
import type { Plan } from '@warper/core';
import { evaluate, makePose } from '@warper/core';
import { useEffect, useMemo, useRef } from 'react';
import { useStore } from 'react-redux';
import type { PerspectiveCamera as Camera3 } from 'three';
import { Vector3 } from 'three';
import type { OrbitControls as Orbit } from 'three-stdlib';
import { useAppSelector } from '../../store/store';
import type { RootState } from '../../store/store';
import { shownFrame } from './CharacterFigure';
import { floorTrace } from './paths';

/** Height of the point that is looked at, metres: about a person's chest. */
const LOOK_HEIGHT = 0.85;
const DIRECTIONS = {
  free: [0.62, 0.34, 0.78],
  front: [0, 0.12, 1],
  side: [1, 0.12, 0],
  top: [0, 1, 0.001],
} as const;

/** The camera: orbits freely, looks from the front, the side or the top, and follows a character if asked. */
export function ViewCamera({ plan }: { plan: Plan }) {
  const angle = useAppSelector((s) => s.session.angle);
  const follow = useAppSelector((s) => s.session.follow);
  const store = useStore<RootState>();
  const invalidate = useThree((s) => s.invalidate);
  const camera = useRef<Camera3>(null);
  const controls = useRef<Orbit>(null);
  const followed = plan.characters.find((c) => c.character.id === follow);
  const pose = useMemo(() => followed && makePose(followed.skeleton), [followed]);
  const last = useRef<Vector3 | null>(null);
  const framed = useRef('');

  const place = (target: Vector3, distance: number): void => {
    const [x, y, z] = DIRECTIONS[angle];
    const way = new Vector3(x, y, z).normalize().multiplyScalar(distance);
    camera.current?.position.copy(target).add(way);
    controls.current?.target.copy(target);
    controls.current?.update();
    invalidate();
  };

  useEffect(() => {
    const first = framed.current === '';
    const empty = plan.characters.length === 0;
    if (framed.current === angle || (first && empty)) return;
    framed.current = angle;
    const { centre, size } = extent(plan);
    const current = controls.current?.target;
    const distance =
      first || !camera.current || !current
        ? Math.max(4.2, size * 0.95 + 2.6)
        : camera.current.position.distanceTo(current);
    place(first || !current ? centre : current.clone(), distance);
    // The camera is framed again only when another angle is asked for, not with every edit.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [angle, plan]);

  useEffect(() => {
    last.current = null;
    invalidate();
  }, [follow, invalidate]);

  useFrame(() => {
    if (!followed || !pose || !controls.current || !camera.current) return;
    evaluate(followed, shownFrame(store.getState()), pose);
    const now = new Vector3(pose.root[0], LOOK_HEIGHT, pose.root[1]);
    const step = now.clone().sub(last.current ?? controls.current.target);
    if (!last.current) step.y = 0;
    last.current = now;
    if (step.lengthSq() < 1e-12) return;
    camera.current.position.add(step);
    controls.current.target.add(step);
    controls.current.update();
  });

  return (
    <>
      <PerspectiveCamera ref={camera} makeDefault fov={32} near={0.05} far={120} position={[4, 2.4, 6]} />
      <OrbitControls
        ref={controls}
        makeDefault
        enableDamping={false}
        maxPolarAngle={Math.PI * 0.495}
        minDistance={0.8}
        maxDistance={60}
      />
    </>
  );
}

/** Middle and size of everything that happens, metres. */
function extent(plan: Plan): { centre: Vector3; size: number } {
  let [x0, x1, z0, z1] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const character of plan.characters) {
    const { roots } = floorTrace(character, plan.rate);
    for (let i = 0; i < roots.length; i += 2) {
      x0 = Math.min(x0, roots[i]!);
      x1 = Math.max(x1, roots[i]!);
      z0 = Math.min(z0, roots[i + 1]!);
      z1 = Math.max(z1, roots[i + 1]!);
    }
  }
  if (x0 > x1) return { centre: new Vector3(0, LOOK_HEIGHT, 0), size: 2 };
  return { centre: new Vector3((x0 + x1) / 2, LOOK_HEIGHT, (z0 + z1) / 2), size: Math.max(x1 - x0, z1 - z0) };
}
