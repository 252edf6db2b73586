import type { CharacterPlan, Clip } from '@warper/core';
import {
  PLAIN_SEAM,
  withSeam,
  compile,
  evaluate,
  findSteps,
  jointOfRole,
  makePoseBuffer,
  makeWorldPose,
  matchClipsSteps,
  poseToWorld,
  fixedLibrary,
} from '@warper/core';
import { curveWeight, jointTracks, rawHeadings, rootTrack } from '@warper/core/kernels';
import { keeperClips } from '@warper/demo';
import { sceneOf, segmentOf } from '../scenes';
import { HUE, INK, OTHER, Panel, RULE, SIGNAL, SOFT, picture } from './svg';

type Points = [number, number][];
const made = keeperClips();
const clipOf = (name: string): Clip => made.find((c) => c.clip.name === name)!.clip;
const library = fixedLibrary({
  clip: (id: string) => made.find((c) => c.clip.id === id)?.clip,
  body: () => clipOf('Walk').skeleton,
});
const planOf = (...segments: Parameters<typeof segmentOf>[]): CharacterPlan =>
  compile(sceneOf(segments.map((s) => segmentOf(...s))), library).characters[0]!;

const frames = (count: number, step = 1): number[] =>
  Array.from({ length: Math.floor((count - 1) / step) + 1 }, (_, i) => i * step);

/** World places of the joint of a role at frames of a performance: x, y, z. */
function placesOf(
  plan: CharacterPlan,
  role: 'leftToes' | 'rightToes' | 'hips',
  at: readonly number[],
): number[][] {
  const pose = makePoseBuffer(plan.skeleton);
  const world = makeWorldPose(plan.skeleton);
  const joint = jointOfRole(plan.skeleton, role);
  return at.map((f) => {
    poseToWorld(plan.skeleton, evaluate(plan, f, pose), world);
    return Array.from(world.positions.subarray(joint * 3, joint * 3 + 3));
  });
}

/** Root and heading: how the hips sway beside the way, and what the smoothing takes out of the heading. */
export function headingPicture(): string {
  const clip = clipOf('Walk');
  const root = rootTrack(clip);
  const raw = rawHeadings(clip);
  const all = frames(clip.frames);
  const degrees = (v: number): number => (v * 180) / Math.PI;
  const floor = new Panel(
    [20, 40, 300, 150],
    [-0.4, -0.06],
    [1.1, 0.06],
    'the hips on the floor, from above',
  );
  floor.line(
    [
      [0, 0],
      [1.1, 0],
    ],
    RULE,
  );
  floor.line(
    all.map((f): [number, number] => [root[f * 3 + 1]!, root[f * 3]!]),
    HUE,
    2,
  );
  for (const f of frames(clip.frames, 3)) {
    const [x, z, turn] = [root[f * 3]!, root[f * 3 + 1]!, root[f * 3 + 2]!];
    floor.line(
      [
        [z, x],
        [z + 0.05 * Math.cos(turn), x + 0.05 * Math.sin(turn)],
      ],
      SIGNAL,
      1,
    );
  }
  const chart = new Panel([360, 40, 300, 150], [0, -8], [30, 8], 'heading in degrees: as it is, and calmed');
  chart.line(
    [
      [0, 0],
      [30, 0],
    ],
    RULE,
  );
  chart.line(
    all.map((f): [number, number] => [f, degrees(raw[f]!)]),
    SOFT,
    1,
    '3 3',
  );
  chart.line(
    all.map((f): [number, number] => [f, degrees(root[f * 3 + 2]!)]),
    SIGNAL,
    2,
  );
  return picture(680, 210, [floor, chart]);
}

/** Steps: height and speed of the toes, the limits between which they stand, and what was found. */
export function stepsPicture(): string {
  const clip = clipOf('Walk start');
  const { joints } = findSteps(clip);
  const toes = joints.find((j) => j.role === 'leftToes')!;
  const track = jointTracks(clip, [toes.joint]);
  const all = frames(clip.frames);
  const leg = 0.86;
  const lowest = Math.min(...all.map((f) => track[f * 3 + 1]!));
  const height: Points = all.map((f) => [f, (track[f * 3 + 1]! - lowest) / leg]);
  const speed: Points = all.slice(1).map((f) => {
    const step = [0, 1, 2].map((k) => track[f * 3 + k]! - track[f * 3 - 3 + k]!);
    return [f - 0.5, (Math.hypot(...step) * clip.rate) / leg];
  });
  const panel = (y: number, top: number, title: string, values: Points, on: number, off: number): Panel => {
    const p = new Panel([20, y, 640, 90], [0, 0], [clip.frames, top], title);
    for (const s of toes.spans) p.area(s.start, 0, s.end, top, HUE, 0.14);
    p.line(
      [
        [0, on],
        [clip.frames, on],
      ],
      SIGNAL,
      1,
      '4 3',
    ).line(
      [
        [0, off],
        [clip.frames, off],
      ],
      OTHER,
      1,
      '4 3',
    );
    return p.line(
      values.map(([x, v]) => [x, Math.min(v, top)]),
      INK,
      1.6,
    );
  };
  return picture(680, 270, [
    panel(
      34,
      0.16,
      'height of the left toes in leg lengths; on below 0.04, off above 0.07',
      height,
      0.04,
      0.07,
    ),
    panel(
      164,
      2,
      'their speed in leg lengths a second; on below 0.35, off above 0.6; tinted: planted',
      speed,
      0.35,
      0.6,
    ),
  ]);
}

