import { TransformControls } from '@react-three/drei';
import type { CharacterPlan, Edit, Look } from '@warper/core';
import { useEffect, useMemo, useRef } from 'react';
import { MeshBasicMaterial, Mesh, SphereGeometry } from 'three';
import { themeColour } from '../../../parts/stage/colours';
import { commit, preview } from '../../../store/edits';
import { selectPreviewScene } from '../../../store/selectors';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { lookInHand } from './lookInHand';
import { inOwnColours } from './PoseHandles';

/** Radius of the mark of a place that is looked at, metres. */
const RADIUS = 0.035;

/** While a layer, a segment or a character that looks at a place is in hand and no joint is posed: the place, to be dragged. */
export function LookHandle({ plan }: { readonly plan: CharacterPlan }) {
  const selection = useAppSelector((s) => s.session.selection);
  const scene = useAppSelector(selectPreviewScene);
  const isFree = useAppSelector((s) => s.session.posed === null && !s.session.playing);
  const found = isFree ? lookInHand(scene, selection, plan.character.id) : null;
  if (!found?.look || !('point' in found.look.at)) return null;
  return <PlaceHandle look={found.look} point={found.look.at.point} edit={found.edit} />;
}

interface Props {
  readonly look: Look;
  readonly point: readonly [number, number, number];
  /** The edit that has another look in its place. */
  readonly edit: (look: Look) => Edit;
}

function PlaceHandle({ look, point, edit: editTo }: Props) {
  const dispatch = useAppDispatch();
  const mark = useMemo(() => {
    const material = new MeshBasicMaterial({ color: themeColour('--signal'), depthTest: false });
    const mesh = new Mesh(new SphereGeometry(RADIUS, 16, 12), material);
    mesh.renderOrder = 15;
    return mesh;
  }, []);
  useEffect(
    () => () => {
      mark.geometry.dispose();
      mark.material.dispose();
    },
    [mark],
  );
  const dragging = useRef(false);
  useEffect(() => {
    if (!dragging.current) mark.position.set(...point);
  }, [mark, point]);
  const edit = (): Edit => {
    const [x, y, z] = mark.position.toArray().map((v) => Number(v.toFixed(4))) as [number, number, number];
    return editTo({ ...look, at: { point: [x, y, z] } });
  };
  return (
    <>
      <primitive object={mark} />
      <TransformControls
        object={mark}
        mode="translate"
        size={0.6}
        ref={inOwnColours}
        onMouseDown={() => (dragging.current = true)}
        onObjectChange={() => {
          if (dragging.current) dispatch(preview(edit()));
        }}
        onMouseUp={() => {
          dragging.current = false;
          dispatch(preview(null));
          dispatch(commit(edit()));
        }}
      />
    </>
  );
}
