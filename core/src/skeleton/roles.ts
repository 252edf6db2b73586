/**
 * Bone roles: the VRM 1.0 humanoid names (VRM Consortium, VRMC_vrm-1.0, "humanoid"), found from the names of
 * the joints in the spellings of common practice and of H-Anim (ISO/IEC 19774). Four-legged bodies use the same names for
 * the trunk and the hind legs, and names of their own for the front legs and the tail.
 */

const SIDED = [
  'UpperLeg',
  'LowerLeg',
  'Foot',
  'Toes',
  'Shoulder',
  'UpperArm',
  'LowerArm',
  'Hand',
  'Eye',
  'ThumbMetacarpal',
  'ThumbProximal',
  'ThumbDistal',
  'IndexProximal',
  'IndexIntermediate',
  'IndexDistal',
  'MiddleProximal',
  'MiddleIntermediate',
  'MiddleDistal',
  'RingProximal',
  'RingIntermediate',
  'RingDistal',
  'LittleProximal',
  'LittleIntermediate',
  'LittleDistal',
] as const;
const CENTRAL = ['hips', 'spine', 'chest', 'upperChest', 'neck', 'head', 'jaw'] as const;
const FRONT = ['FrontShoulder', 'FrontUpperLeg', 'FrontLowerLeg', 'FrontPaw'] as const;

/** A bone role, such as `hips` or `leftUpperLeg`. */
export type Role =
  (typeof CENTRAL)[number] | 'tail' | `${'left' | 'right'}${(typeof SIDED)[number] | (typeof FRONT)[number]}`;

/** Every role, in the order of the standard. */
export const ROLES: readonly Role[] = [
  ...CENTRAL,
  ...SIDED.flatMap((part) => [`left${part}` as Role, `right${part}` as Role]),
];

/** What four-legged bodies have besides. */
export const QUADRUPED_ROLES: readonly Role[] = [
  'tail',
  ...FRONT.flatMap((part) => [`left${part}` as Role, `right${part}` as Role]),
];

/** A role in words, such as "left upper leg". */
export const roleWords = (role: Role): string =>
  role.replace(/([A-Z])/g, (letter) => ` ${letter.toLowerCase()}`);

/** Names of parts, without side, spacing and prefix, and the part of the body that they mean. */
const PARTS: Readonly<Record<string, string>> = {
  hips: 'hips',
  hip: 'hips',
  pelvis: 'hips',
  humanoidroot: 'root',
  sacroiliac: 'hips',
  spine: 'spine',
  lowerback: 'spine',
  abdomen: 'spine',
  vl5: 'spine',
  vl3: 'spine',
  spine1: 'chest',
  spine01: 'spine',
  spine02: 'chest',
  spine03: 'upperChest',
  chest: 'chest',
  torso: 'chest',
  vt10: 'chest',
  vt12: 'chest',
  spine2: 'upperChest',
  upperchest: 'upperChest',
  vt1: 'upperChest',
  vt4: 'upperChest',
  neck: 'neck',
  neck1: 'neck',
  vc4: 'neck',
  vc7: 'neck',
  head: 'head',
  skullbase: 'head',
  jaw: 'jaw',
  temporomandibular: 'jaw',
  tail: 'tail',
  tail1: 'tail',
  upperleg: 'UpperLeg',
  upleg: 'UpperLeg',
  thigh: 'UpperLeg',
  femur: 'UpperLeg',
  sidedhip: 'UpperLeg',
  lowerleg: 'LowerLeg',
  leg: 'LowerLeg',
  calf: 'LowerLeg',
  shin: 'LowerLeg',
  tibia: 'LowerLeg',
  knee: 'LowerLeg',
  foot: 'Foot',
  ankle: 'Foot',
  talocrural: 'Foot',
  toes: 'Toes',
  toe: 'Toes',
  toebase: 'Toes',
  ball: 'Toes',
  metatarsal: 'Toes',
  metatarsophalangeal2: 'Toes',
  shoulder: 'Shoulder',
  clavicle: 'Shoulder',
  collar: 'Shoulder',
  sternoclavicular: 'Shoulder',
  upperarm: 'UpperArm',
  uparm: 'UpperArm',
  arm: 'UpperArm',
  humerus: 'UpperArm',
  shoulderjoint: 'UpperArm',
  lowerarm: 'LowerArm',
  forearm: 'LowerArm',
  radius: 'LowerArm',
  elbow: 'LowerArm',
  hand: 'Hand',
  wrist: 'Hand',
  radiocarpal: 'Hand',
  eye: 'Eye',
  thumbmetacarpal: 'ThumbMetacarpal',
  handthumb1: 'ThumbMetacarpal',
  thumb1: 'ThumbMetacarpal',
  thumbproximal: 'ThumbProximal',
  handthumb2: 'ThumbProximal',
  thumb2: 'ThumbProximal',
  thumbdistal: 'ThumbDistal',
  handthumb3: 'ThumbDistal',
  thumb3: 'ThumbDistal',
  ...fingers('Index', 'index'),
  ...fingers('Middle', 'middle'),
  ...fingers('Ring', 'ring'),
  ...fingers('Little', 'pinky'),
  ...fingers('Little', 'little'),
  ...hAnimFingers(),
};