/** A loop's cycles: each stands where the last one ended, turned as that one was; and straightened. */
export function loopPicture(): string {
  const clip = clipOf('Walk drifting');
  const panel = (y: number, title: string, straighten: boolean): Panel => {
    const plan = planOf([clip, 's', 0, { loop: true, repeat: 6, straighten }]);
    const p = new Panel([20, y, 640, 90], [-0.5, -0.4], [7.9, 2.5], title);
    const all = frames(plan.end);
    const pose = makePoseBuffer(plan.skeleton);
    const way: Points = all.map((f) => {
      const { root } = evaluate(plan, f, pose);
      return [root[1]!, root[0]!];
    });
    p.line(way, HUE, 1.6);
    return p.dots(
      way.filter((_, f) => f % 30 === 0),
      SIGNAL,
      3,
    );
  };
  return picture(680, 270, [
    panel(
      34,
      'a walk that drifts by 6 degrees a cycle, six times: cycle n stands at D to the power n',
      false,
    ),
    panel(164, 'the same, straightened', true),
  ]);
}

/** A fit: the incoming walk as it was recorded, and where it is put. */
export function fitPicture(): string {
  const [a, b] = [clipOf('Turn left 90'), clipOf('Walk')];
  const start = a.frames - 8;
  const draw = (box: [number, number, number, number], fit: 'free' | 'whole body', title: string): Panel => {
    const p = new Panel(box, [-5.4, -0.5], [1.1, 2.4], title);
    const plan = planOf(
      [a, 'a', 0],
      [b, 'b', start, { loop: true, repeat: 2, seam: { ...PLAIN_SEAM, fit } }],
    );
    const floor = (at: number[]): Points => placesOf(plan, 'hips', at).map(([x, , z]) => [-x!, z!]);
    p.line(floor(frames(start)), HUE, 2);
    return p
      .line(floor(frames(plan.end).slice(a.frames)), OTHER, 2)
      .line(floor(frames(a.frames).slice(start)), SIGNAL, 3);
  };
  return picture(680, 190, [
    draw([20, 34, 310, 138], 'free', 'as recorded: it jumps back to where it began'),
    draw([350, 34, 310, 138], 'whole body', 'fitted by the whole body; red: the overlap'),
  ]);
}

/** Three ways to join: height of a foot over the seam, and the weights that do it. */
export function seamPicture(): string {
  const [a, b] = [clipOf('Walk'), clipOf('Walk stop')];
  const cut = 31 - 4;
  const kinds = [
    ['cut', SIGNAL, 0, null],
    ['settle', OTHER, 0, 9],
    ['crossfade', HUE, 8, null],
  ] as const;
  const chart = new Panel(
    [20, 34, 400, 200],
    [cut - 16, 0],
    [cut + 22, 0.15],
    'height of a foot over a seam, metres',
  );
  kinds.forEach(([name, colour, overlap, settle], i) => {
    const out = cut + overlap / 2;
    const plan = planOf(
      [a, 'a', 0, { out: Math.round(out) }],
      [
        b,
        'b',
        Math.round(out) - overlap,
        { in: 3, seam: withSeam(PLAIN_SEAM, {}, settle ? { kind: 'settle', frames: settle } : undefined) },
      ],
    );
    const at = frames(38 * 4).map((k) => cut - 16 + k / 4);
    chart.line(
      placesOf(plan, 'leftToes', at).map(([, y], k): [number, number] => [at[k]!, y!]),
      colour,
      2,
    );
    chart.label(cut - 15, 0.137 - i * 0.013, name, colour);
  });
  const weights = new Panel([460, 34, 200, 200], [0, 0], [1, 1], 'weight of the incoming side');
  const u = frames(51).map((i) => i / 50);
  weights.line(
    u.map((v): [number, number] => [v, curveWeight('linear', v)]),
    SOFT,
    1,
    '3 3',
  );
  weights.line(
    u.map((v): [number, number] => [v, curveWeight('smooth', v)]),
    HUE,
    2,
  );
  return picture(680, 250, [chart, weights]);
}

