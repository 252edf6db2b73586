import type { Skeleton } from '@warper/core';
import type { Joint } from './build';
import type { Vec3 } from './pose';
import type { Bind, Ring } from './surface';
import { Surface } from './surface';

/** Height at which the measures below were drawn. */
const DRAWN = 1.78;

/** What the parts of a mannequin are made with: its two surfaces, where its joints are, and rings in the measures of the drawing. */
export class Kit {
  readonly scale: number;
  readonly limbs = new Surface();
  readonly joints = new Surface();
  private readonly rest: Float64Array;
  constructor(
    height: number,
    private readonly skeleton: Skeleton,
  ) {
    this.scale = height / DRAWN;
    this.rest = skeleton.rest.positions;
  }
  index(joint: Joint): number {
    return this.skeleton.names.indexOf(joint);
  }
  at(joint: Joint): Vec3 {
    const i = this.index(joint) * 3;
    return [this.rest[i]!, this.rest[i + 1]!, this.rest[i + 2]!];
  }
  /** Where the last bone of a chain ends. */
  end(joint: Joint): Vec3 {
    const [x, y, z] = this.at(joint);
    const end = this.skeleton.ends[this.index(joint)] ?? [0, 0, 0];
    return [x + end[0], y + end[1], z + end[2]];
  }
  bind(...parts: readonly (readonly [Joint, number])[]): Bind {
    return parts.map(([joint, weight]) => [this.index(joint), weight] as const);
  }
  /** A level ring round the trunk; measures of the drawing. */
  level(y: number, rx: number, rz: number, bind: Bind, cz = 0, power = 2.2): Ring {
    const s = this.scale;
    return { centre: [0, y * s, cz * s], u: [0, 0, rz * s], v: [rx * s, 0, 0], bind, power };
  }
  /** Rings along a bone from a joint: [distance, half width, half depth, shift of the centre in depth]. */
  along(
    joint: Joint,
    direction: Vec3,
    depth: Vec3,
    rows: readonly (readonly [number, number, number, number?])[],
    bind: Bind,
    power = 2.1,
  ): Ring[] {
    const o = this.at(joint);
    const s = this.scale;
    const width: Vec3 = [
      direction[1] * depth[2] - direction[2] * depth[1],
      direction[2] * depth[0] - direction[0] * depth[2],
      direction[0] * depth[1] - direction[1] * depth[0],
    ];
    return rows.map(([d, w, t, shift = 0]) => ({
      centre: [0, 1, 2].map((k) => o[k]! + (direction[k]! * d + depth[k]! * shift) * s) as unknown as Vec3,
      u: [0, 1, 2].map((k) => width[k]! * w * s) as unknown as Vec3,
      v: [0, 1, 2].map((k) => depth[k]! * t * s) as unknown as Vec3,
      bind,
      power,
    }));
  }
}
