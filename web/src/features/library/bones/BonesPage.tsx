import type { Clip, Role, RoleMap } from '@warper/core';
import { roleWords, defined } from '@warper/core';
import { skeletonSignature } from '@warper/formats';
import { useLiveQuery } from 'dexie-react-hooks';
import { Pause, Play } from 'lucide-react';
import { useCallback, useMemo, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Link, useParams } from 'react-router';
import { toast } from 'sonner';
import { PageHeader } from '../../../parts/PageHeader';
import { Button, Choice } from '../../../ui/controls';
import type { StoredClip, StoredMapping } from '../../../data/db';
import { db } from '../../../data/db';
import { pressesItself } from '../clip/pressesItself';
import { useClip } from '../clip/useClip';
import { usePlaying } from '../clip/usePlaying';
import { clipPath } from '../../../parts/clipPath';
import { BoneFigure } from './BoneFigure';
import { BoneTable } from './BoneTable';
import { boneRows, giveRole, restingBones } from './boneRows';
import { MappedStage, planOn } from './MappedStage';
import { MappingKeeper } from './MappingKeeper';
import type { Wearer } from '../../../parts/useWearers';
import { useWearers } from '../../../parts/useWearers';
import { useTrial } from './useTrial';
import type { BoneRow } from './boneRows';
import type { Skeleton } from '@warper/core';
import type { ReactNode } from 'react';

/** How the skeleton of a clip is mapped onto a character: by names, and by hand where those do not tell. */
export default function BonesPage() {
  const { id = '' } = useParams();
  const opened = useClip(id);
  const wearers = useWearers(opened.state === 'open' ? opened.clip : null);
  const signature =
    opened.state === 'open'
      ? skeletonSignature(opened.clip.skeleton.names, opened.clip.skeleton.parents)
      : '';
  const kept = useLiveQuery(() => db.mappings.get(signature).then((m) => m ?? null), [signature]);
  return (
    <div className="flex h-full flex-col">
      <PageHeader>
        <Link to={clipPath(id)} className="text-soft hover:text-ink">
          Back to the clip
        </Link>
      </PageHeader>
      {opened.state === 'failed' && (
        <p role="alert" className="grid flex-1 place-items-center">
          {opened.message} {opened.hint}
        </p>
      )}
      {opened.state === 'open' && kept !== undefined && wearers?.length === 0 && (
        <p className="grid flex-1 place-items-center text-soft">
          There is no character to map this clip onto yet: import one, or open the demonstration.
        </p>
      )}
      {opened.state === 'open' && kept !== undefined && wearers && wearers.length > 0 && (
        <Mapping
          key={`${id} ${kept?.changedAt ?? 0}`}
          stored={opened.stored}
          clip={opened.clip}
          bones={opened.own}
          signature={signature}
          kept={kept}
          wearers={wearers}
        />
      )}
    </div>
  );
}

interface Props {
  readonly stored: StoredClip;
  readonly clip: Clip;
  /** Id of the body with the clip's own bones. */
  readonly bones: string;
  readonly signature: string;
  readonly kept: StoredMapping | null;
  readonly wearers: readonly Wearer[];
}

function Mapping({ stored, clip, bones, signature, kept, wearers }: Props) {
  const [body, setBody] = useState((wearers.find((w) => !w.own && w.sameLegs) ?? defined(wearers[0])).id);
  const wearer = wearers.find((w) => w.id === body) ?? defined(wearers[0]);
  const [roles, setRoles] = useState<RoleMap>(kept?.roles ?? {});
  const [chosen, setChosen] = useState(0);
  const trial = useTrial(clip, stored.source, signature, roles);
  const source = trial.clip.skeleton;
  const rows = useMemo(() => boneRows(source, wearer.skeleton, roles), [source, wearer, roles]);
  const resting = useMemo(() => restingBones(source, wearer.skeleton), [source, wearer]);
  const give = useCallback(
    (joint: string, role: Role | null): void => setRoles((r) => giveRole(r, source, joint, role)),
    [source],
  );
  /** A bone of the character that is pressed is what the chosen bone of the clip is to move. */
  const pointAt = (joint: number): void => {
    const role = wearer.skeleton.roles[joint];
    const name = defined(wearer.skeleton.names[joint]);
    if (role) give(defined(source.names[chosen]), role);
    else toast(`${name} is no part that has a name: it follows a bone called the same.`);
  };
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_430px] max-narrow:grid-cols-1 max-narrow:grid-rows-[90vh_90vh] max-narrow:overflow-auto">
      <main className="grid min-h-0 min-w-0 grid-cols-2 grid-rows-[minmax(0,1fr)_auto_minmax(0,0.85fr)]">
        <Stages clip={trial.clip} bones={bones} name={stored.name} wearer={wearer}>
          {trial.trouble || adviceFor(rows[chosen], wearer.name)}
        </Stages>
        <BoneFigure
          skeleton={source}
          label={`Bones of ${stored.name}`}
          states={rows.map((r) => r.state)}
          chosen={chosen}
          onChoose={setChosen}
        />
        <BoneFigure
          skeleton={wearer.skeleton}
          label={`Bones of ${wearer.name}`}
          states={wearer.skeleton.names.map((n) => (resting.includes(n) ? 'unmapped' : 'mapped'))}
          chosen={rows[chosen]?.partner ?? -1}
          onChoose={pointAt}
        />
      </main>
      <MappingPanel
        {...{ rows, source, wearer, wearers, chosen }}
        resting={resting.length}
        name={stored.name}
        onWearer={setBody}
        onChoose={setChosen}
        onRole={give}
      >
        <MappingKeeper
          signature={signature}
          joints={source.names.length}
          kept={kept}
          roles={roles}
          proposed={stored.file.replace(/\.[^.]*$/, '')}
          start={setRoles}
        />
      </MappingPanel>
    </div>
  );
}

