import { framesPerSecond } from '@warper/core';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { Suspense, lazy } from 'react';
import { seamOf } from '../../../store/plan';
import { selectPreviewPlan } from '../../../store/selectors';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { GradeMark, worstMeasure } from '../../../ui/grade';
import { BelowSwitch } from '../BelowSwitch';
import { SeamLoopButtons } from './SeamLoopButtons';
import { SeamStrips } from './SeamStrips';
import type { SeamInHand } from './seamInHand';
import { seamInHand, stepSeam } from './seamInHand';

/** Charts are loaded when they are first looked at. */
const SeamCharts = lazy(async () => ({ default: (await import('./SeamCharts')).SeamCharts }));

/** The seam in hand at length: what meets, how it moves, and how it looks over and over. */
export function SeamDesk() {
  const dispatch = useAppDispatch();
  const { plan } = useAppSelector(selectPreviewPlan);
  const selection = useAppSelector((s) => s.session.selection);
  const seam = seamInHand(plan, selection);
  const fps = framesPerSecond(plan.rate);
  return (
    <section aria-label="Seam desk" className="flex h-full min-h-0 flex-col border-t">
      {seam ? (
        <>
          <DeskHead seam={seam} rate={plan.rate} />
          <div className="flex min-h-0 flex-1 gap-5 px-4 pb-1">
            <SeamStrips seam={seam} framesPerSecond={fps} />
            <div className="flex w-[34%] min-w-56 flex-col">
              <Suspense fallback={<p className="text-soft">Loading the charts…</p>}>
                <SeamCharts
                  key={seam.incoming.id}
                  character={seam.character}
                  index={seam.index}
                  framesPerSecond={fps}
                  worstJoint={seamOf(seam.character, seam.index - 1, plan.rate).worstJoint}
                />
              </Suspense>
            </div>
          </div>
        </>
      ) : (
        <div className="flex flex-1 flex-col items-center justify-center gap-2">
          <p className="text-soft">Select a seam on a lane to see what meets there, and how it moves.</p>
          <Button onClick={() => dispatch(stepSeam(0))}>Seam nearest to the playhead</Button>
        </div>
      )}
      <div className="flex h-[25px] shrink-0 items-center border-t">
        <BelowSwitch />
      </div>
    </section>
  );
}

/** Which seam it is, how good, and the ways to the next and to see it over and over. */
function DeskHead({ seam, rate }: { seam: SeamInHand; rate: Parameters<typeof seamOf>[2] }) {
  const dispatch = useAppDispatch();
  const { character, outgoing, incoming, index } = seam;
  const count = character.segments.length - 1;
  const measures = seamOf(character, index - 1, rate);
  return (
    <div className="flex shrink-0 items-center gap-3 px-4 py-1">
      <Button
        look="soft"
        aria-label="Seam before"
        disabled={index <= 1}
        onClick={() => dispatch(stepSeam(-1))}
      >
        <ChevronLeft size={16} aria-hidden />
      </Button>
      <Button
        look="soft"
        aria-label="Next seam"
        disabled={index >= count}
        onClick={() => dispatch(stepSeam(1))}
      >
        <ChevronRight size={16} aria-hidden />
      </Button>
      <h2 className="min-w-0 truncate font-bold">
        {outgoing.name} → {incoming.name}
      </h2>
      <p className="whitespace-nowrap">
        <GradeMark grade={measures.grade} /> {worstMeasure(measures)}
      </p>
      <p className="text-small whitespace-nowrap text-soft">
        Seam {index} of {count} · {character.character.name}
      </p>
      <SeamLoopButtons seam={seam} framesPerSecond={framesPerSecond(rate)} />
    </div>
  );
}
