import type { Clip } from '@warper/core';
import { stepsBySpeed } from '@warper/core';
import { useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { toast } from 'sonner';
import { describeError } from '../../../../data/importFiles';
import { keepSteps, library } from '../../../../data/pageLibrary';
import { Button } from '../../../../ui/controls';
import type { StoredClip } from '../../../../data/db';
import { StepEditor } from './StepEditor';
import type { StepRow } from './stepSpans';
import { asOwnSteps, stepRows } from './stepSpans';

interface Props {
  readonly stored: StoredClip;
  readonly clip: Clip;
  readonly rows: readonly StepRow[];
  readonly sample: number;
  /** Tries other rows. */
  readonly change: (rows: StepRow[]) => void;
  readonly onShow: (sample: number) => void;
  readonly close: () => void;
}

const same = (a: readonly StepRow[], b: readonly StepRow[]): boolean =>
  JSON.stringify(asOwnSteps(a)) === JSON.stringify(asOwnSteps(b));

/** The steps of a clip to be edited, and kept with it. */
export function StepPanel({ stored, clip, rows, sample, change, onShow, close }: Props) {
  const matches = stepRows(library.foundClip(clip.id) ?? clip);
  const kept = stepRows(clip);
  const { edit, undo, canUndo } = useStepEdits(rows, change);
  const keep = (): void => keepRows(stored, same(rows, matches) ? undefined : asOwnSteps(rows), close);
  const bySpeed = (): void => {
    const spans = stepsBySpeed(clip);
    edit(rows.map((r) => ({ ...r, spans: spans[r.joint] ?? [] })));
  };
  return (
    <section aria-label="Edit steps" className="max-h-64 overflow-y-auto px-5 py-3">
      <StepEditor
        rows={rows}
        frames={clip.frames}
        rate={clip.rate}
        sample={sample}
        onChange={edit}
        onShow={onShow}
      />
      <div className="flex flex-wrap items-center gap-2 pt-3">
        <Button look="primary" disabled={same(rows, kept)} onClick={keep}>
          Save steps
        </Button>
        <Button disabled={!canUndo} onClick={undo} aria-keyshortcuts="Control+Z">
          Undo
        </Button>
        <Button onClick={() => edit(matches)} disabled={same(rows, matches)}>
          As detected
        </Button>
        <Button onClick={bySpeed} title="For feet on stairs and bars: wherever they rest, at any height">
          By speed only
        </Button>
        <span className="flex-1" />
        <Button look="quiet" onClick={close}>
          Cancel
        </Button>
      </div>
    </section>
  );
}

/** Edits of the rows, each of which can be taken back. */
function useStepEdits(rows: readonly StepRow[], change: (rows: StepRow[]) => void) {
  const [past, setPast] = useState<readonly (readonly StepRow[])[]>([]);
  const edit = (next: StepRow[]): void => {
    setPast((p) => [...p, rows]);
    change(next);
  };
  const undo = (): void => {
    const before = past.at(-1);
    if (!before) return;
    setPast(past.slice(0, -1));
    change([...before]);
  };
  useHotkeys('mod+z', undo, { preventDefault: true }, [past]);
  return { edit, undo, canUndo: past.length > 0 };
}

/** Keeps steps with their clip, undefined for those that are found; says so with a way back. */
function keepRows(stored: StoredClip, steps: StoredClip['steps'], done: () => void): void {
  const { id, name, steps: before } = stored;
  keepSteps(id, steps).then(
    () => {
      toast(steps ? `The steps of ${name} are kept` : `${name} has the steps that were found`, {
        action: { label: 'Undo', onClick: () => void keepSteps(id, before) },
      });
      done();
    },
    (error) => toast.error(`Nothing was kept: ${describeError(error).message}`),
  );
}
