import { Dialog } from 'radix-ui';
import { useRef, useState } from 'react';
import { toast } from 'sonner';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { download } from '../../../ui/download';
import { giveFocusBack } from '../../../ui/giveFocusBack';
import { chordOf, shownChord } from './chords';
import type { Command } from './command';
import { COMMANDS, COMMAND_GROUPS } from './commands';
import { FIXED_KEYS, FOCUS_KEYS } from './keys';
import type { OwnKeys } from './ownKeys';
import { commandOfChord, giveChord, keysOf, readKeys, writeKeys } from './ownKeys';

/** The list of keys; each of a command can be changed. */
export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog.Root open={open} onOpenChange={(o) => !o && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content
          onCloseAutoFocus={giveFocusBack}
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 max-h-[92vh] w-[62rem] max-w-[94vw] -translate-1/2 overflow-y-auto rounded-lg border bg-raised px-6 py-5 shadow-lg"
        >
          <Dialog.Title className="text-lg font-bold">Keys</Dialog.Title>
          <p className="mb-3 text-soft">
            Press a key in the list to choose another. Everything is also found by name with{' '}
            {FIXED_KEYS.palette.map(shownChord).join(' or ')}.
          </p>
          <div className="gap-8 sm:columns-2">
            {COMMAND_GROUPS.map((group) => (
              <List key={group} title={group} commands={COMMANDS.filter((c) => c.group === group)} />
            ))}
            <FocusList />
          </div>
          <Footer />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

const HEADING = 'mb-1 border-b text-xs tracking-wide text-soft';

function List({ title, commands }: { title: string; commands: readonly Command[] }) {
  return (
    <section className="mb-3 break-inside-avoid">
      <h3 className={HEADING}>{title}</h3>
      <ul>
        {commands.map((command) => (
          <li key={command.id} className="grid grid-cols-[8.5rem_1fr] items-baseline">
            <KeyButton command={command} />
            <span className="text-soft">{command.name}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The keys of a command; pressed, the next key becomes its own. */
function KeyButton({ command }: { command: Command }) {
  const dispatch = useAppDispatch();
  const own = useAppSelector((s) => s.session.ownKeys);
  const [waiting, setWaiting] = useState(false);
  const keys = keysOf(command, own).map(shownChord);
  const text = waiting ? 'Press a key' : keys.join(', ') || '–';
  const take = (event: React.KeyboardEvent): void => {
    if (!waiting) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.key === 'Escape' || event.key === 'Tab') return setWaiting(false);
    const chord = chordOf(event.nativeEvent);
    if (chord === null) return;
    setWaiting(false);
    if ([...FIXED_KEYS.keys, ...FIXED_KEYS.palette].some((k) => k === chord))
      return void toast.error(`${shownChord(chord)} always opens this list or the commands.`);
    const before = commandOfChord(chord, own);
    dispatch(sessionActions.keysChosen(giveChord(own, command.id, chord)));
    if (before && before.id !== command.id)
      toast(`${shownChord(chord)} is now ${command.name}; it was ${before.name}`);
  };
  return (
    <Button
      look="bare"
      className={`justify-self-start rounded px-1 text-left font-semibold hover:bg-paper ${waiting ? 'bg-paper ring-1 ring-ink' : ''}`}
      aria-label={`Key of ${command.name}: ${text}`}
      aria-pressed={waiting}
      onClick={() => setWaiting(true)}
      onBlur={() => setWaiting(false)}
      onKeyDown={take}
    >
      {text}
    </Button>
  );
}

function FocusList() {
  return (
    <section className="mb-3 break-inside-avoid">
      <h3 className={HEADING}>On what is focused</h3>
      <dl className="grid grid-cols-[8.5rem_1fr] gap-y-0.5">
        {FOCUS_KEYS.map(([keys, what]) => (
          <div key={keys} className="contents">
            <dt className="px-1 font-semibold">{keys}</dt>
            <dd className="text-soft">{what}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

/** Keys are saved as a file, read from one, and reset. */
function Footer() {
  const dispatch = useAppDispatch();
  const own = useAppSelector((s) => s.session.ownKeys);
  const input = useRef<HTMLInputElement>(null);
  const choose = (keys: OwnKeys): void => void dispatch(sessionActions.keysChosen(keys));
  const read = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    try {
      choose(readKeys(await file.text()));
      toast('Keys imported');
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error), {
        description: 'Choose a file that was exported here. Nothing was changed.',
      });
    }
  };
  return (
    <div className="mt-2 flex flex-wrap gap-2">
      <Button
        onClick={() =>
          download(new TextEncoder().encode(writeKeys(own)), 'warper.keys.json', 'application/json')
        }
      >
        Export keys
      </Button>
      <Button onClick={() => input.current?.click()}>Import keys</Button>
      <input
        ref={input}
        type="file"
        accept=".json"
        aria-label="File of keys"
        className="hidden"
        onChange={(e) => void read(e.currentTarget.files?.[0])}
      />
      <Button disabled={Object.keys(own).length === 0} onClick={() => choose({})}>
        Reset keys
      </Button>
      <span className="flex-1" />
      <Dialog.Close asChild>
        <Button>Close</Button>
      </Dialog.Close>
    </div>
  );
}
