import { describe, expect, it } from '@jest/globals';
import { produce } from 'immer';
import { two } from '../testing/arranging';
import { bodyLane, layerLanes, mutedLanes } from './lanes';
import type { LaneState } from './lane';
import type { Scene } from './scene';

const changed = (lane: string, values: Partial<LaneState>): Scene => ({
  ...two,
  lanes: { ...two.lanes, [lane]: { ...two.lanes[lane]!, ...values } },
});

describe('the lanes of a character', () => {
  it('are its own, layers bottom first', () => {
    expect(bodyLane(two, 'c')?.id).toBe('l');
    expect(bodyLane(two, 'd')?.id).toBe('m');
    expect(layerLanes(two, 'd').map((l) => l.id)).toEqual(['y']);
    expect(bodyLane(two, 'nobody')).toBeUndefined();
    expect(layerLanes(two, 'nobody')).toEqual([]);
  });

  it('are those of now after every edit, and within one', () => {
    expect(bodyLane(two, 'c')?.muted).toBe(false);
    const muted = changed('l', { muted: true });
    expect(bodyLane(muted, 'c')?.muted).toBe(true);
    expect(bodyLane(two, 'c')?.muted).toBe(false);
    produce(two, (draft) => {
      draft.lanes.l!.muted = true;
      expect(bodyLane(draft, 'c')?.muted).toBe(true);
      delete draft.lanes.l;
      expect(bodyLane(draft, 'c')).toBeUndefined();
    });
    expect(bodyLane(two, 'c')?.id).toBe('l');
  });

  it('are a list of their own for whoever asks', () => {
    layerLanes(two, 'd').reverse().pop();
    expect(layerLanes(two, 'd')).toHaveLength(1);
  });

  it('are silent where they are muted, or another one is solo; what carries a solo layer stays', () => {
    expect([...mutedLanes(two)]).toEqual([]);
    const solo = changed('y', { solo: true });
    expect([...mutedLanes(solo)]).toEqual(['l']);
  });
});