function fingers(role: string, word: string): Record<string, string> {
  const out: Record<string, string> = {};
  (['Proximal', 'Intermediate', 'Distal'] as const).forEach((part, i) => {
    for (const name of [
      `hand${word}${i + 1}`,
      `${word}${i + 1}`,
      `${word}0${i + 1}`,
      `${word}${part.toLowerCase()}`,
    ])
      out[name] = `${role}${part}`;
  });
  return out;
}

/** Fingers as H-Anim counts them (ISO/IEC 19774-1): 1 the thumb, 5 the little finger. */
function hAnimFingers(): Record<string, string> {
  const out: Record<string, string> = {
    carpometacarpal1: 'ThumbMetacarpal',
    metacarpophalangeal1: 'ThumbProximal',
    carpalinterphalangeal1: 'ThumbDistal',
  };
  ['Index', 'Middle', 'Ring', 'Little'].forEach((finger, i) => {
    out[`metacarpophalangeal${i + 2}`] = `${finger}Proximal`;
    out[`carpalproximalinterphalangeal${i + 2}`] = `${finger}Intermediate`;
    out[`carpaldistalinterphalangeal${i + 2}`] = `${finger}Distal`;
  });
  return out;
}

/** Fingers and face, which carry no weight when poses are compared. */
export const isFineRole = (role: Role): boolean => /Thumb|Index|Middle|Ring|Little|Eye|jaw/.test(role);

/** Words for the legs of four-legged bodies, and what a part is in front and behind. */
const FRONT_WORDS = /^(front|fore(?!arm))/;
const HIND_WORDS = /^(hind|rear|back)/;
const FRONT_PARTS: Readonly<Record<string, string>> = {
  Shoulder: 'FrontShoulder',
  UpperLeg: 'FrontUpperLeg',
  UpperArm: 'FrontUpperLeg',
  LowerLeg: 'FrontLowerLeg',
  LowerArm: 'FrontLowerLeg',
  Foot: 'FrontPaw',
  Hand: 'FrontPaw',
  Paw: 'FrontPaw',
};

/** The part of a leg in front or behind; undefined where the name says neither. */
function quadrupedPart(part: string): string | undefined {
  const bare = part.replace(FRONT_WORDS, '').replace(HIND_WORDS, '');
  if (bare === part) return undefined;
  const base = bare === 'paw' ? 'Paw' : bare === 'hock' ? 'Foot' : PARTS[bare];
  if (FRONT_WORDS.test(part)) return base && FRONT_PARTS[base];
  return base === 'Paw' ? 'Toes' : base;
}

