import { beforeEach, describe, expect, it } from '@jest/globals';
import type { Scene } from '@warper/core';
import { applyEdit, compile } from '@warper/core';
import { library, two } from '../../../../../../core/src/testing/arranging';
import { silentSegments, timelineRows } from '../rows';
import { drawLane } from './drawLane';
import { drawRuler } from './drawRuler';
import { segmentLabel } from './drawSegment';
import { beginFacts } from './facts';
import type { Palette } from './palette';
import { makePen } from './pen';

const palette: Palette = {
  paper: 'paper',
  raised: 'raised',
  rule: 'rule',
  ink: 'ink',
  soft: 'soft',
  signal: 'signal',
  grades: { good: 'good', watch: 'watch', bad: 'bad' },
  hues: Array.from({ length: 8 }, (_, i) => `hue ${i}`),
};

/** Writes down what is drawn: texts, and blocks with rounded corners. */
function recorder() {
  const texts: { text: string; x: number; colour: string }[] = [];
  const blocks: { x: number; width: number; stroke: string }[] = [];
  let block: { x: number; width: number } | null = null;
  const pen = { fillStyle: '', strokeStyle: '', font: '' };
  const ctx = new Proxy(pen, {
    get: (target, key: string) => {
      if (key in target) return target[key as keyof typeof target];
      if (key === 'measureText') return (text: string) => ({ width: text.length * 7 });
      if (key === 'fillText')
        return (text: string, x: number) => texts.push({ text, x, colour: String(target.fillStyle) });
      if (key === 'roundRect')
        return (x: number, _: number, width: number) => {
          block = { x, width };
        };
      if (key === 'beginPath') return () => (block = null);
      if (key === 'stroke')
        return () => block && blocks.push({ ...block, stroke: String(target.strokeStyle) });
      return () => {};
    },
  }) as unknown as CanvasRenderingContext2D;
  return { ctx, texts, blocks };
}

const plain = { seam: '', focus: null, selected: new Set<string>() };

function drawn(scene: Scene, ppf: number, look: Partial<Parameters<typeof drawLane>[2]> = {}, left = 0) {
  const plan = compile(scene, library);
  const row = timelineRows(scene, plan)[0]!;
  const out = recorder();
  const lane = { ...plain, rate: plan.rate, silent: silentSegments(scene, row), ...look };
  const draw = (): boolean => {
    // A canvas is emptied before it is drawn.
    out.texts.length = out.blocks.length = 0;
    return drawLane(makePen(out.ctx, palette, ppf, left, 1200), row, lane);
  };
  return { ...out, row, draw };
}

describe('a lane', () => {
  beforeEach(beginFacts);

  it('shows every segment where it stands, by its name, and every seam with its measure', () => {
    const { draw, row, blocks, texts } = drawn(two, 3);
    while (!draw()) beginFacts();
    for (const s of row.segments) {
      expect(blocks.some((b) => Math.abs(b.x - s.start * 3) <= 1)).toBe(true);
      expect(texts.some((t) => t.text.startsWith(s.name.slice(0, 3)) && t.x >= s.start * 3)).toBe(true);
    }
    const tags = texts.filter((t) => /[●▲■] .*(cm|°|×)/.test(t.text));
    expect(tags).toHaveLength(row.segments.length - 1);
    expect(tags.every((t) => ['good', 'watch', 'bad'].includes(t.colour))).toBe(true);
  });

  it('draws what it knows, and says that something is missing, where there is no time to find out', () => {
    const fresh = applyEdit(two, { type: 'rename scene', name: 'anew' }, library);
    const { draw, texts } = drawn(structuredClone(fresh), 3);
    let passes = 1;
    for (; !draw(); passes++) beginFacts();
    expect(passes).toBeLessThan(200);
    expect(texts.some((t) => /cm|°|×/.test(t.text))).toBe(true);
  });

  it('marks what is in hand, and what the keyboard is on', () => {
    const plan = compile(two, library);
    const id = timelineRows(two, plan)[0]!.segments[1]!.id;
    const { draw, blocks } = drawn(two, 3, { selected: new Set([id]), focus: { kind: 'segment', id } });
    draw();
    expect(blocks.filter((b) => b.stroke === 'ink')).toHaveLength(1);
    expect(blocks.filter((b) => b.stroke === 'signal')).toHaveLength(1);
  });

  it('tells the name of a long segment again, so that it is never out of sight', () => {
    const { draw, row, texts } = drawn(two, 60, {}, 0);
    draw();
    const first = row.segments[0]!;
    const label = segmentLabel(first);
    const own = texts.filter((t) => t.text === label);
    expect(own.length).toBeGreaterThan(1);
    for (const t of own) expect(t.x + label.length * 7).toBeLessThanOrEqual(first.end * 60);
  });

  it('leaves the character out of a name that has no room for it', () => {
    const { id } = timelineRows(two, compile(two, library))[0]!.segments[1]!;
    const owner = Object.values(two.characters)[0]!.name;
    const name = `${owner} strolls`;
    const scene = applyEdit(two, { type: 'change', segment: id, values: { name } }, library);
    const [wide, narrow] = [drawn(scene, 12), drawn(scene, 2.4)];
    wide.draw();
    narrow.draw();
    expect(wide.texts.map((t) => t.text)).toContain(name);
    expect(narrow.texts.map((t) => t.text)).not.toContain(name);
    expect(narrow.texts.some((t) => t.text.startsWith('Stro'))).toBe(true);
  });

  it('shows where a segment waits that is switched off', () => {
    const last = timelineRows(two, compile(two, library))[0]!.segments.at(-1)!;
    const { draw, texts } = drawn(
      applyEdit(two, { type: 'switch', segment: last.id, off: true }, library),
      3,
    );
    draw();
    expect(texts.some((t) => t.text === `${last.name} disabled` && t.x >= last.start * 3)).toBe(true);
  });
});

it('the ruler tells frames, and seconds beside them', () => {
  const { ctx, texts } = recorder();
  drawRuler(makePen(ctx, palette, 2, 100, 300), {
    label: 60,
    fine: 6,
    text: String,
    beside: (f) => (f > 0 ? `${f / 30} s` : ''),
  });
  const frames = texts.filter((t) => /^\d+$/.test(t.text)).map((t) => [Number(t.text), t.x]);
  expect(frames).toContainEqual([60, 60 * 2 - 100 + 4]);
  expect(frames).toContainEqual([180, 180 * 2 - 100 + 4]);
  expect(texts.filter((t) => / s$/.test(t.text)).map((t) => t.text)).toContain('4 s');
});
