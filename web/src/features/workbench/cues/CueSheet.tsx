import { useLiveQuery } from 'dexie-react-hooks';
import { Copy } from 'lucide-react';
import { keptClips } from '../../../data/keptClips';
import { Button } from '../../../ui/controls';
import { BelowSwitch } from '../BelowSwitch';
import { BeatTable } from './BeatTable';
import { useCueSheet } from './useCueSheet';

/** The beats of the scene as a table; the lanes follow it, and it follows the lanes. */
export function CueSheet() {
  const sheet = useCueSheet();
  const clips = useLiveQuery(keptClips, []) ?? [];
  return (
    <section
      aria-label="Cue sheet"
      className="flex h-full min-h-0 flex-col border-t"
      onPaste={(e) => {
        const text = e.clipboardData.getData('text/plain');
        const single = !/[\t\n;]/.test(text.trim());
        if (single || text.includes('warper-segments')) return;
        e.preventDefault();
        void sheet.paste(text);
      }}
    >
      <datalist id="clip-names">
        {clips.map((c) => (
          <option key={c.id} value={c.name} />
        ))}
      </datalist>
      {sheet.problems.length > 0 && <Problems problems={sheet.problems} onDismiss={sheet.dismiss} />}
      <BeatTable
        onAdd={(lane, name) => void sheet.add(lane, name)}
        copy={(rows) => (
          <Button look="quiet" className="px-1! py-0!" onClick={() => sheet.copy(rows)}>
            <Copy size={13} aria-hidden /> Copy table
          </Button>
        )}
      />
      <div className="flex h-[25px] shrink-0 items-center justify-between border-t">
        <BelowSwitch />
        <p className="truncate px-4 text-small text-soft">
          Type into any cell, or paste rows of a spreadsheet: character, clip, repeats, length, seam.
        </p>
      </div>
    </section>
  );
}

/** What of a pasted table could not be taken. */
function Problems({ problems, onDismiss }: { problems: readonly string[]; onDismiss: () => void }) {
  return (
    <div role="alert" className="flex items-start gap-3 border-b bg-raised px-4 py-1.5 text-bad">
      <ul className="flex-1">
        {problems.slice(0, 5).map((p) => (
          <li key={p}>{p}</li>
        ))}
        {problems.length > 5 && <li>and {problems.length - 5} more</li>}
      </ul>
      <Button look="quiet" onClick={onDismiss}>
        Dismiss
      </Button>
    </div>
  );
}
