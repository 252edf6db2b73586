import { memo } from 'react';
import { Button } from '../../../ui/controls';
import { useStableCallback } from '../../../ui/useStableCallback';
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
  const toggle = useStableCallback((id: string): void => {
    const next = new Set(hidden);
    if (!next.delete(id)) next.add(id);
    onHide(next);
  });
  const showOnly = useStableCallback((id: string): void =>
    onHide(new Set(tracks.map((t) => t.id).filter((t) => t !== id))),
  );
  return (
    <ul aria-label="Curves" className="h-full overflow-y-auto py-1 text-note">
      <li className="px-2">
        <Button look="soft" onClick={() => onHide(new Set())}>
          Show all
        </Button>
      </li>
      {tracks.map(({ id, name, hue, dash, curve }) => (
        <TrackRow
          key={id}
          {...{ id, name, hue, dash, toggle, showOnly }}
          keys={curve.frames.length}
          isShown={!hidden.has(id)}
          inHand={isInHand(chosen, id)}
        />
      ))}
    </ul>
  );
}

interface RowProps extends Pick<Track, 'id' | 'name' | 'hue' | 'dash'> {
  readonly keys: number;
  readonly isShown: boolean;
  readonly inHand: boolean;
  readonly toggle: (id: string) => void;
  readonly showOnly: (id: string) => void;
}

/** One curve's name; rendered again only where it has changed: there can be hundreds, and a drag changes one. */
const TrackRow = memo(function TrackRow(props: RowProps) {
  const { id, name, hue, dash, keys, isShown, inHand, toggle, showOnly } = props;
  return (
    <li className="group relative flex items-center">
      <Button
        look="bare"
        aria-pressed={isShown}
        title={`Show or hide ${name}`}
        className={`flex min-w-0 flex-1 items-center gap-1.5 px-2 py-0.5 text-left ${isShown ? '' : 'text-soft'} ${inHand ? 'font-semibold' : ''}`}
        onClick={() => toggle(id)}
      >
        <svg width={14} height={8} aria-hidden className="shrink-0" opacity={isShown ? 1 : 0.3}>
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
        <span className="text-soft">{keys > 0 ? keys : ''}</span>
      </Button>
      <Button
        look="soft"
        className="absolute right-0 bg-paper px-1.5 opacity-0 group-hover:opacity-100 focus-visible:opacity-100"
        aria-label={`Show only ${name}`}
        onClick={() => showOnly(id)}
      >
        only
      </Button>
    </li>
  );
});
