import type { PropShape } from '@warper/core';
import { stairSteps } from '@warper/core';

type Place = readonly [number, number, number];

/** One solid of a prop; sizes in metres, turned about x, y and z in that order, radians. */
export interface Solid {
  /** Number of the joint that carries it. */
  readonly joint: number;
  readonly form:
    | { readonly box: Place }
    | { readonly cylinder: readonly [radius: number, height: number, top?: number] }
    | { readonly ball: Place }
    | { readonly ring: readonly [radius: number, thickness: number, arc: number] };
  /** Middle of the solid, in the scene at rest. */
  readonly at: Place;
  readonly turned?: Place;
  /** Of the prop's own colour, darker, or as if it gave light. */
  readonly tone?: 'plain' | 'dark' | 'light';
}

/** A joint of a prop: a grip, a seat, a hinge or the whole; where it is in the scene at rest. */
export interface PropJoint {
  readonly name: string;
  readonly parent: number;
  readonly at: Place;
}

/** What a prop is made of. */
export interface PropParts {
  readonly joints: readonly PropJoint[];
  readonly solids: readonly Solid[];
}

/** A prop that is made in code: what it measures unless asked otherwise, and how it is made. */
interface Made {
  /** Width, height and depth, metres. */
  readonly size: Place;
  readonly colour: string;
  readonly parts: (size: Place) => PropParts;
}

/** Props by shape, but for those that came with a file. */
export const PROPS: Readonly<Record<Exclude<PropShape, 'own file'>, Made>> = {
  box: { size: [0.4, 0.4, 0.4], colour: '#9c7a52', parts: box },
  ball: { size: [0.3, 0.3, 0.3], colour: '#4f7a8c', parts: ball },
  cylinder: { size: [0.4, 0.6, 0.4], colour: '#7d6a58', parts: cylinder },
  plane: { size: [2, 0.02, 2], colour: '#b9b1a0', parts: plane },
  stair: { size: [1, 0.72, 1.12], colour: '#a49a88', parts: stair },
  bench: { size: [1.4, 0.45, 0.4], colour: '#8b6a45', parts: bench },
  'rope line': { size: [3, 1, 0.1], colour: '#b08d57', parts: ropeLine },
  lantern: { size: [0.16, 0.3, 0.16], colour: '#5b5348', parts: lantern },
  'hand cart': { size: [0.8, 0.5, 1.2], colour: '#7e5d3b', parts: handCart },
  'storm shutter': { size: [0.9, 1.2, 0.05], colour: '#3f6a64', parts: shutter },
  door: { size: [0.9, 2, 0.05], colour: '#6d4c33', parts: door },
  basket: { size: [0.34, 0.22, 0.26], colour: '#b48a52', parts: basket },
};

const named = (...joints: (readonly [name: string, parent: number, ...at: Place])[]): PropJoint[] =>
  joints.map(([name, parent, x, y, z]) => ({ name, parent, at: [x, y, z] }));

function box([w, h, d]: Place): PropParts {
  return {
    joints: named(['box', -1, 0, 0, 0], ['leftGrip', 0, w / 2, h / 2, 0], ['rightGrip', 0, -w / 2, h / 2, 0]),
    solids: [{ joint: 0, form: { box: [w, h, d] }, at: [0, h / 2, 0] }],
  };
}

function ball([w, h, d]: Place): PropParts {
  return {
    joints: named(['ball', -1, 0, 0, 0], ['grip', 0, 0, h / 2, 0]),
    solids: [{ joint: 0, form: { ball: [w / 2, h / 2, d / 2] }, at: [0, h / 2, 0] }],
  };
}

function cylinder([w, h]: Place): PropParts {
  return {
    joints: named(['cylinder', -1, 0, 0, 0], ['grip', 0, 0, h, 0]),
    solids: [{ joint: 0, form: { cylinder: [w / 2, h] }, at: [0, h / 2, 0] }],
  };
}

function plane([w, h, d]: Place): PropParts {
  return {
    joints: named(['plane', -1, 0, 0, 0]),
    solids: [{ joint: 0, form: { box: [w, h, d] }, at: [0, h / 2, 0] }],
  };
}

function stair(size: Place): PropParts {
  const [w, h, d] = size;
  const { count, rise, run } = stairSteps(size);
  return {
    joints: named(['stair', -1, 0, 0, 0], ['top', 0, 0, h, d / 2]),
    solids: Array.from({ length: count }, (_, i) => ({
      joint: 0,
      form: { box: [w, rise * (i + 1), run] as const },
      at: [0, (rise * (i + 1)) / 2, (i + 0.5) * run - d / 2] as const,
    })),
  };
}

