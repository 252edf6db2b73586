import type { Clip } from '@warper/core';
import { clipScene, compile } from '@warper/core';
import type { ListedClip } from '@warper/formats';
import { foldersOf } from '@warper/formats';
import { Pause, Play, X } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { describeError } from '../../../data/importFiles';
import { library } from '../../../data/pageLibrary';
import { Button, Choice } from '../../../ui/controls';
import { describeFacts } from '../../../ui/describeFacts';
import { DialFields } from '../../../ui/DialFields';
import { LookFields } from '../../../ui/LookFields';
import { NumberField } from '../../../ui/NumberField';
import { seconds } from '../../../ui/time';
import type { Wearer } from '../../../parts/useWearers';
import { useWearers } from '../../../parts/useWearers';
import { ClipStage } from '../clip/ClipStage';
import { usePlaying } from '../clip/usePlaying';
import { clipPath } from '../../../parts/clipPath';
import type { TakenAs } from '../../../data/server/serverApi';
import { AS_RECORDED } from '../../../data/server/serverApi';
import { takeClip } from '../../../data/server/takeFromServer';
import { useTried } from './useTried';

interface Props {
  readonly clip: ListedClip;
  readonly close: () => void;
}

/** A clip of the server on one's own character, before it is taken. */
export function TryPanel({ clip, close }: Props) {
  const tried = useTried(clip);
  const [as, setAs] = useState(AS_RECORDED);
  const { facts } = clip;
  return (
    <aside
      aria-label="Try"
      className="flex w-[360px] max-w-full shrink-0 flex-col border-l bg-raised max-narrow:absolute max-narrow:inset-y-[46px] max-narrow:right-0 max-narrow:z-20"
    >
      <div className="flex items-start gap-2 px-4 pt-3 pb-2">
        <div className="min-w-0 flex-1">
          <h2 className="truncate text-title leading-tight font-bold">{clip.name}</h2>
          <p className="truncate text-soft">
            {facts.restPose ? 'rest pose' : `${seconds(facts.seconds)} at ${Number(facts.rate.toFixed(2))}`} ·{' '}
            {describeFacts(facts)}
          </p>
          <p className="truncate text-note text-soft">{clip.file}</p>
        </div>
        <Button look="soft" aria-label="Close" onClick={close}>
          <X size={16} aria-hidden />
        </Button>
      </div>
      {tried.state === 'open' ? (
        <OnCharacter clip={tried.clip} body={tried.body} repeats={repeats(facts)} as={as} change={setAs} />
      ) : (
        <p
          role={tried.state === 'failed' ? 'alert' : 'status'}
          className="grid flex-1 place-items-center px-6 text-soft"
        >
          {tried.state === 'failed' ? `${tried.message} ${tried.hint}` : 'Loading the clip'}
        </p>
      )}
      <Take clip={clip} as={as} />
    </aside>
  );
}

interface OnProps {
  readonly clip: Clip;
  /** Its own bones. */
  readonly body: string;
  /** Whether it runs on into its start. */
  readonly repeats: boolean;
  readonly as: TakenAs;
  readonly change: (as: TakenAs) => void;
}

function OnCharacter({ body, ...rest }: OnProps) {
  const wearers = useWearers(rest.clip);
  if (!wearers) return <div className="flex-1" />;
  return <OnStage own={body} wearers={wearers} {...rest} />;
}

