import { defined } from '@warper/core';
import { bodyWords } from '@warper/formats';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import type { FoundClip } from '../data/findings';
import type { FoundFile } from '../data/importFiles';
import { Button } from '../ui/controls';
import { describeFacts } from '../ui/describeFacts';
import { StripDrawing } from '../ui/Figures';
import { seconds } from '../ui/time';
import type { Importing } from './useImport';
import { giveFocusBack } from '../ui/giveFocusBack';
import { CheckBox } from '../ui/CheckBox';

/** What the user changed of what is proposed: names, and what is left out, by id of the clip or file. */
interface Choice {
  readonly names: ReadonlyMap<string, string>;
  readonly left: ReadonlySet<string>;
}

const UNTOUCHED: Choice = { names: new Map(), left: new Set() };

/** What was found in the files, before anything is kept: names to change, clips to leave out, and what is odd. */
export function ImportSheet({ importing }: { importing: Importing }) {
  const { busy, found, leave } = importing;
  return (
    <Dialog.Root open={found !== null} onOpenChange={(open) => !open && leave()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content
          onCloseAutoFocus={giveFocusBack}
          aria-describedby={undefined}
          // Names are typed here; what the workbench does with keys must not happen behind the sheet.
          onKeyDown={(e) => e.stopPropagation()}
          className="fixed top-1/2 left-1/2 z-50 flex max-h-[86vh] w-[56rem] max-w-[94vw] -translate-1/2 flex-col rounded-lg border bg-raised shadow-lg"
        >
          <Dialog.Title className="px-6 pt-5 pb-1 text-lg font-bold">
            {busy ? 'Reading files' : 'What was found'}
          </Dialog.Title>
          {found && <Sheet importing={importing} found={found.filter(Boolean)} />}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Sheet({ importing, found }: { importing: Importing; found: readonly FoundFile[] }) {
  const { busy, keep, leave } = importing;
  const [choice, setChoice] = useState(UNTOUCHED);
  const clips = found.flatMap((f) => (f.state === 'motion' ? f.clips : []));
  const kept = clips.filter((c) => !choice.left.has(c.clip.id));
  const names = new Map(
    kept.map((c) => [c.clip.id, (choice.names.get(c.clip.id) ?? c.clip.name).trim() || c.clip.name]),
  );
  const bodies = new Set(
    found.flatMap((f) =>
      f.state === 'motion' && f.result.bodies.length > 0 && !choice.left.has(f.result.file.id)
        ? [f.result.file.id]
        : [],
    ),
  );
  const read = found.filter((f) => f.state !== 'waiting' && f.state !== 'reading').length;
  const assets = found.filter((f) => f.state === 'asset').length;
  const nothing = kept.length === 0 && bodies.size === 0 && assets === 0;
  const leaveOut = (id: string, out: boolean): void =>
    setChoice((c) => {
      const left = new Set(c.left);
      if (out) left.add(id);
      else left.delete(id);
      return { ...c, left };
    });
  const rename = (id: string, name: string): void =>
    setChoice((c) => ({ ...c, names: new Map(c.names).set(id, name) }));
  return (
    <>
      <p className="px-6 pb-3 text-soft" role="status">
        {busy ? `${read} of ${found.length || '…'} files read` : sum(kept.length, clips.length, assets)}
      </p>
      <ul className="min-h-0 flex-1 overflow-y-auto border-y px-6">
        {found.map((file) => (
          <li key={file.file} className="border-b py-3 last:border-b-0">
            <FileFound file={file} choice={choice} leaveOut={leaveOut} rename={rename} />
          </li>
        ))}
      </ul>
      <div className="flex items-center justify-end gap-2 px-6 py-4">
        {busy ? (
          <Button onClick={leave}>Cancel</Button>
        ) : (
          <>
            <Button look="quiet" onClick={leave}>
              {nothing ? 'Close' : 'Keep nothing'}
            </Button>
            {!nothing && (
              <Button look="primary" onClick={() => keep({ names, bodies })}>
                {keepLabel(kept.length, bodies.size, assets)}
              </Button>
            )}
          </>
        )}
      </div>
    </>
  );
}

const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

const sum = (kept: number, clips: number, assets: number): string =>
  [
    clips > 0 && `${kept} of ${count(clips, 'clip')} to keep`,
    assets > 0 && count(assets, 'picture or sound', 'pictures and sounds'),
  ]
    .filter(Boolean)
    .join(', ') || 'Nothing new to keep';

function keepLabel(clips: number, bodies: number, assets: number): string {
  if (clips > 0) return `Keep ${count(clips, 'clip')}`;
  return bodies > 0 ? `Keep ${count(bodies, 'character')}` : `Keep ${count(assets, 'file')}`;
}

interface FileProps {
  readonly file: FoundFile;
  readonly choice: Choice;
  readonly leaveOut: (id: string, out: boolean) => void;
  readonly rename: (id: string, name: string) => void;
}

function FileFound({ file, choice, leaveOut, rename }: FileProps) {
  if (file.state !== 'motion') {
    return (
      <>
        <p className="font-semibold">{file.file}</p>
        <FileState file={file} />
      </>
    );
  }
  const { result, clips, knownClips, remarks } = file;
  return (
    <>
      <p className="font-semibold">
        {file.file} <span className="font-normal text-soft">{result.imported.format.toUpperCase()}</span>
      </p>
      {result.bodies.map((body) => (
        <label key={body.id} className="flex items-baseline gap-2 text-soft">
          {clips.length === 0 && (
            <CheckBox
              className="self-center"
              aria-label={`Keep ${body.name}`}
              checked={!choice.left.has(result.file.id)}
              onChange={(on) => leaveOut(result.file.id, !on)}
            />
          )}
          {body.name}: {body.joints} joints, {body.heightMetres.toFixed(2)} m high,{' '}
          {bodyWords(result.imported.bodies.find((b) => b.id === body.id) ?? { ...body, meshed: false })}
        </label>
      ))}
      {remarks.map((remark) => (
        <p key={remark.message} className="text-soft">
          {remark.message}
        </p>
      ))}
      {knownClips > 0 && (
        <p className="text-soft">{count(knownClips, 'clip')} of it are in the library already.</p>
      )}
      <ul className="mt-1.5 flex flex-col gap-2">
        {clips.map((entry) => (
          <li key={entry.clip.id}>
            <ClipFound
              found={entry}
              preview={defined(result.previews.find((p) => p.id === entry.clip.id))}
              out={choice.left.has(entry.clip.id)}
              name={choice.names.get(entry.clip.id) ?? entry.clip.name}
              leaveOut={leaveOut}
              rename={rename}
            />
          </li>
        ))}
      </ul>
    </>
  );
}

function FileState({ file }: { file: Exclude<FoundFile, { state: 'motion' }> }) {
  switch (file.state) {
    case 'waiting':
      return <p className="text-soft">waits for its turn</p>;
    case 'reading':
      return <p className="text-soft">is being read and measured</p>;
    case 'known':
      return <p className="text-soft">● The same content is in the library already.</p>;
    case 'asset':
      return (
        <p className="text-soft">
          ●{' '}
          {file.seconds === undefined
            ? 'A picture, kept for later.'
            : `A sound of ${seconds(file.seconds)}, for sound lanes.`}
        </p>
      );
    case 'bad':
      return (
        <p role="alert" className="text-bad">
          ■ {file.message} <span className="text-soft">{file.hint} Nothing is kept of it.</span>
        </p>
      );
  }
}

interface ClipProps {
  readonly found: FoundClip;
  readonly preview: Parameters<typeof StripDrawing>[0]['preview'];
  readonly out: boolean;
  readonly name: string;
  readonly leaveOut: FileProps['leaveOut'];
  readonly rename: FileProps['rename'];
}

function ClipFound({ found, preview, out, name, leaveOut, rename }: ClipProps) {
  const { clip, remarks } = found;
  const { facts } = clip;
  return (
    <div className={`grid grid-cols-[auto_11rem_minmax(0,1fr)] items-start gap-3 ${out ? 'opacity-45' : ''}`}>
      <CheckBox
        className="mt-1.5"
        aria-label={`Keep ${clip.name}`}
        checked={!out}
        onChange={(on) => leaveOut(clip.id, !on)}
      />
      <StripDrawing
        preview={preview}
        leftFoot={facts.leftFoot}
        rightFoot={facts.rightFoot}
        frames={facts.frames}
        width={170}
      />
      <div className="min-w-0">
        <div className="flex flex-wrap items-baseline gap-x-3">
          <input
            className="w-52 border-b border-dotted border-soft bg-transparent py-0.5 font-semibold"
            aria-label={`Name of ${found.original}`}
            value={name}
            onChange={(e) => rename(clip.id, e.currentTarget.value)}
          />
          <span className="text-soft">
            {facts.restPose
              ? 'rest pose'
              : `${facts.frames} samples at ${Number(facts.rate.toFixed(2))}, ${seconds(facts.seconds)} · ${describeFacts(facts)}`}
          </span>
        </div>
        {remarks.map((remark) => (
          <p
            key={remark.message}
            className={remark.code === 'float' || remark.code === 'jump' ? 'text-watch' : 'text-soft'}
          >
            {remark.code === 'float' || remark.code === 'jump' ? '▲ ' : ''}
            {remark.message}
          </p>
        ))}
      </div>
    </div>
  );
}
