import { TransformControls } from '@react-three/drei';
import type { CharacterPlan, Edit, LayerLane, Look } from '@warper/core';
import { useEffect, useMemo, useRef } from 'react';
import { MeshBasicMaterial, Mesh, SphereGeometry } from 'three';
import { themeColour } from '../../../parts/stage/colours';
import { commit, preview } from '../../../store/edits';
import { selectPreviewScene } from '../../../store/selectors';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { inOwnColours } from './PoseHandles';

/** Radius of the mark of a place that is looked at, metres. */
const RADIUS = 0.035;

/** While a layer that looks at a place is in hand and no joint is posed: the place, to be dragged. */
export function LookHandle({ plan }: { readonly plan: CharacterPlan }) {
  const selection = useAppSelector((s) => s.session.selection);
  const lane = useAppSelector((s) =>
    selection.kind === 'layer' ? selectPreviewScene(s).lanes[selection.id] : undefined,
  );
  const isFree = useAppSelector((s) => s.session.posed === null && !s.session.playing);
  if (lane?.kind !== 'layer' || lane.character !== plan.character.id || lane.locked || !isFree) return null;
  if (!lane.look || !('point' in lane.look.at)) return null;
  return <PlaceHandle layer={lane} look={lane.look} point={lane.look.at.point} />;
}

interface Props {
  readonly layer: LayerLane;
  readonly look: Look;
  readonly point: readonly [number, number, number];
}

function PlaceHandle({ layer, look, point }: Props) {
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
    return { type: 'change layer', layer: layer.id, values: { look: { ...look, at: { point: [x, y, z] } } } };
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
