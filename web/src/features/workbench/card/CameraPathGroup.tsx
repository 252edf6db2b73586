import type { Camera, Plan } from '@warper/core';
import { cameraAt, cameraValuesAt, makeCameraPose } from '@warper/core';
import { looseOf } from '../../../parts/stage/filmedPose';
import { useAppSelector } from '../../../store/store';
import { Button, Group } from '../../../ui/controls';
import { PointList } from '../../../ui/PointList';

interface Props {
  readonly camera: Camera;
  readonly plan: Plan;
  readonly change: (values: Partial<Omit<Camera, 'id'>>) => void;
}

/** Metres of a path that a camera begins with: to its right. */
const USUAL_PATH = 3;

/** A path over the floor, and how far along it the camera is at the playhead. */
export function CameraPathGroup({ camera, plan, change }: Props) {
  const frame = useAppSelector((s) => s.session.frame);
  const { path } = camera;
  /** A place of the scene as the path has it: beside whom the camera follows. */
  const onPath = (x: number, z: number): readonly [number, number] => {
    const values = cameraValuesAt(plan, { ...camera, path: null }, frame, {
      place: [x, 0, z],
      aim: [x, 0, z],
    });
    return [values.x ?? x, values.z ?? z];
  };
  const begin = (): void => {
    const { place, rotation } = cameraAt(plan, looseOf(camera), frame, makeCameraPose());
    const [x = 0, , z = 0] = place;
    const [qx = 0, qy = 0, qz = 0, qw = 1] = rotation;
    // The camera's own right, on the floor.
    const right = [1 - 2 * (qy * qy + qz * qz), 2 * (qx * qz - qw * qy)] as const;
    const { x: _x, z: _z, ...keys } = camera.keys;
    const along = [
      { frame: plan.start, value: 0 },
      { frame: Math.max(plan.start + 1, plan.end - 1), value: 1 },
    ].map((key) => ({ ...key, curve: 'flat' as const, tangent: null, into: null }));
    change({
      path: [onPath(x, z), onPath(x + USUAL_PATH * right[0], z + USUAL_PATH * right[1])],
      keys: { ...keys, along },
    });
  };
  const leave = (): void => {
    const { place } = cameraAt(plan, looseOf(camera), frame, makeCameraPose());
    const [x, z] = onPath(place[0] ?? 0, place[2] ?? 0);
    const { along: _along, ...keys } = camera.keys;
    change({ path: null, keys, base: { ...camera.base, x, z } });
  };
  return (
    <Group title="Path">
      {path ? (
        <>
          <p className="text-note text-soft">
            It goes along from its first key to its last. Drag the points in the view.
          </p>
          <PathPoints
            path={path}
            onChange={(points) => (points.length >= 2 ? change({ path: points }) : leave())}
          />
          <div>
            <Button onClick={leave}>Leave the path</Button>
          </div>
        </>
      ) : (
        <div>
          <Button onClick={begin}>Go along a path</Button>
        </div>
      )}
    </Group>
  );
}

interface PointsProps {
  readonly path: NonNullable<Camera['path']>;
  readonly onChange: (points: NonNullable<Camera['path']>) => void;
}

function PathPoints({ path, onChange }: PointsProps) {
  const [before, last] = path.slice(-2);
  return (
    <PointList
      title="point of the path"
      points={path}
      columns={[
        { label: 'X', unit: 'm', digits: 2, step: 0.1 },
        { label: 'Z', unit: 'm', digits: 2, step: 0.1 },
      ]}
      add="Point"
      next={() => (before && last ? [2 * last[0] - before[0], 2 * last[1] - before[1]] : [0, 0])}
      onChange={(points) => onChange(points.map(([x = 0, z = 0]) => [x, z] as const))}
    />
  );
}
