import { useFrame } from '@react-three/fiber';
import type { ContinuityItem, Grade } from '@warper/core';
import { useEffect, useMemo } from 'react';
import { useStore } from 'react-redux';
import type { BufferGeometry } from 'three';
import { BoxGeometry, ConeGeometry, Mesh, MeshBasicMaterial, SphereGeometry } from 'three';
import { themeColour } from '../../../parts/stage/colours';
import type { RootState } from '../../../store/store';
import { useAppSelector } from '../../../store/store';

/** Pixels from the middle of a mark to its edge, however far away it is. */
const PIXELS = 6;

/** The shapes that grades have in words too. */
const SHAPES: Readonly<Record<Grade, () => BufferGeometry>> = {
  good: () => new SphereGeometry(1, 12, 8),
  watch: () => new ConeGeometry(1.2, 2, 4),
  bad: () => new BoxGeometry(1.8, 1.8, 1.8),
};

function useMark({ place, grade }: ContinuityItem): Mesh<BufferGeometry, MeshBasicMaterial> {
  const mesh = useMemo(() => {
    const look = new MeshBasicMaterial({
      color: themeColour(`--${grade}`),
      depthTest: false,
      transparent: true,
      opacity: 0.85,
    });
    const made = new Mesh(SHAPES[grade](), look);
    if (place) made.position.set(...place);
    made.renderOrder = 18;
    return made;
  }, [place, grade]);
  useEffect(
    () => () => {
      mesh.geometry.dispose();
      mesh.material.dispose();
    },
    [mesh],
  );
  return mesh;
}

/** A mark where something is at its worst, while it lasts. */
function LocatedMark({ item }: { readonly item: ContinuityItem }) {
  const store = useStore<RootState>();
  const mesh = useMark(item);
  useFrame(({ camera, size, viewport }) => {
    const { frame } = store.getState().session;
    mesh.visible = frame >= item.frame - 1 && frame <= item.end;
    const metres = viewport.getCurrentViewport(camera, mesh.position).height / size.height;
    mesh.scale.setScalar(PIXELS * metres);
  });
  return <primitive object={mesh} />;
}

/** What the list of continuity shows, where it is in the view. */
export function LocatedMarks() {
  const located = useAppSelector((s) => s.session.located);
  return located.map((item) => <LocatedMark key={item.id} item={item} />);
}
