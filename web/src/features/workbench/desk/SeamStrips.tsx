import { makePoseBuffer } from '@warper/core';
import type { SegmentPlan } from '@warper/core';
import { segmentPose } from '@warper/core/kernels';
import { useMemo } from 'react';
import { useAppSelector } from '../../../store/store';
import { PoseStrip } from './PoseStrip';
import type { SeamInHand } from './seamInHand';
import { readStrip } from './strip';

interface Props {
  readonly seam: SeamInHand;
  readonly framesPerSecond: number;
}

/** Figures on either side of where the two meet, and how many there are a second. */
const SIDE = 5;
const A_SECOND = 7.5;

/** The outgoing and the incoming poses below each other, with what meets, or is compared, in the middle. */
export function SeamStrips({ seam, framesPerSecond }: Props) {
  const { character, outgoing, incoming } = seam;
  const compared = useAppSelector((s) =>
    s.session.compared?.segment === incoming.id ? s.session.compared : null,
  );
  const { overlap } = incoming;
  const half = Math.floor(overlap / 2);
  const meets = { out: outgoing.end - outgoing.start - (overlap - half), in: half };
  const { out, in: into } = compared ?? meets;
  const offsets = useMemo(() => {
    const each = Math.max(1, Math.round(framesPerSecond / A_SECOND));
    return Array.from({ length: SIDE * 2 + 1 }, (_, i) => (i - SIDE) * each);
  }, [framesPerSecond]);
  const strips = useMemo(() => {
    const read = (segment: SegmentPlan, frame: number) => {
      const middle = segment.start + frame;
      return readStrip(segment, middle, offsets, headingAt(segment, middle));
    };
    return [read(outgoing, out), read(incoming, into)] as const;
  }, [outgoing, incoming, out, into, offsets]);
  const { hue } = character.character;
  const shared: readonly [number, number] = compared ? [0, 0] : [-half, overlap - half];
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col gap-1">
      <p className="text-note text-soft">
        {compared ? 'Compared, not joined' : 'As it is joined'}: above {outgoing.name}, below {incoming.name};
        what meets is in the middle. Left limbs are lighter.
      </p>
      <PoseStrip
        title={`Outgoing, ${outgoing.name}`}
        strip={strips[0]}
        hue={hue}
        offsets={offsets}
        used={[-out, outgoing.end - outgoing.start - out]}
        shared={shared}
      />
      <PoseStrip
        title={`Incoming, ${incoming.name}`}
        strip={strips[1]}
        hue={hue}
        offsets={offsets}
        used={[-into, incoming.end - incoming.start - into]}
        shared={shared}
      />
    </div>
  );
}

/** Which way a segment's body faces at a frame, radians. */
const headingAt = (segment: SegmentPlan, frame: number): number =>
  segmentPose(segment, frame, true, makePoseBuffer(segment.clip.skeleton)).root[2] ?? 0;