function bench([w, h, d]: Place): PropParts {
  const slab = Math.min(0.06, h / 3);
  const leg = (x: number): Solid => ({
    joint: 0,
    form: { box: [0.06, h - slab, d * 0.8] },
    at: [x, (h - slab) / 2, 0],
    tone: 'dark',
  });
  return {
    joints: named(['bench', -1, 0, 0, 0], ['seat', 0, 0, h, 0]),
    solids: [
      { joint: 0, form: { box: [w, slab, d] }, at: [0, h - slab / 2, 0] },
      leg(w * 0.4),
      leg(-w * 0.4),
    ],
  };
}

function ropeLine([w, h]: Place): PropParts {
  const post = (x: number): Solid => ({
    joint: 0,
    form: { cylinder: [0.035, h] },
    at: [x, h / 2, 0],
    tone: 'dark',
  });
  return {
    joints: named(
      ['posts', -1, 0, 0, 0],
      ['leftGrip', 0, 0.3, h - 0.04, 0],
      ['rightGrip', 0, -0.3, h - 0.04, 0],
    ),
    solids: [
      post(w / 2),
      post(-w / 2),
      { joint: 0, form: { cylinder: [0.014, w] }, at: [0, h - 0.04, 0], turned: [0, 0, Math.PI / 2] },
    ],
  };
}

function lantern([w, h]: Place): PropParts {
  const r = w / 2;
  // The ring of its handle ends at its full height.
  const ring = Math.min(0.4 * r + 0.03, h / 4);
  const body = h - ring;
  return {
    joints: named(['lantern', -1, 0, 0, 0], ['grip', 0, 0, h, 0]),
    solids: [
      { joint: 0, form: { cylinder: [r, body * 0.12] }, at: [0, body * 0.06, 0] },
      { joint: 0, form: { cylinder: [r * 0.72, body * 0.6] }, at: [0, body * 0.42, 0], tone: 'light' },
      { joint: 0, form: { cylinder: [r, body * 0.28, r * 0.25] }, at: [0, body * 0.86, 0] },
      ...[0, 1, 2, 3].map((k): Solid => {
        const a = (k * Math.PI) / 2 + Math.PI / 4;
        return {
          joint: 0,
          form: { cylinder: [0.006, body * 0.62] },
          at: [0.8 * r * Math.sin(a), body * 0.42, 0.8 * r * Math.cos(a)],
        };
      }),
      { joint: 0, form: { ring: [ring, 0.006, Math.PI] }, at: [0, h - ring, 0], tone: 'dark' },
    ],
  };
}

/** Height over the floor at which a hand pulls a cart, metres (common practice). */
const PULLED = 0.8;

function handCart([w, h, d]: Place): PropParts {
  const wheel = h * 0.55;
  const [bed, shaft] = [h * 0.12, 0.9];
  // The shafts of a low cart rise to the hand.
  const handle = Math.max(h, PULLED);
  const side = (x: number): Solid[] => [
    { joint: 0, form: { box: [0.03, h * 0.4, d] }, at: [x * (w / 2 - 0.015), h + h * 0.2, 0] },
    {
      joint: 0,
      form: { box: [0.04, 0.04, Math.hypot(shaft, handle - h)] },
      at: [x * 0.27, (h + handle) / 2, d / 2 + shaft / 2],
      turned: [-Math.atan2(handle - h, shaft), 0, 0],
      tone: 'dark',
    },
  ];
  const wheelOf = (joint: number, x: number): Solid[] => [
    {
      joint,
      form: { ring: [wheel - 0.02, 0.02, 2 * Math.PI] },
      at: [x, wheel, 0],
      turned: [0, Math.PI / 2, 0],
      tone: 'dark',
    },
    { joint, form: { cylinder: [0.05, 0.08] }, at: [x, wheel, 0], turned: [0, 0, Math.PI / 2], tone: 'dark' },
    ...[0, 1, 2, 3].map((k): Solid => ({
      joint,
      form: { box: [0.02, 2 * wheel - 0.05, 0.025] },
      at: [x, wheel, 0],
      turned: [(k * Math.PI) / 4, 0, 0],
    })),
  ];
  const axle = w / 2 + 0.06;
  return {
    joints: named(
      ['cart', -1, 0, 0, 0],
      ['leftWheel', 0, axle, wheel, 0],
      ['rightWheel', 0, -axle, wheel, 0],
      ['seat', 0, 0, h + bed / 2, -0.1],
      ['leftGrip', 0, 0.27, handle, d / 2 + shaft],
      ['rightGrip', 0, -0.27, handle, d / 2 + shaft],
    ),
    solids: [
      { joint: 0, form: { box: [w, bed, d] }, at: [0, h, 0] },
      { joint: 0, form: { box: [w, h * 0.4, 0.03] }, at: [0, h + h * 0.2, -d / 2 + 0.015] },
      {
        joint: 0,
        form: { cylinder: [0.02, 2 * axle] },
        at: [0, wheel, 0],
        turned: [0, 0, Math.PI / 2],
        tone: 'dark',
      },
      ...side(1),
      ...side(-1),
      ...wheelOf(1, axle),
      ...wheelOf(2, -axle),
    ],
  };
}

