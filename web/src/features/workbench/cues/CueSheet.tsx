import { framesPerSecond } from '@warper/core';
import { useLiveQuery } from 'dexie-react-hooks';
import { Copy } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { openSources } from '../../../data/pageLibrary';
import { Button } from '../../../ui/controls';
import { clock } from '../../../ui/time';
import type { StoredClip } from '../../../data/db';
import { commit } from '../../../store/edits';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { newSegment } from '../drawer/newSegment';
import { BelowSwitch } from '../BelowSwitch';
import { BeatRow } from './BeatRow';
import { Cell } from './Cell';
import type { CueRow } from './cueRows';
import { cueRows, tableText } from './cueRows';
import { findByName, readCueTable } from './cueTable';
import { keptClips } from '../../../data/keptClips';

const NO_CLIPS: readonly StoredClip[] = [];

/** The beats of the scene as a table; the lanes follow it, and it follows the lanes. */
export function CueSheet() {
  const dispatch = useAppDispatch();
  const scene = useAppSelector(selectPreviewScene);
  const { plan } = useAppSelector(selectPreviewPlan);
  const selection = useAppSelector((s) => s.session.selection);
  const clips = useLiveQuery(keptClips, []) ?? NO_CLIPS;
  const [problems, setProblems] = useState<readonly string[]>([]);
  const [dragged, setDragged] = useState<string | null>(null);
  const rows = cueRows(scene, plan);
  const fps = framesPerSecond(plan.rate);
  const lanes = Object.fromEntries(
    Object.values(scene.lanes).flatMap((l) => (l.kind === 'body' ? [[l.character, l.id]] : [])),
  );

  const take = async (text: string): Promise<void> => {
    const character = selection.kind === 'character' ? selection.id : (scene.characterOrder[0] ?? null);
    const read = readCueTable(text, { scene, rate: plan.rate, clips: await keptClips(), character });
    setProblems(read.problems);
    if (read.count === 0) return;
    await openSources(read.sources);
    const label = `pasting ${read.count} beats`;
    if (dispatch(commit({ type: 'several', label, edits: read.edits })))
      dispatch(sessionActions.announced(`${read.count} beats pasted`));
  };
  const add = async (lane: string, name: string): Promise<void> => {
    const clip = findByName(await keptClips(), name);
    if (!clip)
      return void toast.error(`No clip is called “${name}”.`, { description: 'Choose one of the list.' });
    await openSources([clip.source]);
    const segment = newSegment(clip);
    if (dispatch(commit({ type: 'place', lane, segment, at: 'end' })))
      dispatch(sessionActions.announced(`${clip.name} added`));
  };
  const drop = (before: CueRow | null, lane: string): void => {
    if (dragged)
      dispatch(commit({ type: 'reorder', segment: dragged, lane, before: before?.segment.id ?? null }));
    setDragged(null);
  };
  const copy = (): void => {
    void navigator.clipboard?.writeText(tableText(rows)).then(
      () => toast.success('The cue sheet is copied, for a spreadsheet.'),
      () => toast.error('The browser does not let this page copy.'),
    );
  };

  return (
    <section
      aria-label="Cue sheet"
      className="flex h-full min-h-0 flex-col border-t"
      onPaste={(e) => {
        const text = e.clipboardData.getData('text/plain');
        const single = !/[\t\n;]/.test(text.trim());
        if (single || text.includes('warper-segments')) return;
        e.preventDefault();
        void take(text);
      }}
    >
      <datalist id="clip-names">
        {clips.map((c) => (
          <option key={c.id} value={c.name} />
        ))}
      </datalist>
      {problems.length > 0 && (
        <div role="alert" className="flex items-start gap-3 border-b bg-raised px-4 py-1.5 text-bad">
          <ul className="flex-1">
            {problems.slice(0, 5).map((p) => (
              <li key={p}>{p}</li>
            ))}
            {problems.length > 5 && <li>and {problems.length - 5} more</li>}
          </ul>
          <Button look="quiet" onClick={() => setProblems([])}>
            All right
          </Button>
        </div>
      )}
      <div className="min-h-0 flex-1 overflow-auto" tabIndex={0} aria-label="Beats; paste a table here">
        <table className="w-full max-w-5xl border-collapse text-left">
          <thead className="sticky top-0 z-10 bg-paper text-xs text-soft">
            <tr>
              {['', 'on', 'character', 'clip', 'repeats', 'length', 'seam before', 'frames'].map((h) => (
                <th key={h} className="border-b px-2 py-1 font-normal">
                  {h}
                </th>
              ))}
              <th className="border-b px-2 py-0.5 text-right font-normal">
                <Button look="quiet" className="px-1! py-0!" onClick={copy}>
                  <Copy size={13} aria-hidden /> Copy the table
                </Button>
              </th>
            </tr>
          </thead>
          {plan.characters.map(({ character, segments, start, end }) => {
            const own = rows.filter((r) => r.character === character.id);
            const lane = lanes[character.id];
            if (!lane) return null;
            return (
              <tbody key={character.id} className="border-b">
                {own.map((row, i) => (
                  <BeatRow
                    key={row.segment.id}
                    row={row}
                    rate={plan.rate}
                    before={own[i - 1] ?? null}
                    afterNext={own[i + 2] ?? null}
                    hasNext={i + 1 < own.length}
                    characters={plan.characters.map((c) => c.character)}
                    lanes={lanes}
                    onLift={() => setDragged(row.segment.id)}
                    onRest={() => setDragged(null)}
                    onDrop={() => drop(row, lane)}
                  />
                ))}
                <tr
                  onDragOver={(e) => e.preventDefault()}
                  onDrop={() => drop(null, lane)}
                  className="text-soft"
                >
                  <td className="w-1.5 p-0" style={{ background: `var(--hue-${character.hue})` }} />
                  <td />
                  <td className="px-2 py-0.5">{character.name}</td>
                  <td className="px-2 py-0.5">
                    <Cell
                      label={`New beat of ${character.name}`}
                      value=""
                      placeholder="add a clip"
                      list="clip-names"
                      onChange={(name) => void add(lane, name)}
                    />
                  </td>
                  <td colSpan={5} className="px-2 py-0.5 text-right">
                    {segments.length} beats, {end - start} frames, {clock(end - start, fps)}
                  </td>
                </tr>
              </tbody>
            );
          })}
        </table>
      </div>
      <div className="flex h-[25px] shrink-0 items-center justify-between border-t">
        <BelowSwitch />
        <p className="truncate px-4 text-small text-soft">
          Type into any cell, or paste rows of a spreadsheet: character, clip, repeats, length, seam.
        </p>
      </div>
    </section>
  );
}
