import { Popover } from 'radix-ui';
import { useEffect, useLayoutEffect, useState } from 'react';
import { DEMONSTRATION } from '../../../data/demonstration';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import type { TourCard } from './tourCards';
import { TOUR } from './tourCards';

/** The tour: a card at a time beside the part that it is about. A first visit to the demonstration begins with it. */
export function Tour({ id }: { readonly id: string }) {
  const dispatch = useAppDispatch();
  const index = useAppSelector((s) => s.session.tour);
  const toured = useAppSelector((s) => s.session.toured);
  useEffect(() => {
    if (!toured && id === DEMONSTRATION) dispatch(sessionActions.touredTo(0));
  }, [toured, id, dispatch]);
  const card = index === null ? undefined : TOUR[index];
  return card && index !== null ? <Card key={index} card={card} index={index} /> : null;
}

/** The part of the workbench that a card is about; the middle of the page where it is not shown. */
const partOf = ({ at }: TourCard): Element => document.querySelector(`[data-tour="${at}"]`) ?? document.body;

function Card({ card, index }: { readonly card: TourCard; readonly index: number }) {
  const dispatch = useAppDispatch();
  const go = (to: number | null): void => void dispatch(sessionActions.touredTo(to));
  const [part, setPart] = useState<Element | null>(null);
  useLayoutEffect(() => setPart(partOf(card)), [card]);
  if (!part) return null;
  const last = index === TOUR.length - 1;
  return (
    <Popover.Root open onOpenChange={(open) => !open && go(null)}>
      <Popover.Anchor virtualRef={{ current: part }} />
      <Outline part={part} />
      <Popover.Portal>
        <Popover.Content
          side={card.side}
          collisionPadding={12}
          sideOffset={8}
          aria-labelledby="tour-title"
          className="z-40 w-72 rounded-lg border bg-raised p-4 shadow-lg"
          onInteractOutside={(e) => e.preventDefault()}
        >
          <p className="text-note text-soft">
            {index + 1} of {TOUR.length}
          </p>
          <h2 id="tour-title" className="text-title font-bold">
            {card.title}
          </h2>
          <p className="mt-1">{card.text}</p>
          <div className="mt-3 flex gap-2">
            <Button look="quiet" onClick={() => go(null)}>
              Leave
            </Button>
            <span className="flex-1" />
            {index > 0 && <Button onClick={() => go(index - 1)}>Back</Button>}
            <Button look="primary" autoFocus onClick={() => go(last ? null : index + 1)}>
              {last ? 'Done' : 'Next'}
            </Button>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** A line around the part that a card is about. */
function Outline({ part }: { readonly part: Element }) {
  const [box, setBox] = useState(() => part.getBoundingClientRect());
  useEffect(() => {
    const look = (): void => setBox(part.getBoundingClientRect());
    addEventListener('resize', look);
    return () => removeEventListener('resize', look);
  }, [part]);
  return (
    <div
      aria-hidden
      className="pointer-events-none fixed z-30 rounded-md border-2 border-signal"
      style={{ left: box.left, top: box.top, width: box.width, height: box.height }}
    />
  );
}
