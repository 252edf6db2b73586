import type { Clip, Skeleton } from '@warper/core';
import { writeBvh, writeGlb } from '@warper/formats';
import { leanOut, lift, lookOut, nod, pointOut, wait } from './acts';
import type { Build } from './build';
import { buildOf, skeletonOf } from './build';
import { carryWalk, climb, jog, walkFloating, walkHitching } from './gaits';
import { handClips, signalClips } from './handClips';
import { makeMannequin } from './mannequin';
import type { TrueSteps } from './gait';
import type { Take } from './takes';
import { toClip } from './toClip';
import { idle, setDown, turnRound, walk, walkInPlace, walkStart, walkStop, wave } from './takes';
import { BEFORE_DARK } from './beforeDark';
import { dogClips } from './dog';
import { LOOK_OUT } from './lookOut';
import { dogSkeleton } from './dogPose';
import { makeDog } from './dogBody';
import { ropeHaul, ropeStart, ropeStop } from './rope';
import { makeSounds } from './sounds';
import { sitDown, sitting, standUp } from './sitting';
import { turnBy, walkDrifting } from './turns';
import { VISITOR, underOtherNames, visitorSkeleton } from './visitor';
import { writeMannequin } from './writeBody';
import { WAY_HOME } from './wayHome';
import { STANDING_FOOT } from './standingFoot';

/** The Keeper's body. */
export const KEEPER: Build = buildOf(1.78);

/** Slate blue limbs, darker joints (linear). */
const KEEPER_PAINT = { limbs: [0.06, 0.22, 0.31], joints: [0.018, 0.06, 0.085] } as const;

/** Ochre limbs, brown joints; and a dog of two browns (linear). */
const VISITOR_PAINT = { limbs: [0.42, 0.2, 0.06], joints: [0.12, 0.06, 0.03] } as const;
const DOG_PAINT = { limbs: [0.2, 0.1, 0.045], joints: [0.09, 0.045, 0.022] } as const;

/** A clip of the demonstration with the true spans of its steps, in samples. */
export interface MadeClip {
  readonly file: string;
  readonly clip: Clip;
  readonly truth: Truth;
  readonly reach: number;
}

/** The spans in which ankles and toes stand still by construction, in samples [start, end). */
export interface Truth {
  readonly leftFoot: [number, number][];
  readonly leftToes: [number, number][];
  readonly rightFoot: [number, number][];
  readonly rightToes: [number, number][];
}

const KEEPER_TAKES: readonly (readonly [file: string, take: (b: Build) => Take])[] = [
  ['keeper-idle.glb', idle],
  ['keeper-walk.glb', walk],
  ['keeper-walk-in-place.glb', walkInPlace],
  ['keeper-walk-start.glb', walkStart],
  ['keeper-walk-stop.glb', walkStop],
  ['keeper-turn-round.glb', turnRound],
  ['keeper-walk-drifting.glb', walkDrifting],
  ...[45, 90, 135, 180].flatMap((degrees) =>
    [1, -1].map(
      (way) => [`keeper-turn-${way > 0 ? 'left' : 'right'}-${degrees}.glb`, turnBy(way * degrees)] as const,
    ),
  ),
  ['keeper-walk-floating.glb', walkFloating],
  ['keeper-walk-hitching.glb', walkHitching],
  ['keeper-carry-walk.glb', carryWalk],
  ['keeper-jog.glb', jog],
  ['keeper-climb.glb', climb],
  ['keeper-lift.glb', lift],
  ['keeper-look-out.glb', lookOut],
  ['keeper-lean-out.glb', leanOut],
  ['keeper-rope-start.glb', ropeStart],
  ['keeper-rope-haul.glb', ropeHaul],
  ['keeper-rope-stop.glb', ropeStop],
  ['keeper-wave.glb', wave],
  ['Set down.bvh', setDown],
];

