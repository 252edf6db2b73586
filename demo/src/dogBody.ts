import type { Skeleton } from '@warper/core';
import type { Mannequin } from './mannequin';
import type { Vec3 } from './pose';
import type { Bind, Ring } from './surface';
import { Surface } from './surface';

/** A dog of turned pieces, like the mannequins. */
export function makeDog(skeleton: Skeleton): Mannequin {
  const limbs = new Surface();
  const joints = new Surface();
  const { positions } = skeleton.rest;
  const index = (name: string): number => skeleton.names.indexOf(name);
  const at = (name: string): Vec3 => [0, 1, 2].map((k) => positions[index(name) * 3 + k]!) as unknown as Vec3;
  const bind = (name: string): Bind => [[index(name), 1]];
  const ring = (centre: Vec3, along: Vec3, width: number, height: number, b: Bind): Ring => {
    // Across the piece, and at right angles to both.
    const n = Math.hypot(...along);
    const u: Vec3 = [width, 0, 0];
    const v: Vec3 = [0, (-along[2] / n) * height, (along[1] / n) * height];
    return { centre, u, v, bind: b, power: 2.1 };
  };
  const piece = (
    surface: Surface,
    from: Vec3,
    to: Vec3,
    rows: readonly (readonly [share: number, width: number, height: number])[],
    joint: string | ((share: number) => Bind),
  ): void => {
    const along: Vec3 = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
    surface.loft(
      rows.map(([s, w, h]) =>
        ring(
          [from[0] + along[0] * s, from[1] + along[1] * s, from[2] + along[2] * s],
          along,
          w,
          h,
          typeof joint === 'string' ? bind(joint) : joint(s),
        ),
      ),
      20,
    );
  };
  const trunk = (s: number): Bind =>
    s < 0.3
      ? bind('hips')
      : s < 0.6
        ? [[index('spine'), 1]]
        : s < 0.75
          ? [
              [index('spine'), 0.4],
              [index('chest'), 0.6],
            ]
          : bind('chest');
  piece(
    limbs,
    [0, 0.5, -0.36],
    [0, 0.49, 0.24],
    [
      [0, 0.03, 0.035],
      [0.04, 0.07, 0.075],
      [0.15, 0.092, 0.1],
      [0.32, 0.088, 0.094],
      [0.5, 0.087, 0.095],
      [0.68, 0.1, 0.118],
      [0.84, 0.098, 0.122],
      [0.95, 0.075, 0.09],
      [1, 0.03, 0.04],
    ],
    trunk,
  );
  piece(
    joints,
    [0, 0.5, 0.15],
    at('head'),
    [
      [0, 0.05, 0.06],
      [0.25, 0.062, 0.075],
      [0.7, 0.05, 0.058],
      [1, 0.035, 0.04],
    ],
    'neck',
  );
  const head = at('head');
  piece(
    limbs,
    [0, head[1] + 0.02, head[2] - 0.05],
    [0, head[1] - 0.035, head[2] + 0.16],
    [
      [0, 0.02, 0.02],
      [0.08, 0.055, 0.055],
      [0.3, 0.066, 0.062],
      [0.5, 0.05, 0.048],
      [0.62, 0.034, 0.034],
      [0.92, 0.028, 0.026],
      [1, 0.012, 0.012],
    ],
    'head',
  );
  for (const s of [1, -1])
    piece(
      joints,
      [s * 0.05, head[1] + 0.055, head[2] - 0.01],
      [s * 0.075, head[1] - 0.035, head[2] - 0.025],
      [
        [0, 0.01, 0.012],
        [0.2, 0.012, 0.03],
        [0.7, 0.012, 0.028],
        [1, 0.005, 0.01],
      ],
      'head',
    );
  piece(
    joints,
    at('tail'),
    at('tail_tip'),
    [
      [0, 0.024, 0.024],
      [0.5, 0.02, 0.02],
      [1, 0.016, 0.016],
    ],
    'tail',
  );
  const tip = at('tail_tip');
  piece(
    limbs,
    tip,
    [tip[0], tip[1] + 0.02, tip[2] - 0.12],
    [
      [0, 0.016, 0.016],
      [0.4, 0.02, 0.02],
      [1, 0.006, 0.006],
    ],
    'tail_tip',
  );
  for (const side of ['left', 'right'])
    for (const leg of ['Hind', 'Front']) {
      const hind = leg === 'Hind';
      const upper = `${side}${leg}UpperLeg`;
      const lower = `${side}${leg}LowerLeg`;
      const hock = `${side}HindHock`;
      const paw = `${side}${leg}Paw`;
      const wide = hind ? 1.15 : 1;
      piece(
        limbs,
        at(upper),
        at(lower),
        [
          [-0.15, 0.025, 0.03],
          [0, 0.042 * wide, 0.062 * wide],
          [0.5, 0.036, 0.046],
          [1, 0.024, 0.028],
          [1.04, 0.012, 0.014],
        ],
        upper,
      );
      piece(
        joints,
        at(lower),
        at(hind ? hock : paw),
        [
          [-0.04, 0.012, 0.014],
          [0, 0.024, 0.028],
          [0.4, 0.022, 0.025],
          [0.9, 0.017, 0.018],
          [1, 0.014, 0.014],
        ],
        lower,
      );
      if (hind)
        piece(
          joints,
          at(hock),
          at(paw),
          [
            [-0.08, 0.01, 0.012],
            [0, 0.017, 0.02],
            [0.6, 0.015, 0.016],
            [1, 0.014, 0.014],
          ],
          hock,
        );
      const p = at(paw);
      piece(
        limbs,
        [p[0], p[1] + 0.004, p[2] - 0.028],
        [p[0], p[1], p[2] + 0.062],
        [
          [0, 0.012, 0.012],
          [0.15, 0.026, 0.02],
          [0.55, 0.03, 0.019],
          [0.88, 0.024, 0.014],
          [1, 0.01, 0.007],
        ],
        paw,
      );
    }
  return { limbs, joints };
}
