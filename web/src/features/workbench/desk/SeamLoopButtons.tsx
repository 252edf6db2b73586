import { Repeat } from 'lucide-react';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import type { SeamInHand } from './seamInHand';

const PACES = [
  [1, 'Loop'],
  [0.25, 'Loop at a quarter'],
] as const;

/** Seconds before and after a seam that are played with it. */
const AROUND = 0.7;

interface Props {
  readonly seam: SeamInHand;
  readonly framesPerSecond: number;
}

/** Plays the frames around the seam over and over, from the front and the side of its character. */
export function SeamLoopButtons({ seam, framesPerSecond }: Props) {
  const dispatch = useAppDispatch();
  const loop = useAppSelector((s) => s.session.seamLoop);
  const { character, incoming } = seam;
  const around = Math.round(AROUND * framesPerSecond);
  const play = (pace: number): void => {
    const from = Math.max(character.start, incoming.start - around);
    const length = incoming.overlap || (incoming.settle?.frames ?? 0);
    const to = Math.min(character.end, incoming.start + length + around);
    dispatch(sessionActions.seamLooped({ from, to, pace }));
  };
  return (
    <div role="group" aria-label="Loop playback of the seam" className="ml-auto flex gap-1.5">
      {PACES.map(([pace, name]) => (
        <Button
          key={pace}
          look="chip"
          className="inline-flex items-center gap-1 whitespace-nowrap"
          aria-pressed={loop?.pace === pace}
          onClick={() => (loop?.pace === pace ? dispatch(sessionActions.seamLooped(null)) : play(pace))}
        >
          <Repeat size={12} aria-hidden /> {name}
        </Button>
      ))}
    </div>
  );
}
