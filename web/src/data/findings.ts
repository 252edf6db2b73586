import type { Skeleton } from '@warper/core';
import { framesPerSecond, jointOfRole, parseRate, roleWords, defined } from '@warper/core';
import type { Remark } from '@warper/formats';
import type { StoredClip } from './db';
import type { ReadResult } from '../workers/protocol';

/** A clip that was found in a file, before anything is kept. */
export interface FoundClip {
  readonly clip: StoredClip;
  /** What it is called in the file. */
  readonly original: string;
  readonly restPose: boolean;
  readonly remarks: readonly Remark[];
}

/** Float or sink in centimetres from which on it is said. */
const FLOATS_CM = 2;
const RATES_DIFFER = 0.01;

/** Joints that a body needs for fits, steps and mapping; a skeleton with few joints, a prop, needs none. */
const NEEDED = [
  'hips',
  ...(['left', 'right'] as const).flatMap((side) =>
    (['UpperLeg', 'LowerLeg', 'Foot', 'UpperArm', 'LowerArm', 'Hand'] as const).map(
      (part) => `${side}${part}` as const,
    ),
  ),
] as const;
/** Without these a clip plays on its own body only, and has no steps. */
const LEGS = /^hips$|Leg$|Foot$/;
const FEW_JOINTS = 8;

/** What there is to say about a file's clips, with a name for each that no other clip has. */
export function findClips(
  result: ReadResult,
  taken: ReadonlySet<string>,
  sceneRate: number | string = 30,
): FoundClip[] {
  const used = new Set(taken);
  return result.clips.map((clip, i) => {
    const name = freeName(clip, used);
    used.add(name.toLowerCase());
    return {
      clip: { ...clip, name },
      original: clip.name,
      restPose: clip.facts.restPose,
      remarks: [
        ...nameRemark(clip.name, name),
        ...measureRemarks(clip, sceneRate),
        ...loopRemark(clip),
        ...mappingRemark(defined(result.imported.clips[i]).skeleton),
      ],
    };
  });
}

/** The clip's own name; where another clip has it, one with the file's name before it, else with a number behind it. */
function freeName({ name, file }: StoredClip, used: ReadonlySet<string>): string {
  const free = (n: string): boolean => !used.has(n.toLowerCase());
  if (free(name)) return name;
  const stem = file.replace(/^.*[\\/]/, '').replace(/\.[^.]*$/, '');
  const named = `${stem} ${name}`;
  if (stem.toLowerCase() !== name.toLowerCase() && free(named)) return named;
  for (let n = 2; ; n++) if (free(`${name} ${n}`)) return `${name} ${n}`;
}

const nameRemark = (original: string, name: string): Remark[] =>
  name === original
    ? []
    : [{ code: 'same-name', message: `Another clip is called ${original}; this one would be ${name}.` }];

function measureRemarks({ facts }: StoredClip, sceneRate: number | string): Remark[] {
  const remarks: Remark[] = [];
  const fps = framesPerSecond(parseRate(sceneRate));
  if (facts.restPose) {
    remarks.push({ code: 'rest-pose', message: 'One frame only: kept as a rest pose, not as a motion.' });
    return remarks;
  }
  if (Math.abs(facts.rate - fps) > RATES_DIFFER)
    remarks.push({
      code: 'rate',
      message: `${Number(facts.rate.toFixed(3))} samples a second; a scene of ${Number(fps.toFixed(3))} plays it at its true speed.`,
    });
  if (Math.abs(facts.floatCm) >= FLOATS_CM)
    remarks.push({
      code: 'float',
      message: `Its planted feet ${facts.floatCm > 0 ? 'float' : 'sink'} by ${Math.abs(facts.floatCm).toFixed(1)} cm.`,
    });
  for (const { sample, metres } of facts.jumps.slice(0, 3))
    remarks.push({
      code: 'jump',
      message: `The body jumps by ${(metres * 100).toFixed(0)} cm at sample ${sample}; cut the clip there, or trim it.`,
    });
  return remarks;
}

/** Quality from which on a part is said to repeat. */
const REPEATS = 0.15;

/** Parts that repeat, of a clip that does not as a whole. */
function loopRemark({ facts, loops = [] }: StoredClip): Remark[] {
  if (facts.loop.verdict === 'doubled' || facts.loop.verdict === 'ordinary') return [];
  const good = loops.filter((l) => l.quality < REPEATS);
  if (good.length === 0) return [];
  const spans = good.map((l) => `${l.in} to ${l.out}`);
  return [{ code: 'repeats', message: `Parts of it repeat: samples ${spans.join(', ')}.` }];
}

function mappingRemark(skeleton: Skeleton): Remark[] {
  if (skeleton.names.length < FEW_JOINTS) return [];
  if (jointOfRole(skeleton, 'leftFrontUpperLeg') >= 0) return [];
  const missing = NEEDED.filter((role) => jointOfRole(skeleton, role) < 0);
  if (missing.length === 0) return [];
  const bones = missing.map(roleWords).join(', ');
  const loss = missing.some((role) => LEGS.test(role))
    ? 'it has no steps, and plays on its own body only'
    : 'they rest on other bodies';
  return [
    {
      code: 'unmapped',
      message: `It is not known which of its bones are ${bones}: ${loss}. Once it is kept, they can be mapped on its page.`,
    },
  ];
}
