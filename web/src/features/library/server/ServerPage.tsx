import type { ClipPage, ListedBody, ListedClip, ServerState } from '@warper/formats';
import { useLiveQuery } from 'dexie-react-hooks';
import { useDeferredValue, useState } from 'react';
import { toast } from 'sonner';
import { describeError } from '../../../data/importFiles';
import { Button } from '../../../ui/controls';
import { ImportButton } from '../../../ui/ImportButton';
import { ImportSheet } from '../../../parts/ImportSheet';
import { PageHeader } from '../../../parts/PageHeader';
import { useImport } from '../../../parts/useImport';
import { db } from '../../../data/db';
import { CardGrid } from '../CardGrid';
import { NothingFound } from '../NothingFound';
import { SearchRow } from '../SearchRow';
import { Sources } from '../Sources';
import { serverAway } from '../../../data/server/fetchFromServer';
import { ServerCard } from './ServerCard';
import type { ServerQuestion } from '../../../data/server/serverApi';
import { PER_PAGE, useCharactersQuery, useClipsQuery, useStateQuery } from '../../../data/server/serverApi';
import { takeCharacter } from '../../../data/server/takeFromServer';
import { TryPanel } from './TryPanel';

/** Milliseconds between two looks at how the server stands: while it reads files or is away, and else. */
const LOOK_EVERY = { busy: 1500, idle: 5000 };

const ANYTHING: ServerQuestion = { words: '', filters: [], page: 1 };

/** The clips of the library server: searched, tried on one's own character, and taken. */
export function ServerPage() {
  const [wanted, setWanted] = useState(ANYTHING);
  const [tried, setTried] = useState<ListedClip | null>(null);
  const [pace, setPace] = useState(LOOK_EVERY.idle);
  const importing = useImport();
  const asked = useDeferredValue(wanted);
  const state = useStateQuery(undefined, { pollingInterval: pace, refetchOnMountOrArgChange: true });
  const away = state.isError;
  const busy = away || (state.data?.waiting ?? 0) > 0;
  if (pace !== (busy ? LOOK_EVERY.busy : LOOK_EVERY.idle)) setPace(busy ? LOOK_EVERY.busy : LOOK_EVERY.idle);
  // A clip that comes, or a server that comes back, gives other answers to the same question.
  const clips = useClipsQuery(asked, { skip: away || !state.data, pollingInterval: pace });
  const change = (values: Partial<ServerQuestion>): void => setWanted((w) => ({ ...w, page: 1, ...values }));
  return (
    <div className="flex h-full flex-col" {...importing.dropZone}>
      <PageHeader>
        <ImportButton label="Import" fieldLabel="Files to import" onFiles={importing.take} />
      </PageHeader>
      <div className="flex min-h-0 flex-1">
        <nav
          aria-label="Sources and characters"
          className="w-52 shrink-0 overflow-y-auto border-r px-4 py-4 max-narrow:w-36"
        >
          <Sources />
          {!away && <Characters />}
          {!away && state.data && <Problems state={state.data} />}
        </nav>
        <main className="flex min-w-0 flex-1 flex-col">
          <h1 className="sr-only">Library server</h1>
          {away ? (
            <Away again={() => void state.refetch()} />
          ) : (
            <Search
              state={state.data}
              page={clips.data}
              wanted={wanted}
              change={change}
              clear={() => setWanted(ANYTHING)}
              tried={tried}
              onTry={setTried}
            />
          )}
        </main>
        {tried && !away && <TryPanel key={tried.id} clip={tried} close={() => setTried(null)} />}
      </div>
      <ImportSheet importing={importing} />
    </div>
  );
}

interface SearchProps {
  readonly state: ServerState | undefined;
  readonly page: ClipPage | undefined;
  readonly wanted: ServerQuestion;
  readonly change: (values: Partial<ServerQuestion>) => void;
  readonly clear: () => void;
  /** The clip that is tried on a character. */
  readonly tried: ListedClip | null;
  readonly onTry: (clip: ListedClip) => void;
}