function OnStage(props: Omit<OnProps, 'body'> & { own: string; wearers: readonly Wearer[] }) {
  const { clip, own, wearers, repeats, as, change } = props;
  const [body, setBody] = useState(wearers[0]?.id ?? own);
  const [on, setOn] = useState(true);
  const plan = useMemo(() => {
    const use = repeats ? { ...as, loop: true, repeat: CYCLES } : as;
    const onBody = (id: string) => compile(clipScene(clip, id, use), library);
    try {
      return onBody(body);
    } catch {
      return onBody(own);
    }
  }, [clip, body, own, repeats, as]);
  const { playing } = usePlaying(plan.end, clip.rate, on && !reducedMotion());
  return (
    <>
      <section aria-label="The clip on a character" className="relative min-h-0 flex-1 bg-plaster">
        <ClipStage plan={plan} playing={playing} side="around" />
        <Button
          look="quiet"
          className="absolute bottom-1 left-1"
          aria-label={on ? 'Pause' : 'Play'}
          onClick={() => setOn((o) => !o)}
        >
          {on ? <Pause size={16} aria-hidden /> : <Play size={16} aria-hidden />}
        </Button>
      </section>
      <div className="flex flex-col gap-1 border-t px-4 py-2.5">
        <Choice
          label="Character"
          value={body}
          options={[...wearers.map((w) => [w.id, w.name] as const), [own, 'Its own skeleton']]}
          onChange={setBody}
        />
        <AskedFields as={as} change={change} />
      </div>
    </>
  );
}

/** What is asked of the clip. */
function AskedFields({ as, change }: Pick<OnProps, 'as' | 'change'>) {
  return (
    <>
      <NumberField
        label="Speed"
        value={as.speed}
        step={0.05}
        digits={2}
        unit="×"
        least={0.05}
        most={20}
        onChange={(speed) => change({ ...as, speed })}
      />
      <Choice
        label="Travel"
        value={as.travel}
        options={[
          ['recorded', 'As recorded'],
          ['in place', 'In place'],
          ['restored', 'Rebuilt from the feet'],
        ]}
        onChange={(travel) => change({ ...as, travel })}
      />
      <details className="text-soft">
        <summary className="cursor-pointer">Posture</summary>
        <div className="flex flex-col gap-1 pt-1 text-ink">
          <DialFields dials={as.dials} onChange={(dials) => change({ ...as, dials })} />
        </div>
      </details>
      <details className="text-soft">
        <summary className="cursor-pointer">Look</summary>
        <div className="flex flex-col gap-1 pt-1 text-ink">
          <LookFields
            look={as.look}
            placeAhead={() => BEFORE_THE_EYES}
            limits={false}
            onChange={(look) => change({ ...as, look })}
          />
        </div>
      </details>
    </>
  );
}

/** A place that is looked at first, metres. */
const BEFORE_THE_EYES = [0.8, 1.5, 2] as const;

/** Cycles of a loop that are shown, so that it is seen to go on. */
const CYCLES = 4;

const repeats = ({ loop }: ListedClip['facts']): boolean =>
  loop.verdict === 'doubled' || loop.verdict === 'ordinary';

/** Milliseconds that the way to a taken clip is offered. */
const MESSAGE_MS = 10_000;

const reducedMotion = (): boolean => matchMedia('(prefers-reduced-motion: reduce)').matches;

/** What a taken clip is called: its name, and what was asked of it. */
const takenName = (name: string, { speed, travel, dials, look }: TakenAs): string =>
  [
    name,
    speed !== 1 && `${speed} times as fast`,
    travel !== 'recorded' && travel,
    Object.keys(dials).length > 0 && 'posed',
    look && 'looking',
  ]
    .filter(Boolean)
    .join(', ');

function Take({ clip, as }: { clip: ListedClip; as: TakenAs }) {
  const [busy, setBusy] = useState(false);
  const navigate = useNavigate();
  const take = (): void => {
    setBusy(true);
    takeClip(clip, as, takenName(clip.name, as))
      .then(
        ({ id, known }) =>
          toast(known ? 'Already in this browser' : `${takenName(clip.name, as)} was added`, {
            duration: MESSAGE_MS,
            action: { label: 'Open clip', onClick: () => void navigate(clipPath(id)) },
          }),
        (error) => {
          const { message, hint } = describeError(error);
          toast.error(`Nothing was added. ${message} ${hint}`);
        },
      )
      .finally(() => setBusy(false));
  };
  const folders = foldersOf(clip.file);
  return (
    <div className="flex items-center gap-3 border-t px-4 py-3">
      <Button look="primary" disabled={busy} onClick={take}>
        {busy ? 'Adding' : 'Add this clip'}
      </Button>
      {folders.length > 0 && <span className="truncate text-soft">tagged {folders.join(', ')}</span>}
    </div>
  );
}
