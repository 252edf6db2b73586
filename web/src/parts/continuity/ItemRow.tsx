import type { CharacterPlan, ContinuityItem, Scene } from '@warper/core';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { commit } from '../../store/edits';
import type { Selection } from '../../store/sessionState';
import { sessionActions } from '../../store/sessionSlice';
import { useAppDispatch } from '../../store/store';
import { Button } from '../../ui/controls';
import { GradeMark } from '../../ui/grade';
import { TextField } from '../../ui/TextField';
import { MendPanel } from './MendPanel';
import { posePath } from './posePath';
import { writeMeasure } from '../../ui/writeMeasure';

interface Props {
  readonly scene: Scene;
  readonly item: ContinuityItem;
  readonly plan: CharacterPlan | undefined;
}

const PICTURE = 44;

/** What an item is about, as a selection. */
function selectionOf({ kind, id, segment, character }: ContinuityItem): Selection {
  if (kind === 'layer') return { kind, id: id.slice('layer:'.length) };
  if (kind === 'tether' || kind === 'reach') return { kind: 'tether', id: id.slice(kind.length + 1) };
  if (kind === 'sunk' || kind === 'meeting') return { kind: 'character', id: character };
  return { kind: kind === 'seam' || kind === 'level' ? 'seam' : 'segment', id: segment };
}

/** Something that was measured: where it is, how it looks there, why it is so, and what can be done. */
export function ItemRow({ scene, item, plan }: Props) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const middle = Math.floor((item.frame + item.end) / 2);
  const path = useMemo(() => (plan ? posePath(plan, middle, PICTURE) : ''), [plan, middle]);
  const show = (): void => {
    dispatch(sessionActions.selected(selectionOf(item)));
    dispatch(sessionActions.went(middle));
    void navigate(`/scene/${location.pathname.split('/')[2]}`);
  };
  return (
    <tr className="border-t align-top" data-item={item.id}>
      <td className="py-2 pr-3">
        <svg width={PICTURE} height={PICTURE} aria-hidden>
          <path
            d={path}
            fill="none"
            stroke={`var(--hue-${plan?.character.hue ?? 0})`}
            strokeWidth={1.6}
            strokeLinecap="round"
          />
        </svg>
      </td>
      <td className="py-2 pr-3">
        <Button look="bare" className="text-left underline decoration-rule underline-offset-4" onClick={show}>
          {item.name}
        </Button>
        <p className="text-note text-soft">
          {item.characterName}, frames {item.frame} to {item.end}
        </p>
      </td>
      <td className="py-2 pr-3 whitespace-nowrap">
        <GradeMark grade={item.grade} word /> {writeMeasure(item.measure, item.value)}
      </td>
      <td className="py-2 pr-3">
        {item.cause && (
          <p>
            {item.cause}. <span className="text-soft">{item.hint}</span>
          </p>
        )}
        {scene.ignored[item.id] !== undefined && (
          <p className="hidden text-soft print:block">Ignored: {scene.ignored[item.id]}</p>
        )}
        {item.grade !== 'good' && (
          <div className="mt-1 flex flex-wrap items-center gap-2 print:hidden">
            <MendPanel scene={scene} item={item} />
            <IgnoreField item={item} reason={scene.ignored[item.id]} />
          </div>
        )}
      </td>
    </tr>
  );
}

/** Leaves something out of the list with a reason, or puts it back. */
function IgnoreField({ item, reason }: { readonly item: ContinuityItem; readonly reason?: string }) {
  const dispatch = useAppDispatch();
  const [isAsking, setAsking] = useState(false);
  const ignore = (why: string | null): void => {
    setAsking(false);
    dispatch(commit({ type: 'ignore', item: item.id, reason: why }));
  };
  if (reason !== undefined)
    return (
      <>
        <span className="text-soft">Ignored{reason && `: ${reason}`}</span>
        <Button onClick={() => ignore(null)}>Look at it again</Button>
      </>
    );
  if (isAsking) return <TextField label="Why it may stay" value="" onChange={ignore} />;
  return <Button onClick={() => setAsking(true)}>Ignore</Button>;
}
