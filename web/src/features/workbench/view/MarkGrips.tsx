import type { Mark, Scene, Segment, SegmentValues } from '@warper/core';
import { selectPreviewPlan } from '../../../store/selectors';
import { useAppSelector } from '../../../store/store';
import { FloorGrip } from './FloorGrip';

/** How large marks and points of a path are drawn, of a floor handle's usual size. */
const MARK_SIZE = 0.55;
const POINT_SIZE = 0.4;

/** Handles for the marks and the path of the segment in hand. */
export function MarkGrips() {
  const document = useAppSelector((s) => s.scene.document);
  const { plan } = useAppSelector(selectPreviewPlan);
  const selection = useAppSelector((s) => s.session.selection);
  const segment = selection.kind === 'segment' ? document?.segments[selection.id] : undefined;
  const owner = plan.characters.find((c) => c.segments.some((s) => s.id === segment?.id));
  if (!document || !segment || !owner) return null;
  return <Grips segment={segment} shown={shownSegment(plan, segment)} hue={owner.character.hue} />;
}

/** The segment as a drag in hand shows it. */
const shownSegment = (
  plan: {
    readonly characters: readonly { readonly segments: readonly { id: string; settings: unknown }[] }[];
  },
  segment: Segment,
): Pick<Scene['segments'][string], 'marks' | 'path'> => {
  const performed = plan.characters.flatMap((c) => c.segments).find((s) => s.id === segment.id);
  return (performed?.settings as Segment | undefined) ?? segment;
};

interface GripsProps {
  readonly segment: Segment;
  readonly shown: Pick<Segment, 'marks' | 'path'>;
  readonly hue: number;
}

function Grips({ segment, shown, hue }: GripsProps) {
  const change = (values: SegmentValues) => ({ type: 'change', segment: segment.id, values }) as const;
  return (
    <>
      {shown.marks.map((mark, i) => (
        <FloorGrip
          key={`mark ${i}`}
          size={MARK_SIZE}
          grip={{
            place: mark,
            hue,
            edit: ({ x, z, heading }) =>
              change({ marks: segment.marks.map((m, k): Mark => (k === i ? { ...m, x, z, heading } : m)) }),
          }}
        />
      ))}
      {shown.path.map(([x, z], i) => (
        <FloorGrip
          key={`point ${i}`}
          size={POINT_SIZE}
          turns={false}
          grip={{
            place: { x, z, heading: 0 },
            hue,
            edit: (to) =>
              change({ path: segment.path.map((p, k) => (k === i ? ([to.x, to.z] as const) : p)) }),
          }}
        />
      ))}
    </>
  );
}
