import { makePoseBuffer } from '../clip/pose';
import type { Library } from '../compile/compile';
import { compile } from '../compile/compile';
import { reachedFrames } from '../continuity/stagingMeasures';
import { moveOnFloor } from '../edit/floorEdits';
import type { Edit } from '../edit/edit';
import { evaluate } from '../footlock/evaluate';
import { framesPerSecond, parseRate } from '../math/rate';
import type { CharacterPlan, Plan } from '../plan/plan';
import { segmentAt } from '../plan/segmentAt';
import type { Scene } from '../scene/scene';
import type { MendableItem } from './mends';

interface StagingMend {
  readonly edit: Edit;
  readonly what: string;
}

/** Seconds in which a tether comes and goes once its jump is mended: brief, and as long as a hand takes to something near. */
const FADES = [0.2, 0.5];
/** Seconds in which a hand lets go of what it cannot follow any further. */
const LET_GO = 0.3;
/** Metres by which bodies are moved further apart than they are in each other. */
const CLEAR = 0.01;

const framesIn = (scene: Scene, seconds: number): number =>
  Math.max(1, Math.round(seconds * framesPerSecond(parseRate(scene.rate))));

/** What may mend a jump where a tether begins or ends: it comes and goes over some frames, or keeps the offset that there is. */
export function tetherMends(scene: Scene, id: string): StagingMend[] {
  const tether = scene.tethers[id];
  if (tether?.kind !== 'hold') return [];
  const change = (values: Extract<Edit, { type: 'change tether' }>['values']): Edit => ({
    type: 'change tether',
    tether: id,
    values,
  });
  const faded = FADES.map((seconds): StagingMend => {
    const frames = framesIn(scene, seconds);
    const longest = tether.end === null ? frames : Math.floor((tether.end - tether.start) / 2);
    const fade = Math.min(frames, longest);
    const fadeIn = Math.max(tether.fadeIn, fade);
    const fadeOut = tether.end === null ? tether.fadeOut : Math.max(tether.fadeOut, fade);
    return { edit: change({ fadeIn, fadeOut }), what: `let it come and go over ${fade} frames` };
  });
  return tether.grip ? [...faded, { edit: change({ grip: null }), what: 'keep its offset' }] : faded;
}

/** What may mend a hand off what it reaches for: it reaches only while it can, for the longest time on end. */
export function reachMends(scene: Scene, id: string, library: Library): StagingMend[] {
  const tether = scene.tethers[id];
  const plan = compile(scene, library).characters.find((c) => c.character.id === tether?.child);
  const index = plan?.staging?.reaches.findIndex((r) => r.id === id) ?? -1;
  if (tether?.kind !== 'reach' || !plan || index < 0) return [];
  const near = longestRun(reachedFrames(plan, index), plan.thresholds.reachCm.watch);
  if (!near) return [];
  const fade = framesIn(scene, LET_GO);
  const start = near.start === near.first ? tether.start : near.start;
  const end = near.end === near.last ? tether.end : near.end;
  const values = {
    start,
    end,
    fadeIn: start === tether.start ? tether.fadeIn : Math.min(fade, Math.floor((near.end - start) / 3)),
    fadeOut: end === tether.end ? tether.fadeOut : Math.min(fade, Math.floor((near.end - start) / 3)),
  };
  const span = end === null ? `from frame ${start} on` : `from frame ${start} to ${end}`;
  return [{ edit: { type: 'change tether', tether: id, values }, what: `reach ${span} only` }];
}

/** The longest run of frames below a limit, and the first and the one after the last of all frames. */
function longestRun(
  frames: readonly { readonly frame: number; readonly valueCm: number }[],
  limit: number,
): { start: number; end: number; first: number; last: number } | null {
  let [start, best] = [NaN, null as { start: number; end: number } | null];
  for (const { frame, valueCm } of frames) {
    if (valueCm >= limit) start = NaN;
    else {
      if (Number.isNaN(start)) start = frame;
      if (!best || frame + 1 - start > best.end - best.start) best = { start, end: frame + 1 };
    }
  }
  return best && { ...best, first: frames[0]!.frame, last: frames.at(-1)!.frame + 1 };
}

/** What may mend a prop in the floor: it is raised. */
export function sunkMends(scene: Scene, { character: id, value }: MendableItem): StagingMend[] {
  const { prop, body } = scene.characters[id] ?? {};
  if (!prop || body === undefined) return [];
  const raised = Math.ceil((prop.raised + value / 100) * 1000) / 1000;
  const edit: Edit = { type: 'change prop', character: id, body, prop: { ...prop, raised } };
  return [{ edit, what: `raise it by ${value.toFixed(1)} cm` }];
}

/**
 * What may mend two bodies in each other: either is moved away from the other, with all that follows of what they do there.
 *
 * @param id `meeting:ONE:OTHER:FRAME`
 */
export function meetingMends(scene: Scene, { id, value }: MendableItem, library: Library): StagingMend[] {
  const [, one, other, at] = id.split(':');
  const plan = compile(scene, library);
  const who = [one, other].map((c) => plan.characters.find((p) => p.character.id === c));
  const [a, b] = who;
  return a && b
    ? [
        movedAway(scene, plan, a, b, Number(at), value),
        movedAway(scene, plan, b, a, Number(at), value),
      ].flat()
    : [];
}

function movedAway(
  scene: Scene,
  plan: Plan,
  own: CharacterPlan,
  other: CharacterPlan,
  frame: number,
  overlapCm: number,
): StagingMend[] {
  const segment = own.segments[Math.max(0, segmentAt(own.segments, frame))];
  if (!segment) return [];
  const [x, z] = rootAt(own, frame);
  const [ox, oz] = rootAt(other, frame);
  const apart = Math.hypot(x - ox, z - oz);
  const way = overlapCm / 100 + CLEAR;
  // Two in one place go apart to their sides.
  const move =
    apart > 1e-3
      ? { x: ((x - ox) / apart) * way, z: ((z - oz) / apart) * way, turn: 0 }
      : { x: way, z: 0, turn: 0 };
  const { name } = own.character;
  return [
    {
      edit: moveOnFloor(scene, plan, [segment.id], move, `floor place of ${segment.name}`),
      what: `move ${name} ${(way * 100).toFixed(0)} cm aside from ${segment.name} on`,
    },
  ];
}

function rootAt(plan: CharacterPlan, frame: number): readonly [x: number, z: number] {
  const { root } = evaluate(plan, frame, makePoseBuffer(plan.skeleton));
  return [root[0]!, root[1]!];
}
