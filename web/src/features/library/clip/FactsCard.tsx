import { MeasureName } from '../../../ui/MeasureName';
import { FLOAT_TEXT } from '../../../ui/measures';
import type { Clip } from '@warper/core';
import { useLiveQuery } from 'dexie-react-hooks';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { describeError } from '../../../data/importFiles';
import { Button, Check, Choice, Group } from '../../../ui/controls';
import { DialFields } from '../../../ui/DialFields';
import { GradeMark } from '../../../ui/grade';
import { LoopFinder } from '../../../ui/LoopFinder';
import { NumberField } from '../../../ui/NumberField';
import { seconds } from '../../../ui/time';
import type { StoredClip } from '../../../data/db';
import { usesOf } from '../clipActions';
import { bonesPath, clipPath } from '../../../parts/clipPath';
import { makeClip } from './makeClip';
import type { Variant } from './variant';
import { asRecorded, variantName } from './variant';

interface Props {
  readonly stored: StoredClip;
  readonly clip: Clip;
  readonly variant: Variant;
  readonly change: (values: Partial<Variant>) => void;
  readonly editSteps: () => void;
}

/** What is known of a clip, its loops, and what can be made from it. */
export function FactsCard({ stored, clip, variant, change, editSteps }: Props) {
  return (
    <aside aria-label="Facts" className="overflow-y-auto border-l bg-raised px-4 py-3">
      <h1 className="text-title leading-tight font-bold">{stored.name}</h1>
      <p className="pb-2 text-soft">
        {stored.file}
        {stored.tags.length > 0 && ` · ${stored.tags.join(', ')}`}
      </p>
      <Facts stored={stored} clip={clip} editSteps={editSteps} />
      <Uses id={stored.id} />
      <Loops stored={stored} clip={clip} variant={variant} change={change} />
      <Group title="Preview">
        <NumberField
          label="Clip start"
          value={variant.in}
          least={0}
          most={variant.out - 1}
          onChange={(v) => change({ in: Math.round(v) })}
        />
        <NumberField
          label="Clip end"
          value={variant.out}
          least={variant.in + 1}
          most={clip.frames}
          onChange={(v) => change({ out: Math.round(v) })}
        />
        <Choice
          label="Travel"
          value={variant.travel}
          options={[
            ['recorded', 'As recorded'],
            ['in place', 'In place'],
            ['restored', 'Rebuilt from the feet'],
            ['scaled', 'Scaled to the feet'],
          ]}
          onChange={(travel) => change({ travel })}
        />
        <Check label="Loop playback" checked={variant.loop} onChange={(loop) => change({ loop })} />
        <Check label="Mirror left/right" checked={variant.mirror} onChange={(mirror) => change({ mirror })} />
        <Check label="Reverse" checked={variant.reverse} onChange={(reverse) => change({ reverse })} />
        <Check
          label="Straighten"
          checked={variant.straighten}
          onChange={(straighten) => change({ straighten })}
        />
        <DialFields dials={variant.dials} onChange={(dials) => change({ dials })} />
      </Group>
      <Make
        key={JSON.stringify(variant)}
        stored={stored}
        clip={clip}
        variant={variant}
        reset={() => change(asRecorded(clip))}
      />
    </aside>
  );
}

const VERDICTS = {
  doubled: 'its last sample is its first again',
  ordinary: 'it runs on into its first sample',
  closes: 'it can be closed',
  none: 'it does not loop as a whole',
} as const;

/** Float and sink from which on they are worth a look, and wrong, centimetres (common practice). */
const FLOAT = { watch: 2, bad: 5 };

