import { ArrowDown, ArrowUp } from 'lucide-react';
import { Button } from './controls';

interface Props {
  readonly name: string;
  /** Its place in the list, and how many there are. */
  readonly index: number;
  readonly of: number;
  /** What a place further up, and further down, is called. */
  readonly words: readonly [up: string, down: string];
  readonly onOrder: (to: number) => void;
}

/** Moves a row of a list up or down by one. */
export function OrderButtons({ name, index, of, words, onOrder }: Props) {
  return ([-1, 1] as const).map((by) => {
    const [Arrow, word] = by < 0 ? [ArrowUp, words[0]] : [ArrowDown, words[1]];
    const to = index + by;
    return (
      <Button
        look="soft"
        key={by}
        className="p-0.5"
        aria-label={`${name} ${word}`}
        disabled={to < 0 || to >= of}
        onClick={() => onOrder(to)}
      >
        <Arrow size={13} aria-hidden />
      </Button>
    );
  });
}
