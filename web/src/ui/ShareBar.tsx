import { Progress } from 'radix-ui';

interface Props {
  /** What is under way. */
  readonly label: string;
  /** The share of it that is done, 0 to 1. */
  readonly share: number;
  readonly className?: string;
}

/** How much of something long is done. */
export function ShareBar({ label, share, className = 'h-2 w-60' }: Props) {
  return (
    <Progress.Root
      value={Math.round(share * 100)}
      className={`overflow-hidden rounded-full bg-rule ${className}`}
      aria-label={label}
    >
      <Progress.Indicator className="h-full bg-signal" style={{ width: `${share * 100}%` }} />
    </Progress.Root>
  );
}
