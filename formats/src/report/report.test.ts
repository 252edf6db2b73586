import { describe, expect, it } from '@jest/globals';
import type { Plan, Scene } from '@warper/core';
import { compile, continuityReport, defined } from '@warper/core';
import { XMLValidator } from 'fast-xml-parser';
import { assemble, turn, walk } from '../cues/testing';
import { plannedFiles } from '../delivery/plannedFiles';
import { USUAL_BAKE } from '../delivery/settings';
import type { MotionLibrary } from '../library';
import type { BakeReport } from './bakeReport';
import { bakeReport, reportedFile } from './bakeReport';
import { reportHtml } from './reportHtml';

const bad = { kind: 'cut', fit: 'free' };
const { scene: assembled, library } = await assemble([walk, turn, { ...walk, seam: bad }], {
  body: 'keeper.glb',
});
const scene: Scene = { ...assembled, name: 'Round <b>& "one"</b>' };
const plan = compile(scene, library);

function reportOf(
  from: number,
  to: number,
  own: { scene: Scene; plan: Plan; library: MotionLibrary } = { scene, plan, library },
): BakeReport {
  const characters = own.plan.characters.map((c) => c.character.id);
  const order = { name: own.scene.name, characters, spans: [{ name: '', from, to }], settings: USUAL_BAKE };
  const files = plannedFiles(own.plan, order, own.library).map((file) =>
    reportedFile(file, {
      frames: file.frames,
      rate: file.rate,
      joints: file.joints,
      bytes: 1000,
      reduced: null,
    }),
  );
  return bakeReport(own.scene, own.plan, continuityReport(own.plan), files);
}

const { end } = defined(plan.characters[0]);

describe('the report of a bake', () => {
  it('has every seam within it with its measures, and what is worst first', () => {
    const { characters, items, grades } = reportOf(0, end);
    const [keeper] = characters;
    expect(keeper?.seams.map((s) => s.in)).toEqual([
      plan.characters[0]!.segments[1]!.name,
      plan.characters[0]!.segments[2]!.name,
    ]);
    const cut = defined(keeper?.seams[1]);
    expect(cut.grade).toBe('bad');
    expect(cut.ratio).toBeGreaterThan(1);
    expect(items[0]).toMatchObject({ kind: 'seam', grade: 'bad', ignored: null });
    items.forEach((item, i) => i > 0 && expect(item.ratio).toBeLessThanOrEqual(items[i - 1]!.ratio));
    expect(grades.good + grades.watch + grades.bad).toBe(items.length);
  });

  it('leaves out what is not in the bake', () => {
    const { characters, items } = reportOf(0, 5);
    expect(characters[0]?.seams).toEqual([]);
    for (const item of items) expect(item.frame).toBeLessThan(5);
  });

  it('is one page that needs nothing beside it, with the worst places drawn', () => {
    const html = reportHtml(reportOf(0, end), plan);
    expect(html).not.toMatch(/https?:|<script|<link|@import|url\(|src=/);
    expect(html).toContain('Continuity of Round &lt;b&gt;&amp; &quot;one&quot;&lt;/b&gt;');
    expect(html.match(/aria-label="(front|side) view/g)?.length).toBeGreaterThanOrEqual(2);
    expect(html).toMatch(/1 of them bad|bad\./);
    // Void elements apart, the page is well-formed, so that nothing of a name has become markup.
    expect(XMLValidator.validate(html.replace(/<!doctype html>|<meta[^>]*>/g, ''))).toBe(true);
    expect(html).not.toContain('NaN');
  });

  it('says so where all is good', async () => {
    const good = await assemble([walk], { body: 'keeper.glb' });
    const own = { ...good, plan: compile(good.scene, good.library) };
    expect(reportHtml(reportOf(0, 30, own), own.plan)).toMatch(
      /No seam lies within it\..*Nothing is beyond its limit\./s,
    );
  });
});
