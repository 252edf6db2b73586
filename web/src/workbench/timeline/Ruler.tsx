import { useDrag } from '@use-gesture/react';
import { useRef } from 'react';
import { sessionActions } from '../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../store/store';
import { RULER_HEIGHT, tickSteps } from './geometry';

interface Props {
  readonly frames: number;
  readonly framesPerSecond: number;
}

/** Frame numbers over the lanes; a press or a drag puts the playhead there. */
export function Ruler({ frames, framesPerSecond }: Props) {
  const dispatch = useAppDispatch();
  const ppf = useAppSelector((s) => s.session.pixelsPerFrame);
  const element = useRef<HTMLDivElement>(null);
  const { label, fine } = tickSteps(ppf, framesPerSecond);
  const bind = useDrag(({ xy: [x] }) => {
    const left = element.current?.getBoundingClientRect().left ?? 0;
    dispatch(sessionActions.played(false));
    dispatch(sessionActions.went(Math.round(Math.max(0, (x - left) / ppf))));
  });
  const ticks = Array.from({ length: Math.floor(frames / fine) + 1 }, (_, i) => i * fine);
  return (
    <div
      ref={element}
      className="relative cursor-pointer touch-none border-b"
      style={{ height: RULER_HEIGHT }}
      data-ruler
      {...bind()}
    >
      <svg width={frames * ppf} height={RULER_HEIGHT} className="overflow-visible" aria-hidden>
        {ticks.map((f) => (
          <line
            key={f}
            x1={f * ppf}
            x2={f * ppf}
            y1={f % label === 0 ? 14 : 21}
            y2={27}
            stroke={f % label === 0 ? 'var(--soft)' : 'var(--rule)'}
          />
        ))}
        {ticks
          .filter((f) => f % label === 0)
          .map((f) => (
            <text key={f} x={f * ppf + 4} y={17} className="fill-soft text-[12px]">
              {f}
            </text>
          ))}
      </svg>
    </div>
  );
}
