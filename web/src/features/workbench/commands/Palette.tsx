import { Command } from 'cmdk';
import { useAppDispatch } from '../../../store/store';
import { COMMANDS } from './commands';

/** Everything that can be done, found by a few letters of its name. */
export function Palette({ open, onClose }: { open: boolean; onClose: () => void }) {
  const dispatch = useAppDispatch();
  const groups = [...new Set(COMMANDS.map((c) => c.group))];
  return (
    <Command.Dialog
      open={open}
      onOpenChange={(o) => !o && onClose()}
      label="What to do"
      overlayClassName="fixed inset-0 z-40 bg-ink/25"
      contentClassName="fixed top-[16vh] left-1/2 z-50 w-[34rem] max-w-[92vw] -translate-x-1/2 overflow-hidden rounded-lg border bg-raised shadow-lg"
    >
      <Command.Input
        placeholder="What to do?"
        className="w-full border-b bg-transparent px-4 py-3 text-title outline-none placeholder:text-soft"
      />
      <Command.List className="max-h-[50vh] overflow-y-auto p-2">
        <Command.Empty className="px-2 py-3 text-soft">Nothing has all these letters.</Command.Empty>
        {groups.map((g) => (
          <Command.Group
            key={g}
            heading={g}
            className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-soft"
          >
            {COMMANDS.filter((c) => c.group === g).map((c) => (
              <Command.Item
                key={c.name}
                value={c.name}
                className="flex cursor-pointer justify-between rounded px-2 py-1 data-[selected=true]:bg-paper"
                onSelect={() => {
                  onClose();
                  dispatch(c.run);
                }}
              >
                <span>{c.name}</span>
                <kbd className="font-sans text-note text-soft">{c.shown}</kbd>
              </Command.Item>
            ))}
          </Command.Group>
        ))}
      </Command.List>
    </Command.Dialog>
  );
}
