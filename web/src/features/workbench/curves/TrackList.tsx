import { Button } from '../../../ui/controls';
import type { ChosenOnTracks, Track } from './curveSource';
import { isInHand } from './drawing/drawCurves';

interface Props {
  readonly tracks: readonly Track[];
  readonly hidden: ReadonlySet<string>;
  readonly chosen: ChosenOnTracks;
  readonly onHide: (hidden: ReadonlySet<string>) => void;
}

/** The curves by name: each is shown or not, or shown alone. */
export function TrackList({ tracks, hidden, chosen, onHide }: Props) {
  const toggle = (id: string): void => {
    const next = new Set(hidden);
    if (!next.delete(id)) next.add(id);
    onHide(next);
  };
  const others = (id: string): Set<string> => new Set(tracks.map((t) => t.id).filter((t) => t !== id));
  return (
    <ul aria-label="Curves" className="h-full overflow-y-auto py-1 text-note">
      <li className="px-2">
        <Button look="soft" onClick={() => onHide(new Set())}>
          Show all
        </Button>
      </li>
      {tracks.map(({ id, name, hue, dash, curve }) => (
        <li key={id} className="group relative flex items-center">
          <Button
            look="bare"
            aria-pressed={!hidden.has(id)}
            title={`Show or hide ${name}`}
            className={`flex min-w-0 flex-1 items-center gap-1.5 px-2 py-0.5 text-left ${hidden.has(id) ? 'text-soft' : ''} ${isInHand(chosen, id) ? 'font-semibold' : ''}`}
            onClick={() => toggle(id)}
          >
            <svg width={14} height={8} aria-hidden className="shrink-0" opacity={hidden.has(id) ? 0.3 : 1}>
              <line
                x1={0}
                x2={14}
                y1={4}
                y2={4}
                stroke={`var(--hue-${hue})`}
                strokeWidth={2}
                strokeDasharray={['', '5 2', '2 2'][dash]}
              />
            </svg>
            <span className="truncate">{name}</span>
            <span className="text-soft">{curve.frames.length > 0 ? curve.frames.length : ''}</span>
          </Button>
          <Button
            look="soft"
            className="absolute right-0 bg-paper px-1.5 opacity-0 group-hover:opacity-100 focus-visible:opacity-100"
            aria-label={`Show only ${name}`}
            onClick={() => onHide(others(id))}
          >
            only
          </Button>
        </li>
      ))}
    </ul>
  );
}
