import { Dialog } from 'radix-ui';
import { KEYS } from './keys';

/** The list of keys. */
export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog.Root open={open} onOpenChange={(o) => !o && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 w-[34rem] max-w-[92vw] -translate-1/2 rounded-lg border bg-raised p-6 shadow-lg"
        >
          <Dialog.Title className="mb-3 text-lg font-bold">Keys</Dialog.Title>
          <dl className="grid grid-cols-[10rem_1fr] gap-y-1.5">
            {KEYS.map(([keys, what]) => (
              <div key={keys} className="contents">
                <dt className="font-semibold">{keys}</dt>
                <dd className="text-soft">{what}</dd>
              </div>
            ))}
          </dl>
          <Dialog.Close className="mt-4 rounded-md border px-3 py-1 hover:border-soft">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
