import type { CharacterPlan, Scene } from '@warper/core';
import { evaluate, framesPerSecond, makePose, makeWorldPose, poseToWorld } from '@warper/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { compileScene } from '../store/plan';

const VIEW = { width: 290, height: 176 };
/** Moments whose figures are drawn while nothing moves. */
const MOMENTS = 9;
/** Direction of sight on the floor, and how much of the depth is seen. */
const TURN = 0.9;
const TILT = 0.3;

type Point = readonly [number, number];

/** A scene at a glance: figures along its paths; with the pointer or the focus on it they move. */
export function ScenePicture({ scene }: { scene: Scene }) {
  const { plan } = useMemo(() => compileScene(scene), [scene]);
  const [frame, setFrame] = useState<number | null>(null);
  const root = useRef<SVGSVGElement>(null);
  useEffect(() => {
    const card = root.current?.closest('li');
    if (!card || matchMedia('(prefers-reduced-motion: reduce)').matches) return;
    let request = 0;
    const start = (): void => {
      const since = performance.now();
      const tick = (now: number): void => {
        setFrame((((now - since) / 1000) * framesPerSecond(plan.rate)) % Math.max(1, plan.end));
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
  }, [plan]);
  const still = useMemo(() => plan.characters.map((c) => moments(c).map((f) => figure(c, f))), [plan]);
  const toView = useMemo(() => fitTo(still.flat(2)), [still]);
  return (
    <svg ref={root} viewBox={`0 0 ${VIEW.width} ${VIEW.height}`} className="size-full" aria-hidden>
      {plan.characters.map((c, k) => (
        <g key={c.character.id} stroke={`var(--hue-${c.character.hue})`} strokeLinecap="round">
          {still[k]!.map((lines, i) => (
            <Figure
              key={i}
              lines={lines}
              toView={toView}
              opacity={frame === null ? 0.25 + (0.75 * (i + 1)) / MOMENTS : 0.12}
            />
          ))}
          {frame !== null && <Figure lines={figure(c, frame)} toView={toView} opacity={1} />}
        </g>
      ))}
    </svg>
  );
}

type Lines = readonly (readonly [Point, Point])[];
type ToView = (p: Point) => Point;

function Figure({ lines, toView, opacity }: { lines: Lines; toView: ToView; opacity: number }) {
  return (
    <g opacity={opacity} strokeWidth={2.6}>
      {lines.map(([a, b], i) => {
        const [x1, y1] = toView(a);
        const [x2, y2] = toView(b);
        return <line key={i} x1={x1} y1={y1} x2={x2} y2={y2} />;
      })}
    </g>
  );
}

const moments = (c: CharacterPlan): number[] =>
  c.end > c.start
    ? Array.from({ length: MOMENTS }, (_, i) => c.start + ((c.end - c.start - 1) * (i + 0.5)) / MOMENTS)
    : [];

/** Lines of a character's bones at a frame, projected. */
function figure(c: CharacterPlan, frame: number): Lines {
  const pose = evaluate(c, Math.floor(frame), makePose(c.skeleton));
  const { positions } = poseToWorld(c.skeleton, pose, makeWorldPose(c.skeleton));
  const at = (j: number): Point => {
    const [x, y, z] = [positions[j * 3]!, positions[j * 3 + 1]!, positions[j * 3 + 2]!];
    const depth = x * Math.sin(TURN) + z * Math.cos(TURN);
    return [x * Math.cos(TURN) - z * Math.sin(TURN), -y + depth * TILT];
  };
  const lines: [Point, Point][] = [];
  c.skeleton.parents.forEach((parent, i) => {
    if (parent >= 0 && !/Thumb|Middle|Index|Ring|Little/.test(c.skeleton.roles[i] ?? ''))
      lines.push([at(parent), at(i)]);
  });
  return lines;
}

function fitTo(lines: Lines): ToView {
  const points = lines.flat();
  if (points.length === 0) return (p) => p;
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const scale = Math.min(
    (VIEW.width - 40) / Math.max(0.5, x1 - x0),
    (VIEW.height - 36) / Math.max(0.5, y1 - y0),
  );
  return ([x, y]) => [
    VIEW.width / 2 + (x - (x0 + x1) / 2) * scale,
    VIEW.height / 2 + (y - (y0 + y1) / 2) * scale,
  ];
}
