import type { LaneState } from '@warper/core';
import { EyeOff, Lock, MoreHorizontal, Star, VolumeX } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { giveFocusBack } from '../../../ui/giveFocusBack';
import { commit } from '../../../store/edits';
import { useAppDispatch } from '../../../store/store';
import { LayerOptions } from './LayerOptions';
import type { Row } from './rows';

/** What a lane's state is called, with a sign. */
export const LANE_STATES: readonly (readonly [keyof LaneState, string, string, typeof Lock])[] = [
  ['muted', 'Muted', 'ignored, as if empty', VolumeX],
  ['solo', 'Solo', 'all other lanes are ignored', Star],
  ['locked', 'Locked', 'segments cannot be changed', Lock],
  ['hidden', 'Hidden', 'row not shown here', EyeOff],
];

/** How a lane is treated while working, and what can be done with a layer. */
export function LaneOptions({ lane, of }: { readonly lane: Row['lane']; readonly of: string }) {
  const dispatch = useAppDispatch();
  const changeState = (key: keyof LaneState, value: boolean): void =>
    void dispatch(commit({ type: 'change lane', lane: lane.id, values: { [key]: value } }));
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="p-1 text-soft hover:text-ink" aria-label={`Options for ${of}`}>
        <MoreHorizontal size={14} aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          onCloseAutoFocus={giveFocusBack}
          className="z-50 rounded-md border bg-raised py-1 shadow-lg"
          align="start"
          side="right"
        >
          {LANE_STATES.map(([key, word, what, Sign]) => (
            <DropdownMenu.CheckboxItem
              key={key}
              className="flex items-center gap-2 px-3 py-1 outline-none data-[highlighted]:bg-paper"
              checked={lane[key]}
              onCheckedChange={(value) => changeState(key, value)}
            >
              <Sign size={14} aria-hidden />
              <span className="w-14 font-semibold">{word}</span>
              <span className="text-note text-soft">{what}</span>
              <span className="w-4 text-right">
                <DropdownMenu.ItemIndicator>✓</DropdownMenu.ItemIndicator>
              </span>
            </DropdownMenu.CheckboxItem>
          ))}
          {lane.kind === 'layer' && <LayerOptions layer={lane} />}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
