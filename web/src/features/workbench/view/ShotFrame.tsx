import { makeCameraPose } from '@warper/core';
import { useMemo } from 'react';
import { selectPreviewPlan } from '../../../store/selectors';
import { useAppSelector } from '../../../store/store';
import { filmedPose, insetIn, pictureIn, withLooseCameras } from '../../../parts/stage/filmedPose';

/** Share of a picture's sides in which what happens is seen on any screen (safe action area of SMPTE ST 2046-1). */
const SAFE = 0.93;

interface Props {
  /** Pixels of the view. */
  readonly field: { readonly width: number; readonly height: number };
  readonly inset: boolean;
}

/** The frame of what a camera sees, with its name, lens, thirds and safe frame, over the view. */
export function ShotFrame({ field, inset }: Props) {
  const { plan: whole } = useAppSelector(selectPreviewPlan);
  const dragging = useAppSelector((s) => s.scene.draft !== null);
  const plan = dragging ? withLooseCameras(whole) : whole;
  const frame = useAppSelector((s) => s.session.frame);
  const filmedBy = useAppSelector((s) => s.session.filmedBy);
  const guides = useAppSelector((s) => s.session.guides);
  const pose = useMemo(makeCameraPose, []);
  const filmed = filmedPose(plan, filmedBy, frame, pose);
  const { aspect } = plan.filming;
  const { left, top, width, height } = inset ? insetIn(field, aspect) : pictureIn(field, aspect);
  if (!filmed) return <NoCamera />;
  if (width === 0) return null;
  const { camera, shot } = filmed;
  const words = `${shot ? `${shot.name}: ` : ''}${camera.name}, ${Number(pose.lens.toFixed(1))} mm`;
  return (
    <div
      className="pointer-events-none absolute border border-ink/70"
      style={{ left, top, width, height, boxShadow: inset ? undefined : '0 0 0 2000px rgb(0 0 0 / 0.45)' }}
    >
      {guides && (
        <>
          <Lines places={[1 / 3, 2 / 3]} />
          <div
            className="absolute border border-dashed border-ink/45"
            style={{ inset: `${((1 - SAFE) / 2) * 100}%` }}
          />
        </>
      )}
      <span className="absolute top-1 left-1 rounded-sm bg-plaster/85 px-1 text-small text-soft">
        {words}
      </span>
    </div>
  );
}

const Lines = ({ places }: { readonly places: readonly number[] }) =>
  places.map((at) => (
    <span key={at}>
      <span className="absolute inset-y-0 border-l border-ink/20" style={{ left: `${at * 100}%` }} />
      <span className="absolute inset-x-0 border-t border-ink/20" style={{ top: `${at * 100}%` }} />
    </span>
  ));

const NoCamera = () => (
  <p className="pointer-events-none absolute inset-x-0 top-1/2 text-center text-soft">
    The scene has no camera yet. Add one from the view: Look from Around, then + Camera.
  </p>
);
