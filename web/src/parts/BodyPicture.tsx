import type { Skeleton } from '@warper/core';
import { makeWorldPose, poseToWorld, restPose } from '@warper/core';
import { useEffect, useState } from 'react';
import type { StoredBody } from '../data/db';
import { library, openSources } from '../data/pageLibrary';

const SIZE = 44;
/** Turns the body a little to the side, radians. */
const TURN = 0.6;

/** A body in its rest pose, as lines between its joints; its file is opened for it. */
export function BodyPicture({ body }: { readonly body: StoredBody }) {
  const [skeleton, setSkeleton] = useState(() => library.body(body.id) ?? null);
  useEffect(() => {
    let gone = false;
    openSources([body.source]).then(
      () => !gone && setSkeleton(library.body(body.id) ?? null),
      // A body that cannot be opened says so when it is chosen.
      () => undefined,
    );
    return () => {
      gone = true;
    };
  }, [body]);
  return (
    <svg width={SIZE} height={SIZE} className="shrink-0" aria-hidden>
      {skeleton && (
        <path
          d={bodyPath(skeleton, SIZE)}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.6}
          strokeLinecap="round"
        />
      )}
    </svg>
  );
}

/** Lines from each joint to its parent, fitted into a square of so many pixels. */
export function bodyPath(skeleton: Skeleton, size: number): string {
  const { positions } = poseToWorld(skeleton, restPose(skeleton), makeWorldPose(skeleton));
  const points = skeleton.names.map((_, j): [number, number] => [
    (positions[j * 3] ?? 0) * Math.cos(TURN) - (positions[j * 3 + 2] ?? 0) * Math.sin(TURN),
    -(positions[j * 3 + 1] ?? 0),
  ]);
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const [wide, high] = [Math.max(...xs) - left, Math.max(...ys) - top];
  const scale = (size - 4) / (Math.max(wide, high) || 1);
  const at = (j: number): string => {
    const [x = 0, y = 0] = points[j] ?? [];
    const [dx, dy] = [(size - wide * scale) / 2, (size - high * scale) / 2];
    return `${((x - left) * scale + dx).toFixed(1)},${((y - top) * scale + dy).toFixed(1)}`;
  };
  return Array.from(skeleton.parents, (parent, j) => (parent >= 0 ? `M${at(parent)}L${at(j)}` : '')).join('');
}