interface StagesProps {
  readonly clip: Clip;
  readonly bones: string;
  readonly name: string;
  readonly wearer: Wearer;
  /** What is said below the two figures. */
  readonly children: ReactNode;
}

/** The clip on its own bones and on the character, playing together. */
function Stages({ clip, bones, name, wearer, children }: StagesProps) {
  const [on, setOn] = useState(false);
  const recorded = useMemo(() => planOn(clip, bones), [clip, bones]);
  const mapped = useMemo(() => planOn(clip, wearer.id), [clip, wearer]);
  const { playing } = usePlaying(clip.frames, clip.rate, on);
  useHotkeys('space', () => setOn((o) => !o), { preventDefault: true, ignoreEventWhen: pressesItself });
  return (
    <>
      <MappedStage title={`${name}, on its own bones`} made={recorded} playing={playing} />
      <MappedStage title={`On ${wearer.name}`} made={mapped} playing={playing} />
      <div className="col-span-2 flex items-center gap-3 border-y px-4 py-1">
        <Button look="quiet" aria-label={on ? 'Pause' : 'Play'} onClick={() => setOn((o) => !o)}>
          {on ? <Pause size={16} aria-hidden /> : <Play size={16} aria-hidden />}
        </Button>
        <p className="text-soft" aria-live="polite">
          {children}
        </p>
      </div>
    </>
  );
}

interface PanelProps {
  readonly rows: readonly BoneRow[];
  /** Bones of the character that keep their rest pose. */
  readonly resting: number;
  readonly source: Skeleton;
  readonly wearer: Wearer;
  readonly wearers: readonly Wearer[];
  readonly name: string;
  readonly chosen: number;
  readonly onWearer: (id: string) => void;
  readonly onChoose: (joint: number) => void;
  readonly onRole: (joint: string, role: Role | null) => void;
  readonly children: ReactNode;
}

/** The bones in a table, with how many are mapped; what keeps the mapping is below. */
function MappingPanel(props: PanelProps) {
  const { rows, resting, source, wearer, wearers, name, chosen } = props;
  const { onWearer, onChoose, onRole, children } = props;
  return (
    <aside aria-label="Mapping" className="flex min-h-0 flex-col border-l bg-raised">
      <div className="px-4 pt-3 pb-2">
        <h1 className="text-title leading-tight font-bold">Bones of {name}</h1>
        <Summary rows={rows} resting={resting} wearer={wearer.name} />
        <Choice
          label="Mapped onto"
          value={wearer.id}
          options={wearers.map((w) => [w.id, w.name] as const)}
          onChange={onWearer}
        />
      </div>
      <div className="min-h-0 flex-1 overflow-x-hidden overflow-y-auto border-t px-4">
        <BoneTable
          rows={rows}
          source={source}
          target={wearer.skeleton}
          chosen={chosen}
          onChoose={onChoose}
          onRole={onRole}
        />
      </div>
      {rows[chosen]?.doubt && (
        <p className="border-t px-4 py-1.5 text-watch">
          ▲ {rows[chosen].name}: {rows[chosen].doubt}
        </p>
      )}
      {children}
    </aside>
  );
}

/** What the chosen bone is, and what can be done about it. */
const adviceFor = (row: BoneRow | undefined, wearer: string): string =>
  row?.role
    ? `${row.name} is the ${roleWords(row.role)}. Press a bone of ${wearer} to change that.`
    : `${row?.name ?? ''} has no part yet. Press the bone of ${wearer} that it is to move.`;

function Summary(props: { rows: readonly BoneRow[]; resting: number; wearer: string }) {
  const { rows, resting, wearer } = props;
  const count = (state: string): number => rows.filter((r) => r.state === state).length;
  return (
    <p className="pb-1" data-testid="mapping-sum">
      <span className="text-good">● {count('mapped')} mapped</span>
      {' · '}
      <span className="text-watch">▲ {count('doubtful')} doubtful</span>
      {' · '}
      <span className="text-bad">○ {count('unmapped')} not mapped</span>
      {resting > 0 && (
        <span className="block text-soft">
          {resting} {resting === 1 ? 'bone' : 'bones'} of {wearer} keep their rest pose
        </span>
      )}
    </p>
  );
}