/** What is looked for among the server's clips, and a page of what was found. */
function Search({ state, page, wanted, change, clear, tried, onTry }: SearchProps) {
  const taken = useLiveQuery(
    () => db.clips.toArray().then((all) => new Set(all.flatMap((c) => [c.id, c.taken]))),
    [],
  );
  return (
    <>
      <SearchRow wanted={wanted} change={change} />
      <div className="flex items-baseline gap-3 px-6 pb-2 text-soft">
        <span role="status">{countText(state, page?.total)}</span>
        <span className="flex-1" />
        <Pages page={wanted.page} total={page?.total ?? 0} go={(to) => change({ page: to })} />
      </div>
      <div className="min-h-0 flex-1">
        {page?.total === 0 && (
          <NothingFound
            empty={state?.clips === 0 ? 'The server’s folder has no clips yet.' : null}
            none="No clip on the server matches."
            clear={clear}
          />
        )}
        {page && page.total > 0 && (
          <CardGrid
            items={page.clips}
            keyOf={(clip) => clip.id}
            card={(clip, width) => (
              <ServerCard
                clip={clip}
                width={width}
                open={tried?.id === clip.id}
                taken={taken?.has(clip.id) ?? false}
                onOpen={() => onTry(clip)}
              />
            )}
          />
        )}
      </div>
    </>
  );
}

function countText(state: ServerState | undefined, total: number | undefined): string {
  if (!state) return 'Asking the server';
  const clips = `${state.clips} ${state.clips === 1 ? 'clip' : 'clips'}`;
  const count = total === undefined || total === state.clips ? clips : `${total} of ${clips}`;
  return state.waiting > 0 ? `${count}; reading ${state.waiting} files` : count;
}

function Away({ again }: { again: () => void }) {
  const { message, hint } = serverAway();
  return (
    <div role="alert" className="grid h-full place-items-center text-center">
      <div>
        <p className="font-semibold">{message}</p>
        <p className="pb-3 text-soft">{hint}</p>
        <Button onClick={again}>Retry</Button>
      </div>
    </div>
  );
}

function Pages({ page, total, go }: { page: number; total: number; go: (page: number) => void }) {
  const last = Math.max(1, Math.ceil(total / PER_PAGE));
  if (last === 1) return null;
  return (
    <span role="group" aria-label="Pages of clips" className="flex items-baseline gap-2">
      <Button look="quiet" disabled={page <= 1} onClick={() => go(page - 1)}>
        Previous
      </Button>
      {page} of {last}
      <Button look="quiet" disabled={page >= last} onClick={() => go(page + 1)}>
        Next
      </Button>
    </span>
  );
}

/** The server's characters; each can be taken. */
function Characters() {
  const { data = [] } = useCharactersQuery(undefined, { refetchOnMountOrArgChange: true });
  const own = useLiveQuery(() => db.bodies.toCollection().primaryKeys(), []) ?? [];
  if (data.length === 0) return null;
  const take = (body: ListedBody): void => {
    takeCharacter(body).then(
      () => toast(`${body.name} was added`),
      (error) => {
        const { message, hint } = describeError(error);
        toast.error(`Nothing was added. ${message} ${hint}`);
      },
    );
  };
  return (
    <>
      <h2 className="mb-1 text-xs tracking-wide text-soft">Characters</h2>
      <ul aria-label="Characters of the server" className="mb-4">
        {data.map((body) => (
          <li key={body.id} className="flex flex-wrap items-baseline justify-between gap-x-2 px-1.5 py-0.5">
            <span className="min-w-0">
              {body.name} <span className="text-soft">{body.heightMetres.toFixed(2)} m</span>
            </span>
            {own.includes(body.id) ? (
              <span className="text-note text-good">● In this browser</span>
            ) : (
              <Button
                look="bare"
                aria-label={`Add ${body.name}`}
                className="border-b border-dotted border-soft hover:border-ink"
                onClick={() => take(body)}
              >
                Add
              </Button>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}

function Problems({ state }: { state: ServerState }) {
  if (state.problemCount === 0) return null;
  return (
    <details className="text-note">
      <summary className="cursor-pointer text-watch">
        ▲ {state.problemCount} {state.problemCount === 1 ? 'file' : 'files'} could not be read
      </summary>
      <ul className="pt-1">
        {state.problems.map((p) => (
          <li key={p.file} className="pb-1.5">
            <span className="block truncate font-semibold" title={p.file}>
              {p.file}
            </span>
            <span className="text-soft">{p.message}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}
