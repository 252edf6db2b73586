import type { LayerLane, LayerSpan } from '@warper/core';
import { Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { useAppSelector } from '../../../store/store';

interface Props {
  readonly layer: LayerLane;
  readonly framesPerSecond: number;
  readonly onChange: (span: LayerSpan | null) => void;
}

/** Seconds that a new span lasts, and in which it comes and goes. */
const NEW = { length: 2, fade: 0.3 };

/** When a layer does something: always, from a frame on, or between two. */
export function LayerSpanGroup({ layer, framesPerSecond, onChange }: Props) {
  const frame = useAppSelector((s) => s.session.frame);
  const { span } = layer;
  const kind = !span ? 'always' : span.end === null ? 'on' : 'between';
  const choose = (to: typeof kind): void => {
    if (to === 'always') return onChange(null);
    const fade = Math.round(NEW.fade * framesPerSecond);
    const { start, fadeIn, fadeOut } = span ?? { start: frame, fadeIn: fade, fadeOut: fade };
    onChange({
      start,
      end: to === 'on' ? null : start + Math.round(NEW.length * framesPerSecond),
      fadeIn,
      fadeOut,
    });
  };
  return (
    <Group title="Span">
      <Choice
        label="In force"
        value={kind}
        options={[
          ['always', 'Always'],
          ['on', 'From a frame on'],
          ['between', 'Between two frames'],
        ]}
        onChange={choose}
      />
      {span && <SpanFields span={span} framesPerSecond={framesPerSecond} onChange={onChange} />}
    </Group>
  );
}

interface FieldProps {
  readonly span: LayerSpan;
  readonly framesPerSecond: number;
  readonly onChange: (span: LayerSpan) => void;
}

function SpanFields({ span, framesPerSecond, onChange }: FieldProps) {
  const { start, end } = span;
  const field = (label: string, value: number, change: (frames: number) => LayerSpan, least?: number) => (
    <NumberField
      label={label}
      unit="f"
      least={least}
      value={value}
      framesPerSecond={framesPerSecond}
      onChange={(frames) => onChange(change(Math.round(frames)))}
    />
  );
  return (
    <>
      {field('From frame', start, (to) => ({ ...span, start: end === null ? to : Math.min(to, end - 1) }))}
      {end !== null && field('To frame', end, (to) => ({ ...span, end: to }), start + 1)}
      {field('Fade in', span.fadeIn, (fadeIn) => ({ ...span, fadeIn }), 0)}
      {end !== null && field('Fade out', span.fadeOut, (fadeOut) => ({ ...span, fadeOut }), 0)}
    </>
  );
}
