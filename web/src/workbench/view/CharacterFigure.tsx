import { useFrame, useThree } from '@react-three/fiber';
import type { CharacterPlan } from '@warper/core';
import { evaluate, makePose } from '@warper/core';
import { useEffect, useRef, useState } from 'react';
import { useStore } from 'react-redux';
import { library } from '../../motion/pageLibrary';
import type { RootState } from '../../store/store';
import { boneFigure } from './boneFigure';
import type { Figure } from './meshFigure';
import { meshFigure } from './meshFigure';
import { hueColour } from './colours';

/** One character at the frame of the playhead. */
export function CharacterFigure({ plan }: { plan: CharacterPlan }) {
  const store = useStore<RootState>();
  return <PosedFigure plan={plan} frameNow={() => shownFrame(store.getState())} />;
}

/** One character at whatever frame is asked for when it is drawn. */
export function PosedFigure({ plan, frameNow }: { plan: CharacterPlan; frameNow: () => number }) {
  const [figure, setFigure] = useState<Figure | null>(null);
  const invalidate = useThree((s) => s.invalidate);
  const pose = useRef(makePose(plan.skeleton));
  const { body, hue } = plan.character;

  useEffect(() => {
    let gone = false;
    let made: Figure | null = null;
    void loadFigure(body, hue).then((f) => {
      if (gone) return f?.dispose();
      made = f;
      setFigure(f);
    });
    return () => {
      gone = true;
      made?.dispose();
      setFigure(null);
    };
  }, [body, hue]);

  useEffect(() => {
    pose.current = makePose(plan.skeleton);
    invalidate();
  }, [plan, figure, invalidate]);

  useFrame(() => {
    if (!figure) return;
    evaluate(plan, frameNow(), pose.current);
    figure.pose(pose.current);
  });
  return figure ? <primitive object={figure.object} /> : null;
}

/** The whole frame that is on screen: what a bake writes, also while it plays. */
export const shownFrame = (state: RootState): number => Math.floor(state.session.frame + 1e-6);

async function loadFigure(bodyId: string, hue: number): Promise<Figure | null> {
  const entry = library.bodyEntry(bodyId);
  if (!entry) return null;
  const { body, source } = entry;
  if (body.skinned && body.layout.kind === 'gltf') return meshFigure(body, source.bytes);
  return boneFigure(body.skeleton, hueColour(hue));
}
