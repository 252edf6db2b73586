import { defined } from '@warper/core';
import type { SegmentPlan } from '@warper/core';
import { useState } from 'react';
import { Button, Group } from '../../../ui/controls';
import { commit } from '../../../store/edits';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { parseSpans } from '../../../ui/parseSpans';

/** The samples in which each foot joint of a clip is planted, as text that can be edited; the user's own win. */
export function StepsGroup({ plan, clip }: { plan: SegmentPlan; clip: string }) {
  const dispatch = useAppDispatch();
  const steps = useAppSelector((s) => s.scene.document?.steps[clip]);
  const [open, setOpen] = useState(false);
  const { joints } = plan.steps();
  if (joints.length === 0) return null;
  return (
    <Group title="Steps of the clip">
      {!open && (
        <div>
          <Button onClick={() => setOpen(true)}>Edit steps</Button>
        </div>
      )}
      {open &&
        joints.map(({ joint, spans }) => {
          const name = defined(plan.clip.skeleton.names[joint]);
          return (
            <StepsField
              key={name}
              name={name}
              spans={spans.map((s) => [s.start, s.end])}
              edited={steps?.[name] !== undefined}
              most={plan.clip.frames}
              onChange={(value) => dispatch(commit({ type: 'steps', clip, joint: name, spans: value }))}
            />
          );
        })}
    </Group>
  );
}

interface FieldProps {
  readonly name: string;
  readonly spans: readonly (readonly [number, number])[];
  readonly edited: boolean;
  readonly most: number;
  readonly onChange: (spans: (readonly [number, number])[] | null) => void;
}

function StepsField({ name, spans, edited, most, onChange }: FieldProps) {
  const shown = spans.map(([a, b]) => `${a}-${b}`).join(', ');
  const [text, setText] = useState<string | null>(null);
  const parsed = text === null ? null : parseSpans(text, most);
  const wrong = text !== null && parsed === null;
  const finish = (): void => {
    if (parsed && text !== shown) onChange(parsed);
    if (!wrong) setText(null);
  };
  return (
    <div>
      <label className="block">
        <span className="flex justify-between text-soft">
          {name}
          {edited && (
            <Button look="link" onClick={() => onChange(null)}>
              Reset to detected
            </Button>
          )}
        </span>
        <input
          className={`w-full border-b border-dotted bg-transparent py-0.5 ${wrong ? 'border-bad text-bad' : 'border-soft'}`}
          value={text ?? shown}
          aria-invalid={wrong}
          onChange={(e) => setText(e.currentTarget.value)}
          onBlur={finish}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key === 'Enter') finish();
            if (e.key === 'Escape') setText(null);
          }}
        />
      </label>
      {wrong && <p className="text-note text-bad">Write samples as 3-19, 33-49, up to {most}.</p>}
    </div>
  );
}
