import type { CharacterPlan, Plan, Scene } from '@warper/core';
import { evaluate, framesPerSecond, makePoseBuffer, makeWorldPose, poseToWorld, defined } from '@warper/core';
import type { RefObject } from 'react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { compileScene } from '../../store/plan';

const VIEW = { width: 340, height: 176 };
/** Moments whose figures stand side by side while nothing moves. */
const MOMENTS = 8;
/** Direction of sight on the floor, and how much of the depth is seen. */
const TURN = 0.75;
const TILT = 0.22;
/** Metres of height that a row of figures shows. */
const METRES = 2.2;

type Point = readonly [number, number];

/** A scene at a glance: each character's poses side by side; with the pointer or the focus on it they move. */
export function ScenePicture({ scene }: { scene: Scene }) {
  const { plan } = useMemo(() => compileScene(scene), [scene]);
  const root = useRef<SVGSVGElement>(null);
  const frame = useLiveFrame(root, plan);
  const rows = plan.characters.filter((c) => c.segments.length > 0).slice(0, 4);
  const height = VIEW.height / Math.max(1, rows.length);
  return (
    <svg ref={root} viewBox={`0 0 ${VIEW.width} ${VIEW.height}`} className="size-full" aria-hidden>
      {rows.map((c, row) => {
        const frames = frame === null ? moments(c) : [frame];
        return (
          <g
            key={c.character.id}
            stroke={`var(--hue-${c.character.hue})`}
            fill={`var(--hue-${c.character.hue})`}
            strokeLinecap="round"
          >
            {frames.map((f, i) => (
              <Figure
                key={i}
                drawn={figure(c, f)}
                x={((i + 0.5) * VIEW.width) / frames.length}
                y={(row + 0.9) * height}
                scale={height / METRES}
              />
            ))}
          </g>
        );
      })}
    </svg>
  );
}

/** The frame that is played while the card around has the pointer or the focus; null while it rests. */
function useLiveFrame(root: RefObject<Element | null>, { rate, end }: Plan): number | null {
  const [frame, setFrame] = useState<number | null>(null);
  useEffect(() => {
    const card = root.current?.closest('li');
    if (!card || matchMedia('(prefers-reduced-motion: reduce)').matches) return;
    let request = 0;
    const start = (): void => {
      const since = performance.now();
      const tick = (time: number): void => {
        setFrame((((time - since) / 1000) * framesPerSecond(rate)) % Math.max(1, end));
        request = requestAnimationFrame(tick);
      };
      cancelAnimationFrame(request);
      request = requestAnimationFrame(tick);
    };
    const stop = (): void => {
      cancelAnimationFrame(request);
      setFrame(null);
    };
    for (const e of ['pointerenter', 'focusin']) card.addEventListener(e, start);
    for (const e of ['pointerleave', 'focusout']) card.addEventListener(e, stop);
    return () => {
      stop();
      for (const e of ['pointerenter', 'focusin']) card.removeEventListener(e, start);
      for (const e of ['pointerleave', 'focusout']) card.removeEventListener(e, stop);
    };
  }, [root, rate, end]);
  return frame;
}

/** A posed body, projected: the lines of its bones, and where its head is. */
interface Drawn {
  readonly lines: readonly (readonly [Point, Point])[];
  readonly head: Point;
}

function Figure({ drawn, x, y, scale }: { drawn: Drawn; x: number; y: number; scale: number }) {
  const size = Math.min(scale, 72);
  const { lines, head } = drawn;
  return (
    <g transform={`translate(${x},${y}) scale(${size})`} strokeWidth={0.075}>
      {lines.map(([a, b], i) => (
        <line key={i} x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} />
      ))}
      <circle cx={head[0]} cy={head[1] - 0.06} r={0.085} stroke="none" />
    </g>
  );
}

const moments = (c: CharacterPlan): number[] =>
  Array.from({ length: MOMENTS }, (_, i) => c.start + ((c.end - c.start - 1) * (i + 0.5)) / MOMENTS);

/** A character at a frame about its own root. */
function figure(c: CharacterPlan, frame: number): Drawn {
  const pose = evaluate(c, Math.floor(frame), makePoseBuffer(c.skeleton));
  const { positions } = poseToWorld(c.skeleton, pose, makeWorldPose(c.skeleton));
  const at = (j: number): Point => {
    const [x, y, z] = [
      defined(positions[j * 3]) - defined(pose.root[0]),
      defined(positions[j * 3 + 1]),
      defined(positions[j * 3 + 2]) - defined(pose.root[1]),
    ];
    const depth = x * Math.sin(TURN) + z * Math.cos(TURN);
    return [x * Math.cos(TURN) - z * Math.sin(TURN), -y + depth * TILT];
  };
  const lines: [Point, Point][] = [];
  c.skeleton.parents.forEach((parent, i) => {
    if (parent >= 0 && !/Thumb|Middle|Index|Ring|Little/.test(c.skeleton.roles[i] ?? '')) {
      lines.push([at(parent), at(i)]);
    }
  });
  const named = c.skeleton.roles.indexOf('head');
  const highest = c.skeleton.names.reduce(
    (top, _, j) => (defined(positions[j * 3 + 1]) > defined(positions[top * 3 + 1]) ? j : top),
    0,
  );
  return { lines, head: at(named >= 0 ? named : highest) };
}
