import type { Plan } from '@warper/core';
import { useEffect, useState } from 'react';
import { useStore } from 'react-redux';
import type { RootState } from '../../../store/store';
import { useAppSelector } from '../../../store/store';
import { headingOf } from './framing';

/**
 * The heading, radians, whose front and side the view shows: of the character in hand as it faces when it is selected, when an
 * angle is chosen, or when it is brought into view; then it stays, or the view would turn with every step. 0 for the world's.
 */
export function useFacing(plan: Plan): number {
  const selection = useAppSelector((s) => s.session.selection);
  const angle = useAppSelector((s) => s.session.angle);
  const axes = useAppSelector((s) => s.session.axes);
  const framing = useAppSelector((s) => s.session.framing);
  const store = useStore<RootState>();
  const [heading, setHeading] = useState(0);
  useEffect(() => {
    setHeading(axes === 'world' ? 0 : headingOf(plan, selection, store.getState().session.frame));
    // Edits leave the view as it is.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [selection, angle, axes, framing, store]);
  return heading;
}