function shutter([w, h, d]: Place): PropParts {
  const slats = Math.max(3, Math.round(h / 0.15));
  const rail = (y: number): Solid => ({
    joint: 0,
    form: { box: [2.3 * w, 0.05, d * 1.6] },
    at: [0, y, -d * 0.2],
    tone: 'dark',
  });
  return {
    joints: named(
      ['rail', -1, 0, 0, 0],
      ['shutter', 0, w * 0.6, 0, 0],
      ['grip', 1, w * 0.6 - 0.38 * w, h / 2, d / 2 + 0.03],
    ),
    solids: [
      rail(0.02),
      rail(h + 0.02),
      { joint: 1, form: { box: [w, h - 0.08, d * 0.5] }, at: [w * 0.6, h / 2 + 0.02, 0] },
      ...Array.from({ length: slats }, (_, i): Solid => ({
        joint: 1,
        form: { box: [w * 0.86, 0.03, d] },
        at: [w * 0.6, 0.04 + ((i + 0.5) / slats) * (h - 0.08), 0],
        tone: 'dark',
      })),
      {
        joint: 1,
        form: { box: [0.03, 0.2, 0.04] },
        at: [w * 0.6 - 0.38 * w, h / 2, d / 2 + 0.02],
        tone: 'dark',
      },
    ],
  };
}

function door([w, h, d]: Place): PropParts {
  const post = (x: number): Solid => ({
    joint: 0,
    form: { box: [0.07, h + 0.07, d * 2] },
    at: [x, (h + 0.07) / 2, 0],
    tone: 'dark',
  });
  return {
    joints: named(
      ['frame', -1, 0, 0, 0],
      ['leaf', 0, w / 2, 0, 0],
      ['grip', 1, -w * 0.4, h / 2, d / 2 + 0.05],
    ),
    solids: [
      post(w / 2 + 0.04),
      post(-w / 2 - 0.04),
      { joint: 0, form: { box: [w + 0.15, 0.07, d * 2] }, at: [0, h + 0.035, 0], tone: 'dark' },
      { joint: 1, form: { box: [w - 0.01, h - 0.01, d] }, at: [0, h / 2, 0] },
      { joint: 1, form: { box: [w * 0.7, h * 0.32, d * 1.3] }, at: [0, h * 0.75, 0], tone: 'dark' },
      { joint: 1, form: { box: [w * 0.7, h * 0.32, d * 1.3] }, at: [0, h * 0.25, 0], tone: 'dark' },
      { joint: 1, form: { ball: [0.035, 0.035, 0.05] }, at: [-w * 0.4, h / 2, d / 2 + 0.03], tone: 'light' },
    ],
  };
}

function basket([w, h, d]: Place): PropParts {
  const wall = h * 0.55;
  const [long, short] = [w / 2, d / 2];
  const ring = long;
  return {
    joints: named(['basket', -1, 0, 0, 0], ['grip', 0, 0, h, 0]),
    solids: [
      { joint: 0, form: { box: [w * 0.9, 0.02, d * 0.9] }, at: [0, 0.01, 0], tone: 'dark' },
      ...([1, -1] as const).flatMap((s): Solid[] => [
        { joint: 0, form: { box: [0.02, wall, d] }, at: [s * (long - 0.01), wall / 2, 0] },
        { joint: 0, form: { box: [w, wall, 0.02] }, at: [0, wall / 2, s * (short - 0.01)] },
        {
          joint: 0,
          form: { box: [0.015, h - wall, 0.03] },
          at: [s * (ring - 0.02), wall + (h - wall) / 2, 0],
          tone: 'dark',
        },
      ]),
      { joint: 0, form: { box: [w - 0.03, 0.015, 0.03] }, at: [0, h - 0.008, 0], tone: 'dark' },
    ],
  };
}
