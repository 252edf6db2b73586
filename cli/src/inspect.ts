import type { RoleMap } from '@warper/core';
import { Memory, clipFacts, findLoops, restHeight, defined } from '@warper/core';
import { bodyWords, readMotionFile } from '@warper/formats';
import { besideFile } from './open';
import { readInput } from './paths';

/** Share of the work that reading is. */
const READING = 0.5;
/** Share of the measuring of a clip that its facts are; the rest is the search for loops. */
const FACTS = 0.3;

/** What a file holds and what is measured of it; the document that `inspect --json` prints. */
export async function inspect(
  path: string,
  roles?: RoleMap,
  progress: (share: number) => void = () => undefined,
): Promise<object> {
  const bytes = await readInput(path);
  const imported = await readMotionFile(bytes, path, { beside: besideFile(path), roles });
  // Reading takes about as long as measuring.
  progress(READING);
  const { skeleton } = defined(imported.bodies[0]);
  return {
    file: path,
    format: imported.format,
    joints: skeleton.names.map((name, i) => ({
      name,
      parent: defined(skeleton.parents[i]) < 0 ? null : defined(skeleton.names[defined(skeleton.parents[i])]),
      role: skeleton.roles[i] ?? null,
    })),
    bodies: imported.bodies.map((b) => ({
      name: b.name,
      heightMetres: restHeight(b.skeleton),
      skinned: b.skinned,
      meshed: b.meshed,
    })),
    remarks: imported.remarks,
    clips: imported.clips.map((clip, i) => {
      const measured = (share: number): void =>
        progress(READING + ((1 - READING) * (i + share)) / imported.clips.length);
      measured(0);
      const memory = new Memory();
      const facts = clipFacts(clip, memory);
      measured(FACTS);
      const spans = (list: typeof facts.leftFoot): number[][] => list.map((s) => [s.start, s.end]);
      return {
        name: clip.name,
        frames: facts.frames,
        rate: facts.rate,
        seconds: facts.seconds,
        restPose: facts.restPose,
        travelMetres: facts.travelMetres,
        turnDegrees: facts.turnDegrees,
        floatCm: facts.floatCm,
        steps: { leftFoot: spans(facts.leftFoot), rightFoot: spans(facts.rightFoot) },
        loop: {
          verdict: facts.loop.verdict,
          in: facts.loop.in,
          out: facts.loop.out,
          period: facts.loop.period,
          gapCm: facts.loop.gapMetres * 100,
        },
        loops: facts.restPose
          ? []
          : findLoops(clip, undefined, memory).map(
              ({ verdict, in: start, out, period, gapMetres, quality }) => ({
                verdict,
                in: start,
                out,
                period,
                gapCm: gapMetres * 100,
                quality,
              }),
            ),
      };
    }),
  };
}

type Inspected = Awaited<ReturnType<typeof inspect>> & {
  joints: unknown[];
  bodies: { name: string; heightMetres: number; skinned: boolean; meshed: boolean }[];
  remarks: { message: string }[];
  clips: {
    name: string;
    frames: number;
    rate: number;
    seconds: number;
    travelMetres: number;
    turnDegrees: number;
    loop: { verdict: string; period: number };
  }[];
};

/** The same for people. */
export function describeInspected(value: object): string {
  const v = value as Inspected;
  return [
    ...v.bodies.map(
      (b) => `body   ${b.name}: ${v.joints.length} joints, ${b.heightMetres.toFixed(2)} m, ${bodyWords(b)}`,
    ),
    ...v.clips.map(
      (c) =>
        `clip   ${c.name}: ${c.frames} samples at ${c.rate} a second (${c.seconds.toFixed(2)} s), travels ${c.travelMetres.toFixed(2)} m, turns ${c.turnDegrees.toFixed(0)} degrees, loop: ${c.loop.verdict}${c.loop.verdict === 'none' ? '' : ` (period ${c.loop.period})`}`,
    ),
    ...v.remarks.map((r) => `remark ${r.message}`),
  ].join('\n');
}
