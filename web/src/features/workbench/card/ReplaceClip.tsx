import { useLiveQuery } from 'dexie-react-hooks';
import { Command } from 'cmdk';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { Button } from '../../../ui/controls';
import { openSources } from '../../../data/pageLibrary';
import type { StoredClip } from '../../../data/db';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';
import { keptClips } from '../../../data/keptClips';
import { giveFocusBack } from '../../../ui/giveFocusBack';

/** Clips whose verdict lets them go on from their end. */
export const canLoop = (clip: StoredClip): boolean => !['none', 'ordinary'].includes(clip.facts.loop.verdict);

/** Takes another clip in a segment's place, found by its name. */
export function ReplaceClip({ segment, clip }: { segment: string; clip: string }) {
  const dispatch = useAppDispatch();
  const [open, setOpen] = useState(false);
  const clips = useLiveQuery(keptClips, []);
  const take = (by: StoredClip): void => {
    setOpen(false);
    void openSources([by.source]).then(() => {
      const edit = {
        type: 'replace',
        segment,
        by: { clip: by.id, name: by.name, loop: canLoop(by) },
      } as const;
      if (dispatch(commit(edit))) dispatch(sessionActions.announced(`Replaced by ${by.name}`));
    });
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button>Replace clip</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          onCloseAutoFocus={giveFocusBack}
          side="left"
          align="end"
          sideOffset={8}
          className="z-50 w-64 overflow-hidden rounded-md border bg-raised shadow-lg"
        >
          <Command label="Replace clip">
            <Command.Input
              placeholder="Replace clip"
              className="w-full border-b bg-transparent px-3 py-2 outline-none placeholder:text-soft"
            />
            <Command.List className="max-h-64 overflow-y-auto p-1">
              <Command.Empty className="px-2 py-2 text-soft">No clip has this name.</Command.Empty>
              {(clips ?? [])
                .filter((c) => c.id !== clip)
                .slice(0, 500)
                .map((c) => (
                  <Command.Item
                    key={c.id}
                    value={`${c.name} ${c.id}`}
                    className="flex cursor-pointer justify-between gap-2 rounded px-2 py-1 data-[selected=true]:bg-paper"
                    onSelect={() => take(c)}
                  >
                    <span className="truncate">{c.name}</span>
                    <span className="shrink-0 text-soft">{c.facts.seconds.toFixed(1)} s</span>
                  </Command.Item>
                ))}
            </Command.List>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
