import type { ReactNode } from 'react';

const CLIP = { fill: 'none', stroke: 'var(--soft)', strokeWidth: 1.6 } as const;
const RESULT = { fill: 'none', stroke: 'var(--signal)', strokeWidth: 2.2, strokeLinecap: 'round' } as const;

const seam = (from: number, to: number): ReactNode => (
  <rect x={from} y={4} width={to - from} height={64} fill="var(--rule)" opacity={0.55} />
);

/** A path of a joint over time in each clip, and in the result, with what the measure looks at. */
export const PICTURES: Readonly<Record<string, ReactNode>> = {
  Pop: (
    <>
      {seam(88, 92)}
      <path d="M6,52C34,52 60,48 90,44" {...CLIP} />
      <path d="M90,22C120,18 146,16 174,16" {...CLIP} />
      <path d="M6,52C34,52 60,48 90,44V22C120,18 146,16 174,16" {...RESULT} />
    </>
  ),
  Glide: (
    <>
      {seam(64, 116)}
      <path d="M6,56H116" {...CLIP} />
      <path d="M64,16H174" {...CLIP} />
      <path d="M6,56H64C90,56 90,16 116,16H174" {...RESULT} />
    </>
  ),
  Turn: (
    <>
      {seam(86, 94)}
      {[18, 42, 66].map((x) => (
        <path key={x} d={`M${x},54V30m-5,7l5,-7l5,7`} {...CLIP} />
      ))}
      {[110, 134, 158].map((x) => (
        <path key={x} d={`M${x},48l22,-10m-9,-1l9,1l-4,8`} {...RESULT} />
      ))}
    </>
  ),
  Slide: (
    <>
      {seam(64, 116)}
      <path d="M6,60H174" stroke="var(--rule)" strokeWidth={1.5} />
      <ellipse cx={76} cy={48} rx={20} ry={7} {...CLIP} strokeDasharray="3 3" />
      <ellipse cx={106} cy={48} rx={20} ry={7} {...RESULT} />
      <path d="M76,28H106m-6,-4l6,4l-6,4" {...RESULT} />
    </>
  ),
  Hitch: (
    <>
      {seam(70, 110)}
      <path d="M6,52C30,40 44,40 64,48S140,40 174,50" {...CLIP} />
      <path d="M6,52C30,40 44,40 64,48L84,50L92,8L100,50C120,46 146,44 174,50" {...RESULT} />
    </>
  ),
  Float: (
    <>
      <path d="M6,60H174" stroke="var(--rule)" strokeWidth={1.5} />
      <ellipse cx={90} cy={34} rx={24} ry={8} {...RESULT} />
      <path d="M90,44V58m-4,-5l4,5l4,-5" {...CLIP} />
    </>
  ),
};