/** Makes the Keeper's clips. */
export function keeperClips(skeleton: Skeleton = skeletonOf(KEEPER)): MadeClip[] {
  return KEEPER_TAKES.map(([file, make]) => madeClip(file, make(KEEPER), KEEPER, skeleton));
}

/** Makes the Visitor's clips, on joints with their H-Anim names. */
export function visitorClips(skeleton: Skeleton = visitorSkeleton()): MadeClip[] {
  const plain = skeletonOf(VISITOR);
  return (
    [
      ['visitor-idle.glb', idle],
      ['visitor-walk.glb', walk],
      ['visitor-wait.glb', wait],
      ['visitor-point.glb', pointOut],
      ['visitor-nod.glb', nod],
      ['visitor-sit-down.glb', sitDown],
      ['visitor-sitting.glb', sitting],
      ['visitor-stand-up.glb', standUp],
    ] as const
  ).map(([file, make]) => {
    const take = make(VISITOR);
    const name = `Visitor ${take.name[0]!.toLowerCase()}${take.name.slice(1)}`;
    const made = madeClip(file, { ...take, name }, VISITOR, plain);
    return { ...made, clip: underOtherNames(made.clip, skeleton) };
  });
}

function madeClip(file: string, take: Take, build: Build, skeleton: Skeleton): MadeClip {
  const { clip, reach } = toClip(take, build, skeleton);
  const spans = (list: TrueSteps['foot']): [number, number][] => spansInSamples(list, take, clip.frames);
  const truth = {
    leftFoot: spans(take.left.foot),
    leftToes: spans(take.left.toes),
    rightFoot: spans(take.right.foot),
    rightToes: spans(take.right.toes),
  };
  return { file, clip, truth, reach };
}

/** Spans in seconds as samples [start, end) of a take; those outside it are left out. */
function spansInSamples(list: TrueSteps['foot'], take: Take, frames: number): [number, number][] {
  return list
    .map(([a, b]): [number, number] => [
      Math.max(0, Math.ceil((a - take.from) * take.rate - 1e-6)),
      Math.min(frames, Math.floor((b - take.from) * take.rate + 1e-6) + 1),
    ])
    .filter(([a, b]) => b > a);
}

/** The Keeper's performance on the gallery. */
const LAMP_ROUND = {
  format: 'warper-cues',
  version: 1,
  name: 'The Lamp Round',
  rate: 30,
  bridges: ['visitor-sit-down.glb', 'visitor-stand-up.glb'],
  characters: [
    {
      name: 'Keeper',
      body: 'keeper.glb',
      start: { x: -1.2, z: -2.4, heading: 0 },
      cues: [
        { clip: 'keeper-idle.glb', out: 72 },
        { clip: 'keeper-walk-start.glb', seam: { kind: 'step', overlap: 20 } },
        { clip: 'keeper-walk.glb', repeat: 3, seam: STANDING_FOOT },
        { clip: 'keeper-turn-round.glb', seam: STANDING_FOOT },
        { clip: 'keeper-walk.glb', repeat: 2, seam: STANDING_FOOT },
        { clip: 'keeper-walk-stop.glb', seam: STANDING_FOOT },
        { clip: 'Set down.bvh', seam: STANDING_FOOT },
        { clip: 'keeper-wave.glb', seam: STANDING_FOOT },
        { clip: 'keeper-idle.glb', seam: STANDING_FOOT },
      ],
    },
    {
      name: 'Visitor',
      body: 'visitor.glb',
      start: { x: 1.5, z: 1.1, heading: -118 },
      cues: [
        { clip: 'visitor-idle.glb', repeat: 1.5 },
        { clip: 'visitor-point.glb', seam: STANDING_FOOT },
        { clip: 'visitor-nod.glb', seam: STANDING_FOOT },
        { clip: 'visitor-idle.glb', repeat: 2, seam: STANDING_FOOT },
        // From standing to sitting nothing leads by itself: a bridge is found.
        { clip: 'visitor-sitting.glb', repeat: 1.4, choose: { bridge: true, steps: false } },
      ],
    },
    {
      name: 'Dog',
      body: 'dog.glb',
      start: { x: -2.3, z: -2.1, heading: 4 },
      cues: [
        { clip: 'dog-stand.glb' },
        { clip: 'dog-trot-start.glb', seam: STANDING_FOOT },
        { clip: 'dog-trot.glb', repeat: 3, seam: STANDING_FOOT },
        { clip: 'dog-trot-stop.glb', seam: STANDING_FOOT },
        { clip: 'dog-stand.glb', repeat: 3, seam: STANDING_FOOT },
        { clip: 'dog-sit.glb', seam: STANDING_FOOT },
      ],
    },
  ],
};

