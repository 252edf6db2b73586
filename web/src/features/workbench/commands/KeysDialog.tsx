import { defined } from '@warper/core';
import { Dialog } from 'radix-ui';
import { COMMANDS } from './commands';
import { FOCUS_KEYS } from './keys';
import { giveFocusBack } from '../../../ui/giveFocusBack';

/** The list of keys. */
export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const groups = [...new Set(COMMANDS.map((c) => c.group))];
  return (
    <Dialog.Root open={open} onOpenChange={(o) => !o && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content
          onCloseAutoFocus={giveFocusBack}
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 max-h-[88vh] w-[58rem] max-w-[94vw] -translate-1/2 overflow-y-auto rounded-lg border bg-raised p-6 shadow-lg"
        >
          <Dialog.Title className="mb-3 text-lg font-bold">Keys</Dialog.Title>
          <div className="gap-8 sm:columns-2">
            <List title="On what has the focus" entries={FOCUS_KEYS} />
            {groups.map((g) => (
              <List
                key={g}
                title={g}
                entries={COMMANDS.filter((c) => c.group === g && c.shown).map((c) => [
                  defined(c.shown),
                  c.name.toLowerCase(),
                ])}
              />
            ))}
          </div>
          <p className="mt-3 text-soft">Everything here, and more, is found by name with / or Ctrl K.</p>
          <Dialog.Close className="mt-3 rounded-md border px-3 py-1 hover:border-soft">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function List({ title, entries }: { title: string; entries: readonly (readonly [string, string])[] }) {
  return (
    <section className="mb-3 break-inside-avoid">
      <h3 className="mb-1 border-b text-xs tracking-wide text-soft">{title}</h3>
      <dl className="grid grid-cols-[7.5rem_1fr] gap-y-0.5">
        {entries.map(([keys, what]) => (
          <div key={keys + what} className="contents">
            <dt className="font-semibold">{keys}</dt>
            <dd className="text-soft">{what}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