/** The map of distances of two walks, and its minima. */
export function matchPicture(): string {
  const [a, b] = [clipOf('Walk start'), clipOf('Walk stop')];
  const steps = matchClipsSteps(a, b, { top: 5 });
  let step = steps.next();
  while (!step.done) step = steps.next();
  const { distances, outgoingMoments: rows, incomingMoments: columns, pairs } = step.value;
  const p = new Panel(
    [20, 34, 300, 290],
    [0, rows],
    [columns, 0],
    'Walk start (down) against Walk stop (right)',
  );
  const coarse = 2;
  for (let i = 0; i < rows; i += coarse)
    for (let j = 0; j < columns; j += coarse) {
      const likeness = Math.max(0, 1 - distances[i * columns + j]! / 0.35);
      if (likeness > 0.02) p.area(j, i + coarse, j + coarse, i, INK, 0.9 * likeness * likeness);
    }
  pairs.forEach((pair, i) =>
    p.dots([[pair.in, pair.out]], SIGNAL, 4).label(pair.in + 2, pair.out, String(i + 1), SIGNAL),
  );
  const list = new Panel([360, 34, 300, 290], [0, 6], [1, 0], 'the pairs, best first');
  pairs.forEach((pair, i) =>
    list.label(0.05, i + 0.8, `${i + 1}. ${pair.out} to ${pair.in}: ${pair.distanceCm.toFixed(1)} cm`, INK),
  );
  return picture(680, 340, [p, list]);
}

/** A way bent through three marks, and the steps on it. */
export function marksPicture(): string {
  const clip = clipOf('Walk');
  const marks = [
    { frame: 40, x: 0.3, z: 1.6, heading: 15 },
    { frame: 80, x: 0.1, z: 3.3, heading: -10 },
    { frame: 119, x: -0.4, z: 4.9, heading: -20 },
  ];
  const [plain, bent] = [[], marks].map((m) => planOf([clip, 's', 0, { loop: true, repeat: 4, marks: m }]));
  const p = new Panel(
    [20, 34, 640, 150],
    [-0.5, -0.7],
    [5.4, 0.7],
    'a straight walk through three marks, from above',
  );
  const floor = (plan: CharacterPlan, role: 'hips' | 'leftToes' | 'rightToes', at: number[]): Points =>
    placesOf(plan, role, at).map(([x, , z]) => [z!, x!]);
  p.line(floor(plain!, 'hips', frames(120)), RULE, 2).line(floor(bent!, 'hips', frames(120)), HUE, 2);
  for (const role of ['leftToes', 'rightToes'] as const) p.dots(floor(bent!, role, frames(120)), OTHER, 1.6);
  for (const { x, z, heading } of marks) {
    const t = (heading * Math.PI) / 180;
    p.line(
      [
        [z, x],
        [z + 0.3 * Math.cos(t), x + 0.3 * Math.sin(t)],
      ],
      SIGNAL,
      2,
    ).dots([[z, x]], SIGNAL, 4);
  }
  return picture(680, 200, [p]);
}

/** Held feet: the floor path of the toes in a walk scaled against its steps, before and after. */
export function holdsPicture(): string {
  const clip = clipOf('Walk');
  const at = frames(90);
  const segments = sceneOf([
    segmentOf(clip, 's', 0, {
      loop: true,
      repeat: 3,
      straighten: true,
      marks: [{ frame: 89, x: 0, z: 2.9, heading: 0 }],
    }),
  ]);
  const held = compile(segments, library).characters[0]!;
  const free = { ...held, holdsFeet: false };
  const draw = (y: number, title: string, plan: CharacterPlan): Panel => {
    const p = new Panel([20, y, 640, 70], [-0.6, 0], [3.4, 0.25], title);
    for (const [role, colour] of [
      ['leftToes', HUE],
      ['rightToes', OTHER],
    ] as const)
      p.dots(
        placesOf(plan, role, at).map(([, h, z]): [number, number] => [z!, h!]),
        colour,
        2,
      );
    return p;
  };
  return picture(680, 230, [
    draw(34, 'toes from the side, a walk that is to end a metre short: without held feet they slide', free),
    draw(144, 'held: every step is one place', held),
  ]);
}