const TAGS: readonly (readonly [RegExp, string])[] = [
  [/floating|hitching|drifting/, 'flawed'],
  [/walk|turn|jog|climb|trot/, 'on the move'],
  [/idle|wave|look-out|lean-out|set down|lift|visitor-wait|visitor-point|nod|stand\./i, 'on the spot'],
  [/rope/, 'rope'],
  [/sitting|sit-down|stand-up|dog-sit/, 'sitting'],
  [/^hand-/, 'hand'],
  [/^signal-/, 'signal'],
];

/** Tags of a file's clips; bodies have none. */
const tagsOf = (name: string): string[] =>
  /\.(glb|bvh)$/.test(name) && !/^(keeper|visitor|dog)\.glb$/.test(name)
    ? TAGS.filter(([pattern]) => pattern.test(name)).map(([, tag]) => tag)
    : [];

/** Every file of the demonstration by name; the same bytes each time. */
export async function makeDemonstration(): Promise<Map<string, Uint8Array>> {
  const files = new Map<string, Uint8Array>();
  const text = (value: string): Uint8Array => new TextEncoder().encode(value);
  const skeleton = skeletonOf(KEEPER);
  files.set(
    'keeper.glb',
    await writeMannequin('Keeper', skeleton, makeMannequin(KEEPER, skeleton), KEEPER_PAINT),
  );
  for (const { file, clip, truth } of keeperClips(skeleton)) {
    files.set(file, file.endsWith('.bvh') ? text(writeBvh(clip)) : await writeGlb(clip));
    files.set(file.replace(/\.\w+$/, '.steps.json'), text(JSON.stringify(truth, null, 1) + '\n'));
  }
  const visitor = visitorSkeleton();
  files.set(
    'visitor.glb',
    await writeMannequin('Visitor', visitor, makeMannequin(VISITOR, skeletonOf(VISITOR)), VISITOR_PAINT),
  );
  const dog = dogSkeleton();
  files.set('dog.glb', await writeMannequin('Dog', dog, makeDog(dog), DOG_PAINT));
  for (const { file, clip, truth } of [...visitorClips(visitor), ...dogClips(dog)]) {
    files.set(file, await writeGlb(clip));
    files.set(file.replace(/\.\w+$/, '.steps.json'), text(JSON.stringify(truth, null, 1) + '\n'));
  }
  for (const { file, clip } of [...handClips(skeleton), ...signalClips(KEEPER, skeleton)])
    files.set(file, await writeGlb(clip));
  for (const [file, bytes] of makeSounds()) files.set(file, bytes);
  files.set('lamp-round.cues.json', text(JSON.stringify(LAMP_ROUND, null, 2) + '\n'));
  files.set('before-dark.cues.json', text(JSON.stringify(BEFORE_DARK, null, 2) + '\n'));
  files.set('look-out.cues.json', text(JSON.stringify(LOOK_OUT, null, 2) + '\n'));
  files.set('way-home.cues.json', text(JSON.stringify(WAY_HOME, null, 2) + '\n'));
  const names = [...files.keys()];
  const tags = Object.fromEntries(names.map((name) => [name, tagsOf(name)]).filter(([, t]) => t!.length > 0));
  files.set('index.json', text(JSON.stringify({ files: names, tags }, null, 1) + '\n'));
  return files;
}
