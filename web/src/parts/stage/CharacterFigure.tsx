import { useFrame, useThree } from '@react-three/fiber';
import type { CharacterPlan } from '@warper/core';
import { defined, evaluate, makePoseBuffer } from '@warper/core';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import { useStore } from 'react-redux';
import type { RootState } from '../../store/store';
import { useAppSelector } from '../../store/store';
import { loadFigure } from './loadFigure';
import type { Figure } from './meshFigure';
import { themeColour } from './colours';

/** One character at the frame of the playhead. */
export const CharacterFigure = memo(function CharacterFigure({ plan }: { plan: CharacterPlan }) {
  const store = useStore<RootState>();
  const weights = useMaskInHand(plan);
  return <PosedFigure plan={plan} frameNow={() => store.getState().session.frame} weights={weights} />;
});

/** How much of the layer in hand each joint takes; null where none of the character's is in hand, or it takes the whole body. */
function useMaskInHand({ layers, skeleton }: CharacterPlan): Float64Array | null {
  const id = useAppSelector(({ session: { selection } }) =>
    selection.kind === 'layer' ? selection.id : null,
  );
  const mask = layers.find((l) => l.id === id)?.mask;
  return useMemo(() => {
    const isWhole = mask?.joints.length === skeleton.names.length && mask.weights.every((w) => w === 1);
    if (!mask || isWhole) return null;
    const weights = new Float64Array(skeleton.names.length);
    mask.joints.forEach((joint, i) => (weights[joint] = defined(mask.weights[i])));
    return weights;
  }, [mask, skeleton]);
}

/** Whether a body is the same at every frame: it plays nothing, and nobody holds it. */
const isStill = ({ segments, layers, staging }: CharacterPlan): boolean =>
  segments.length === 0 && layers.length === 0 && staging === null;

interface PosedProps {
  readonly plan: CharacterPlan;
  readonly frameNow: () => number;
  /** Joints that are coloured, by their weights; none without. */
  readonly weights?: Float64Array | null;
}

/** One character at whatever frame is asked for when it is drawn. */
export function PosedFigure({ plan, frameNow, weights = null }: PosedProps) {
  const [figure, setFigure] = useState<Figure | null>(null);
  const invalidate = useThree((s) => s.invalidate);
  const buffer = useRef(makePoseBuffer(plan.skeleton));
  const { body, hue, shown, size } = plan.character;

  useEffect(() => {
    let gone = false;
    let made: Figure | null = null;
    void loadFigure(plan.character).then((f) => {
      if (gone) return f?.dispose();
      made = f;
      setFigure(f);
    });
    return () => {
      gone = true;
      made?.dispose();
      setFigure(null);
    };
    // Made anew only where what is drawn changes, not with every edit of the character.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [body, hue, shown, size]);

  useEffect(() => {
    buffer.current = makePoseBuffer(plan.skeleton);
    invalidate();
  }, [plan, figure, invalidate]);

  const theme = useAppSelector((s) => s.session.theme);
  useEffect(() => {
    figure?.tint(weights, themeColour('--signal'));
    invalidate();
  }, [figure, weights, theme, invalidate]);

  const posed = useRef<readonly [Figure, CharacterPlan] | null>(null);
  useFrame(() => {
    if (!figure) return;
    // What never moves is posed once.
    if (isStill(plan) && posed.current?.[0] === figure && posed.current[1] === plan) return;
    figure.pose(evaluate(plan, frameNow(), buffer.current));
    posed.current = [figure, plan];
  });
  return figure ? <primitive object={figure.object} /> : null;
}
