import { Canvas, useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import { useStore } from 'react-redux';
import { shownPlan, shownScene } from '../../store/selectors';
import { sessionActions } from '../../store/sessionSlice';
import type { ViewAngle } from '../../store/sessionSlice';
import type { RootState } from '../../store/store';
import { useAppDispatch, useAppSelector } from '../../store/store';
import { ViewCamera } from './Camera';
import { CharacterFigure } from './CharacterFigure';
import { Floor } from './Floor';
import { FloorPath } from './FloorPath';
import { Marks } from './Marks';

/** Draws again whenever the shown frame or the theme changes; nothing is drawn in between. */
function Redraw() {
  const store = useStore<RootState>();
  const invalidate = useThree((s) => s.invalidate);
  useEffect(() => {
    let seen = store.getState().session;
    return store.subscribe(() => {
      const now = store.getState().session;
      if (now.frame !== seen.frame || now.theme !== seen.theme || now.follow !== seen.follow) invalidate();
      seen = now;
    });
  }, [store, invalidate]);
  return null;
}

const ANGLES: readonly (readonly [ViewAngle, string])[] = [
  ['free', 'Around'],
  ['front', 'Front'],
  ['side', 'Side'],
  ['top', 'Top'],
];

/** The 3D view of the performance at the playhead. */
export function View() {
  const { plan } = useAppSelector(shownPlan);
  const scene = useAppSelector(shownScene);
  const theme = useAppSelector((s) => s.session.theme);
  return (
    <section
      aria-label="View: the characters at the playhead"
      className="relative h-full min-w-0 overflow-hidden bg-plaster"
    >
      <Canvas frameloop="demand" dpr={[1, 2]} gl={{ antialias: true }}>
        <Floor theme={theme} />
        <hemisphereLight args={['#ffffff', '#b9ae9a', 2.3]} />
        <directionalLight position={[3, 6, 4]} intensity={1.9} />
        {plan.characters.map((c) => (
          <FloorPath key={`${c.character.id}-${theme}`} plan={c} rate={plan.rate} />
        ))}
        {plan.characters.map((c) => (
          <Marks key={c.character.id} scene={scene} plan={c} />
        ))}
        {plan.characters.map((c) => (
          <CharacterFigure key={c.character.id} plan={c} />
        ))}
        <ViewCamera plan={plan} />
        <Redraw />
      </Canvas>
      <ViewControls />
      <span className="absolute top-2.5 right-3 text-[13px] text-soft">squares of 1 m</span>
    </section>
  );
}

function ViewControls() {
  const dispatch = useAppDispatch();
  const angle = useAppSelector((s) => s.session.angle);
  const follow = useAppSelector((s) => s.session.follow);
  const { plan } = useAppSelector(shownPlan);
  return (
    <div className="absolute top-2 left-3 flex items-center gap-3 text-[13px]">
      <div role="group" aria-label="Look from" className="flex">
        {ANGLES.map(([key, name]) => (
          <button
            key={key}
            type="button"
            aria-pressed={angle === key}
            className={`border-b-2 px-1.5 py-0.5 ${angle === key ? 'border-ink' : 'border-transparent text-soft hover:text-ink'}`}
            onClick={() => dispatch(sessionActions.turned(key))}
          >
            {name}
          </button>
        ))}
      </div>
      <label className="flex items-baseline gap-1.5 text-soft">
        follow
        <select
          className="border-b border-dotted border-soft bg-transparent text-ink [&>option]:bg-raised"
          value={follow ?? ''}
          onChange={(e) => dispatch(sessionActions.followed(e.currentTarget.value || null))}
        >
          <option value="">nobody</option>
          {plan.characters.map((c) => (
            <option key={c.character.id} value={c.character.id}>
              {c.character.name}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}
