import type { ThreeEvent } from '@react-three/fiber';
import { useFrame, useThree } from '@react-three/fiber';
import type { CharacterPlan } from '@warper/core';
import { defined, evaluate, isFineRole, makePoseBuffer, makeWorldPose, poseToWorld } from '@warper/core';
import { useEffect, useMemo } from 'react';
import { useStore } from 'react-redux';
import { Color, InstancedMesh, Matrix4, MeshBasicMaterial, SphereGeometry } from 'three';
import { themeColour } from '../../../parts/stage/colours';
import type { RootState } from '../../../store/store';

/** Radius of a joint's mark, and of the one that is chosen, metres. */
const RADIUS = 0.022;
const CHOSEN = 0.034;
/** How much smaller those of fingers and the face are, which stand close together. */
const FINE = 0.36;

/** Marks at all joints of a body, the chosen one larger and in another colour. */
function useMarks({ skeleton }: CharacterPlan, chosen: number): InstancedMesh {
  const invalidate = useThree((s) => s.invalidate);
  const [mesh, material] = useMemo(() => {
    const look = new MeshBasicMaterial({ depthTest: false, transparent: true, opacity: 0.85 });
    const made = new InstancedMesh(new SphereGeometry(1, 12, 8), look, skeleton.names.length);
    made.frustumCulled = false;
    made.renderOrder = 15;
    return [made, look] as const;
  }, [skeleton]);
  useEffect(() => {
    const [plain, marked] = [new Color(themeColour('--ink')), new Color(themeColour('--signal'))];
    skeleton.names.forEach((_, j) => mesh.setColorAt(j, j === chosen ? marked : plain));
    if (mesh.instanceColor) mesh.instanceColor.needsUpdate = true;
    invalidate();
  }, [mesh, skeleton, chosen, invalidate]);
  useEffect(
    () => () => {
      mesh.geometry.dispose();
      material.dispose();
      mesh.dispose();
      invalidate();
    },
    [mesh, material, invalidate],
  );
  return mesh;
}

interface Props {
  readonly plan: CharacterPlan;
  /** The name of the chosen joint. */
  readonly joint: string | null;
  readonly onPick: (joint: string) => void;
}

/** All joints of a body as it is at the playhead, to be pressed. */
export function JointMarks({ plan, joint, onPick }: Props) {
  const store = useStore<RootState>();
  const { skeleton } = plan;
  const size = Math.min(1, plan.character.size);
  const chosen = joint === null ? -1 : skeleton.names.indexOf(joint);
  const mesh = useMarks(plan, chosen);
  const work = useMemo(
    () => ({ buffer: makePoseBuffer(skeleton), world: makeWorldPose(skeleton), matrix: new Matrix4() }),
    [skeleton],
  );
  useFrame(() => {
    const { buffer, world, matrix } = work;
    const { positions } = poseToWorld(
      skeleton,
      evaluate(plan, store.getState().session.frame, buffer),
      world,
    );
    skeleton.names.forEach((_, j) => {
      const role = skeleton.roles[j];
      const radius = (j === chosen ? CHOSEN : RADIUS) * size * (role && isFineRole(role) ? FINE : 1);
      matrix.makeScale(radius, radius, radius);
      matrix.setPosition(
        defined(positions[j * 3]),
        defined(positions[j * 3 + 1]),
        defined(positions[j * 3 + 2]),
      );
      mesh.setMatrixAt(j, matrix);
    });
    mesh.instanceMatrix.needsUpdate = true;
    // What a pointer hits is looked for where they are now.
    mesh.boundingSphere = null;
  });
  const pick = (event: ThreeEvent<MouseEvent>): void => {
    const name = event.instanceId === undefined ? undefined : skeleton.names[event.instanceId];
    if (name === undefined) return;
    event.stopPropagation();
    onPick(name);
  };
  return <primitive object={mesh} onClick={pick} />;
}
