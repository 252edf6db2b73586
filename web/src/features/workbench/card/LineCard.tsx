import type { Line, Plan } from '@warper/core';
import { framesPerSecond } from '@warper/core';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';
import { Button, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { TextField } from '../../../ui/TextField';

/** A line of dialogue: who says what, and when. */
export function LineCard({ line, plan }: { readonly line: Line; readonly plan: Plan }) {
  const dispatch = useAppDispatch();
  const fps = framesPerSecond(plan.rate);
  const set = (values: Partial<Line>): void =>
    void dispatch(commit({ type: 'line', line: { ...line, ...values } }));
  return (
    <>
      <p className="text-soft">Line</p>
      <h2 className="mb-2 text-title font-bold">{line.speaker || 'Nobody named'}</h2>
      <Group title="Line">
        <TextField
          label="Text"
          value={line.text}
          onChange={(text) => text.trim() && set({ text: text.trim() })}
        />
        <TextField
          label="Speaker"
          value={line.speaker}
          onChange={(speaker) => set({ speaker: speaker.trim() })}
        />
        <NumberField
          label="Start"
          unit="f"
          value={line.start}
          framesPerSecond={fps}
          onChange={(start) => set({ start, end: start + line.end - line.start })}
        />
        <NumberField
          label="Length"
          unit="f"
          least={1}
          value={line.end - line.start}
          framesPerSecond={fps}
          onChange={(length) => set({ end: line.start + Math.max(1, length) })}
        />
      </Group>
      <div className="flex flex-wrap gap-2 border-t pt-3">
        <Button
          onClick={() => {
            dispatch(commit({ type: 'remove line', line: line.id }));
            dispatch(sessionActions.selected({ kind: 'scene' }));
          }}
        >
          Remove
        </Button>
      </div>
    </>
  );
}