/** Splits a joint's name into its side and the bare part name. */
function splitName(name: string): { side: 'left' | 'right' | null; part: string } {
  const bare = name.replace(/^.*[:|]/, '');
  const words = bare
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .replace(/([A-Z])([A-Z][a-z])/g, '$1 $2')
    .split(/[\s_.-]+/)
    .filter(Boolean)
    .map((w) => w.toLowerCase());
  let side: 'left' | 'right' | null = null;
  const rest: string[] = [];
  words.forEach((word, i) => {
    const named =
      word === 'left' || word === 'l' ? 'left' : word === 'right' || word === 'r' ? 'right' : null;
    if (named && side === null && (i === 0 || i === words.length - 1 || word.length > 1)) side = named;
    else rest.push(word);
  });
  let part = rest.join('');
  const glued = side === null ? /^(left|right)(.+)$/.exec(part) : null;
  if (glued) {
    side = glued[1] as 'left' | 'right';
    part = glued[2]!;
  }
  return { side, part };
}

/** Drops leading words that are no known part, such as the prefix of a rig, until a known part remains. */
function knownPart(part: string): string | undefined {
  const ofLeg = quadrupedPart(part);
  if (ofLeg !== undefined) return ofLeg;
  if (PARTS[part] !== undefined) return PARTS[part];
  return PARTS[part.replace(/^(bip0*1?|def|jnt|joint|bone|b)(?=[a-z])/, '')];
}

/**
 * The role of each joint by its name and its place in the hierarchy, null where there is none. A role is given
 * once, to the joint nearest the root; names that mean two things (`LeftLeg` beside `LeftUpLeg`,
 * `l_hip`, `l_shoulder` of H-Anim) are decided by what else the skeleton has.
 */
export function findRoles(names: readonly string[], parents: ArrayLike<number>): (Role | null)[] {
  const split = names.map(splitName);
  const parts = split.map((s) => knownPart(s.part));
  const hasUpperArms = parts.some((p, i) => p === 'UpperArm' && split[i]!.side !== null);
  split.forEach((s, i) => {
    // A hip or shoulder with a side is H-Anim's word for the joint of the thigh or upper arm.
    if (s.side && parts[i] === 'hips') parts[i] = 'UpperLeg';
    if (s.side && s.part === 'shoulder' && !hasUpperArms) parts[i] = 'UpperArm';
    // "Leg" alone is the thigh where the skeleton has a shin or knee by another name.
    if (
      s.side &&
      s.part === 'leg' &&
      !split.some((o, j) => j !== i && o.side === s.side && parts[j] === 'UpperLeg')
    )
      parts[i] = 'UpperLeg';
  });
  const taken = new Set<Role>();
  const roles: (Role | null)[] = names.map((_, i) => {
    const { side } = split[i]!;
    const part = parts[i];
    if (!part) return null;
    const role = (side ? `${side}${part[0]!.toUpperCase()}${part.slice(1)}` : part) as Role;
    if (!(ROLES.includes(role) || QUADRUPED_ROLES.includes(role)) || taken.has(role)) return null;
    taken.add(role);
    return role;
  });
  if (!taken.has('hips')) {
    const hips = commonAncestor(roles.indexOf('leftUpperLeg'), roles.indexOf('rightUpperLeg'), parents);
    if (hips >= 0 && roles[hips] === null) roles[hips] = 'hips';
  }
  return roles;
}

/** Roles that the user gives to joints by name; null for a joint that has none. */
export type RoleMap = Readonly<Record<string, Role | null>>;

/** The roles found from names, with the user's own in place of them; a role that is given away is lost by who had it. */
export function chooseRoles(
  names: readonly string[],
  parents: ArrayLike<number>,
  roles: RoleMap = {},
): (Role | null)[] {
  const given = new Set(
    Object.entries(roles).flatMap(([name, role]) => (role && names.includes(name) ? [role] : [])),
  );
  return findRoles(names, parents).map((role, i) => {
    const chosen = roles[names[i]!];
    if (chosen !== undefined) return chosen;
    return role && given.has(role) ? null : role;
  });
}

function commonAncestor(a: number, b: number, parents: ArrayLike<number>): number {
  if (a < 0 || b < 0) return -1;
  const line = new Set<number>();
  for (let i = a; i >= 0; i = parents[i]!) line.add(i);
  for (let i = b; i >= 0; i = parents[i]!) if (line.has(i)) return i;
  return -1;
}
