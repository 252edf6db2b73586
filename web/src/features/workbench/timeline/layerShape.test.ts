import { describe, expect, it } from '@jest/globals';
import { keyFrames, movedPoint, movedSpan, weightTop } from './layerShape';

const key = { value: 0, curve: 'flat', tangent: null, into: null } as const;
const pose = { rotation: [0, 0, 0, 1], curve: 'flat', tangent: null, into: null } as const;

describe('what is drawn of a layer', () => {
  it('has a peg for each frame with keys, of joints and of the root', () => {
    const frames = keyFrames({
      keys: {
        head: [
          { ...pose, frame: 20 },
          { ...pose, frame: 4 },
        ],
        spine: [{ ...pose, frame: 4 }],
      },
      rootKeys: {
        forward: [
          { ...key, frame: 9 },
          { ...key, frame: 20 },
        ],
      },
    });
    expect(frames).toEqual([4, 9, 20]);
  });

  it('has a span whose ends never pass each other', () => {
    const span = { start: 10, end: 30, fadeIn: 2, fadeOut: 3 };
    expect(movedSpan(span, 'start', 5)).toEqual({ ...span, start: 15 });
    expect(movedSpan(span, 'start', 90).start).toBe(29);
    expect(movedSpan(span, 'end', -90).end).toBe(11);
    expect(movedSpan({ ...span, end: null }, 'start', 90).start).toBe(100);
    expect(movedSpan({ ...span, end: null }, 'end', 5).end).toBeNull();
  });

  it('has weights that are moved up and down between none and full, and not past their neighbours', () => {
    const points = [
      [0, 0],
      [10, 0.5],
      [20, 1],
    ] as const;
    expect(movedPoint(points, 1, 4, 0)).toEqual([points[0], [14, 0.5], points[2]]);
    expect(movedPoint(points, 1, 99, -999)[1]).toEqual([19, 1]);
    expect(movedPoint(points, 1, -99, 999)[1]).toEqual([1, 0]);
    const half = (weightTop(0) - weightTop(1)) / 2;
    expect(movedPoint(points, 0, 0, -half)[0]).toEqual([0, 0.5]);
  });
});