function Facts({ stored, clip, editSteps }: Pick<Props, 'stored' | 'clip' | 'editSteps'>) {
  const { facts } = stored;
  const { loop } = facts;
  const away = Math.abs(facts.floatCm);
  const rows: readonly (readonly [string, string])[] = [
    ['samples', `${facts.frames} at ${Number(facts.rate.toFixed(3))} a second`],
    ['length', facts.restPose ? 'a rest pose' : seconds(facts.seconds)],
    ['travel', `${facts.travelMetres.toFixed(2)} m`],
    ['turn', `${facts.turnDegrees.toFixed(1)}°`],
    ['mean speed', `${facts.meanSpeed.toFixed(2)} m/s`],
    ['stride speed', facts.strideSpeed === null ? '–' : `${facts.strideSpeed.toFixed(2)} m/s`],
  ];
  return (
    <Group title="Measured">
      <dl className="grid grid-cols-[auto_1fr] gap-x-3">
        {rows.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-soft">{name}</dt>
            <dd className="text-right">{value}</dd>
          </div>
        ))}
        <dt className="text-soft">Steps</dt>
        <dd className="text-right">
          <Button look="bare" className="underline decoration-dotted underline-offset-3" onClick={editSteps}>
            {facts.leftFoot.length} left, {facts.rightFoot.length} right{stored.steps ? ', by hand' : ''}
            <span className="sr-only">: edit steps</span>
          </Button>
        </dd>
        <dt className="text-soft">Bones</dt>
        <dd className="text-right">
          <Link to={bonesPath(stored.id)} className="underline decoration-dotted underline-offset-3">
            {clip.skeleton.names.length}, and how they are mapped
          </Link>
        </dd>
        <dt className="text-soft">
          <MeasureName text={FLOAT_TEXT}>
            {facts.floatCm < -0.05 ? 'feet sink by' : 'feet float by'}
          </MeasureName>
        </dt>
        <dd className="text-right">
          <GradeMark grade={away >= FLOAT.bad ? 'bad' : away >= FLOAT.watch ? 'watch' : 'good'} />{' '}
          {away.toFixed(1)} cm
        </dd>
      </dl>
      {!facts.restPose && (
        <p className="text-soft">
          From end to start {VERDICTS[loop.verdict]}: {(loop.gapMetres * 100).toFixed(1)} cm and{' '}
          {loop.gapDegrees.toFixed(1)}° apart.
        </p>
      )}
      {facts.jumps.map((j) => (
        <p key={j.sample} className="text-watch">
          ▲ jumps by {(j.metres * 100).toFixed(0)} cm at sample {j.sample}
        </p>
      ))}
    </Group>
  );
}

/** The scenes that use the clip. */
function Uses({ id }: { id: string }) {
  const uses = useLiveQuery(() => usesOf([id]).then((all) => all.get(id) ?? []), [id]) ?? [];
  if (uses.length === 0) return null;
  return (
    <Group title="Used in">
      <ul>
        {uses.map(({ scene, sceneId, segments }) => (
          <li key={sceneId} className="flex justify-between gap-3">
            <Link
              to={`/scene/${encodeURIComponent(sceneId)}`}
              className="truncate underline decoration-dotted underline-offset-3"
            >
              {scene}
            </Link>
            <span className="shrink-0 text-soft">
              {segments} {segments === 1 ? 'segment' : 'segments'}
            </span>
          </li>
        ))}
      </ul>
    </Group>
  );
}

function Loops({ stored, clip, variant, change }: Omit<Props, 'editSteps'>) {
  if (clip.frames < 4) return null;
  return (
    <Group title="Loops found">
      <LoopFinder
        clip={clip}
        known={stored.loops}
        isChosen={(l) => variant.loop && variant.in === l.in && variant.out === l.out}
        onChoose={(l) => change({ in: l.in, out: l.out, loop: true })}
      />
    </Group>
  );
}

function Make(props: { stored: StoredClip; clip: Clip; variant: Variant; reset: () => void }) {
  const { stored, clip, variant, reset } = props;
  const proposed = variantName(stored.name, clip, variant);
  const [name, setName] = useState(proposed);
  const [busy, setBusy] = useState(false);
  const navigate = useNavigate();
  // Playing over and over changes how it is shown, not what it is.
  if (proposed === stored.name) return null;
  const make = (): void => {
    setBusy(true);
    makeClip(clip, variant, name.trim() || proposed)
      .then(
        (id) => {
          toast(`${name} is in the library`);
          void navigate(clipPath(id));
        },
        (error) => toast.error(describeError(error).message),
      )
      .finally(() => setBusy(false));
  };
  return (
    <Group title="Save as new clip">
      <input
        aria-label="Name of the new clip"
        className="w-full border-b border-dotted border-soft bg-transparent py-0.5"
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
      />
      <div className="flex gap-2 pt-1">
        <Button disabled={busy} onClick={make}>
          {busy ? 'Saving' : 'Save clip'}
        </Button>
        <Button look="quiet" onClick={reset}>
          As recorded
        </Button>
      </div>
    </Group>
  );
}
