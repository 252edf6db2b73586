import { quatMultiply, quatRotate } from '@warper/core';
import type { BvhJoint } from '../imported';

/** Follows the joints from the top to the carrier, to give the carrier's transform in scene space (file units). */
export class SceneCarrier {
  private readonly onWay: boolean[];
  private readonly turn = new Float64Array(4);
  private readonly place = new Float64Array(3);
  private readonly step = new Float64Array(3);

  constructor(
    private readonly joints: readonly BvhJoint[],
    carrier: number,
  ) {
    this.onWay = joints.map(() => false);
    for (let j = carrier; j >= 0; j = joints[j]!.parent) this.onWay[j] = true;
  }

  /** Takes in joint j of the current row; joints come in order. */
  see(j: number, rotation: Float64Array, rows: Float64Array, at: number): void {
    if (!this.onWay[j]) return;
    const joint = this.joints[j]!;
    this.step.set(joint.offset);
    joint.channels.forEach((channel, i) => {
      if (channel.endsWith('position'))
        this.step[channel.charCodeAt(0) - 'X'.charCodeAt(0)]! += rows[at + i]!;
    });
    if (joint.parent < 0) {
      this.place.set(this.step);
      this.turn.set(rotation);
      return;
    }
    quatRotate(this.turn, 0, this.step, 0, this.step, 0);
    for (let k = 0; k < 3; k++) this.place[k]! += this.step[k]!;
    quatMultiply(this.turn, 0, rotation, 0, this.turn, 0);
  }

  rotation(): Float64Array {
    return this.turn;
  }

  position(axis: number): number {
    return this.place[axis]!;
  }
}
