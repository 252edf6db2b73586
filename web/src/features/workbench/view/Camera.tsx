import { OrbitControls, PerspectiveCamera } from '@react-three/drei';
import { useFrame, useThree } from '@react-three/fiber';
import type { Plan } from '@warper/core';
import { evaluate, makePoseBuffer, defined } from '@warper/core';
import { useEffect, useMemo, useRef } from 'react';
import { useStore } from 'react-redux';
import type { Camera } from 'three';
import { Vector3 } from 'three';
import type { OrbitControls as Orbit } from 'three-stdlib';
import { useAppSelector } from '../../../store/store';
import type { ViewAngle } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { floorTrace } from '../../../parts/stage/paths';

/** Angle of the view from top to bottom, degrees, and metres around what happens that the top shows. */
const FIELD = 32;
const MARGIN = 1.2;
/** Height of the point that is looked at, metres: about a person's chest. */
const LOOK_HEIGHT = 0.85;
const DIRECTIONS = {
  free: [0.62, 0.34, 0.78],
  front: [0, 0.12, 1],
  side: [1, 0.12, 0],
  top: [0, 1, 0.001],
  both: [0, 0.12, 1],
} as const;

/** The camera: orbits freely, looks from the front, the side or the top, and follows a character if asked. */
export function ViewCamera({ plan }: { plan: Plan }) {
  // drei makes its controls anew when the camera changes, so they are taken from the view and not from a ref.
  const controls = useThree((s) => s.controls) as Orbit | null;
  useAngle(plan, controls);
  useFollowing(plan, controls);
  return (
    <>
      <PerspectiveCamera makeDefault fov={FIELD} near={0.05} far={120} position={[4, 2.4, 6]} />
      <OrbitControls
        makeDefault
        enableDamping={false}
        maxPolarAngle={Math.PI * 0.495}
        minDistance={0.8}
        maxDistance={60}
      />
    </>
  );
}

/** Looks at everything from the angle that is chosen; what is looked at and how far away stays from then on. */
function useAngle(plan: Plan, controls: Orbit | null): void {
  const angle = useAppSelector((s) => s.session.angle);
  const follow = useAppSelector((s) => s.session.follow);
  const invalidate = useThree((s) => s.invalidate);
  const aspect = useThree((s) => s.viewport.aspect);
  const camera = useThree((s) => s.camera);
  const framed = useRef<{ angle: ViewAngle; controls: Orbit } | null>(null);
  useEffect(() => {
    if (!controls || plan.characters.length === 0) return;
    const before = framed.current;
    if (before?.controls === controls && before.angle === angle) return;
    framed.current = { angle, controls };
    const whole = wholeView(plan, angle, aspect);
    // From the top nothing is left out, unless somebody is followed; else the part that is looked at stays.
    const again = before?.controls === controls && (angle !== 'top' || follow !== null);
    const target = again ? controls.target.clone() : whole.target;
    const distance = again ? camera.position.distanceTo(controls.target) : whole.distance;
    const [x, y, z] = DIRECTIONS[angle];
    camera.position.copy(target).add(new Vector3(x, y, z).normalize().multiplyScalar(distance));
    controls.target.copy(target);
    controls.update();
    invalidate();
  }, [angle, follow, aspect, plan, camera, controls, invalidate]);
}

/** What is to be looked at, and from how far, to see everything that happens: metres. */
function wholeView(plan: Plan, angle: ViewAngle, aspect: number): { target: Vector3; distance: number } {
  const { centre, across, deep } = extent(plan);
  if (angle !== 'top')
    return { target: centre, distance: Math.max(4.2, Math.max(across, deep) * 0.95 + 2.6) };
  const half = Math.max(across / aspect, deep) / 2 + MARGIN;
  return { target: centre, distance: LOOK_HEIGHT + half / Math.tan((FIELD / 2) * (Math.PI / 180)) };
}

/** Goes along with the character that is followed. */
function useFollowing(plan: Plan, controls: Orbit | null): void {
  const follow = useAppSelector((s) => s.session.follow);
  const store = useStore<RootState>();
  const invalidate = useThree((s) => s.invalidate);
  const camera = useThree((s) => s.camera);
  const followed = plan.characters.find((c) => c.character.id === follow);
  const size = followed?.character.size ?? 1;
  const pose = useMemo(() => followed && makePoseBuffer(followed.skeleton), [followed]);
  const last = useRef<Vector3 | null>(null);
  useEffect(() => {
    last.current = null;
    if (follow && controls) comeNearer(camera, controls, size);
    invalidate();
  }, [follow, size, camera, controls, invalidate]);
  useFrame(() => {
    if (!followed || !pose || !controls) return;
    evaluate(followed, store.getState().session.frame, pose);
    const current = new Vector3(pose.root[0], LOOK_HEIGHT * size, pose.root[1]);
    const step = current.clone().sub(last.current ?? controls.target);
    last.current = current;
    if (step.lengthSq() < 1e-12) return;
    camera.position.add(step);
    controls.target.add(step);
    controls.update();
  });
}

/** Distance from which one character of its own size fills the view well, metres. */
const NEAR = 5;

/** Brings a camera that looks at the whole scene near enough to look at one character. */
function comeNearer(camera: Camera, controls: Orbit, size: number): void {
  const way = camera.position.clone().sub(controls.target);
  const near = NEAR * Math.max(0.2, size);
  if (way.length() > near) camera.position.copy(controls.target).add(way.setLength(near));
  controls.update();
}

/** Middle of everything that happens, and how far it goes across and into the depth, metres. */
function extent(plan: Plan): { centre: Vector3; across: number; deep: number } {
  let [x0, x1, z0, z1] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const character of plan.characters) {
    const { roots } = floorTrace(character, plan.rate);
    for (let i = 0; i < roots.length; i += 2) {
      x0 = Math.min(x0, defined(roots[i]));
      x1 = Math.max(x1, defined(roots[i]));
      z0 = Math.min(z0, defined(roots[i + 1]));
      z1 = Math.max(z1, defined(roots[i + 1]));
    }
  }
  if (x0 > x1) return { centre: new Vector3(0, LOOK_HEIGHT, 0), across: 2, deep: 2 };
  return { centre: new Vector3((x0 + x1) / 2, LOOK_HEIGHT, (z0 + z1) / 2), across: x1 - x0, deep: z1 - z0 };
}
