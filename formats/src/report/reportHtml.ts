import type { CharacterPlan, Grade, Plan } from '@warper/core';
import type { BakeReport, ReportedCharacter, ReportedFile } from './bakeReport';
import { figureSvg } from './figureSvg';

/** Places that are shown with pictures. */
const MOST_PICTURED = 8;
/** Frames around a place that are drawn. */
const AROUND = 4;
const CHART = { width: 920, height: 96, lane: 18 } as const;

const GRADES: Readonly<
  Record<Grade, { readonly shape: string; readonly word: string; readonly colour: string }>
> = {
  good: { shape: '●', word: 'good', colour: '#2F6F5E' },
  watch: { shape: '▲', word: 'needs a look', colour: '#A86A12' },
  bad: { shape: '■', word: 'bad', colour: '#A3312B' },
};
/** The hues of characters, as the application has them by day. */
const HUES = ['#2f6b86', '#a05a2c', '#6b6a2a', '#7a4b83', '#3d7a52', '#94404f', '#4d5f9a', '#7d6142'];

const escape = (text: string): string =>
  text.replace(
    /[&<>"']/g,
    (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' })[c] ?? c,
  );

/** A report as one page that needs nothing beside it and can be printed: files, charts and tables of seams, the worst places in pictures. */
export function reportHtml(report: BakeReport, plan: Plan): string {
  const { scene, rate, shotSize, files, characters, grades } = report;
  const title = `Continuity of ${escape(scene)}`;
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>${title}</title>
<style>${STYLE}</style>
</head>
<body>
<header>
<h1>${title}</h1>
<p>${number(rate)} frames a second, judged as a ${shotSize} shot. ${counted(grades)}</p>
</header>
${filesTable(files)}
${characters.map((c, i) => characterSection(c, hueOf(plan, c.name, i))).join('\n')}
${worstPlaces(report, plan)}
<footer>Measures: pop, cm of a joint beyond both clips' own steps; glide, cm a frame that it is carried faster; turn, degrees of facing beyond them; slide, cm that planted feet go; hitch, times its sources.</footer>
</body>
</html>
`;
}

/** Words with a full stop behind them. */
const sentence = (words: string): string => (words === '' || /[.!?]$/.test(words) ? words : `${words}.`);

const number = (value: number, digits = 3): string => String(Number(value.toFixed(digits)));

const mark = (grade: Grade): string =>
  `<span class="grade" style="color:${GRADES[grade].colour}" title="${GRADES[grade].word}">${GRADES[grade].shape}<span class="word"> ${GRADES[grade].word}</span></span>`;

const counted = ({ good, watch, bad }: BakeReport['grades']): string =>
  watch + bad === 0
    ? `All ${good} things that were measured are good.`
    : `${watch + bad} of ${good + watch + bad} things that were measured need a look, ${bad} of them bad.`;

const characterOf = (plan: Plan, name: string): CharacterPlan | undefined =>
  plan.characters.find((c) => c.character.name === name);

const hueOf = (plan: Plan, name: string, i: number): string =>
  HUES[(characterOf(plan, name)?.character.hue ?? i) % HUES.length] ?? '#22252B';

function filesTable(files: readonly ReportedFile[]): string {
  const rows = files.map(({ name, characters, facts: { frames, rate, joints, bytes, reduced } }) => {
    const sum = frames.reduce((all, n) => all + n, 0);
    const keys = reduced
      ? `${Math.round((100 * reduced.keys) / reduced.of)} %, within ${reduced.errorMillimetres.toFixed(2)} mm`
      : 'every frame';
    return `<tr><td>${escape(name)}</td><td>${characters.map(escape).join(', ')}</td><td class="n">${sum}</td><td class="n">${number(rate)}</td><td class="n">${joints}</td><td class="n">${(bytes / 1000).toFixed(0)}</td><td>${keys}</td></tr>`;
  });
  return `<section>
<h2>Files</h2>
<table><thead><tr><th>File</th><th>Who</th><th class="n">Frames</th><th class="n">Rate</th><th class="n">Joints</th><th class="n">KB</th><th>Keys</th></tr></thead><tbody>${rows.join('')}</tbody></table>
</section>`;
}

function characterSection(character: ReportedCharacter, hue: string): string {
  const { name, seams } = character;
  const rows = seams.map(
    (s) =>
      `<tr><td>${mark(s.grade)} ${escape(s.out)} → ${escape(s.in)}</td><td>${s.kind}</td><td class="n">${s.frame}</td><td class="n">${s.popCm.toFixed(1)}</td><td class="n">${s.surgeCm.toFixed(1)}</td><td class="n">${s.turnDegrees.toFixed(1)}</td><td class="n">${s.slideCm.toFixed(1)}</td><td class="n">${s.hitch.toFixed(1)}</td></tr>`,
  );
  const table =
    seams.length > 0
      ? `<table><thead><tr><th>Seam</th><th>Kind</th><th class="n">Frame</th><th class="n">Pop, cm</th><th class="n">Glide, cm</th><th class="n">Turn, °</th><th class="n">Slide, cm</th><th class="n">Hitch, ×</th></tr></thead><tbody>${rows.join('')}</tbody></table>`
      : '<p>No seam lies within it.</p>';
  return `<section>
<h2 style="color:${hue}">${escape(name)}</h2>
${chart(character, hue)}
${table}
</section>`;
}

/** The segments over time, with a stem at each seam: how near its worst measure is to its limit, which is the line. */
function chart({ name, start, end, segments, seams }: ReportedCharacter, hue: string): string {
  const { width, height, lane } = CHART;
  const x = (frame: number): number => ((frame - start) / Math.max(1, end - start)) * width;
  const floor = height - lane - 6;
  const y = (ratio: number): number => floor - (Math.min(ratio, 2) / 2) * (floor - 6);
  const boxes = segments.map((s) => {
    const left = x(s.start);
    const wide = Math.max(1, x(s.end) - left - 1);
    return `<g><rect x="${left.toFixed(1)}" y="${height - lane}" width="${wide.toFixed(1)}" height="${lane - 2}" rx="2" fill="${hue}" opacity="0.18"/><text x="${(left + 3).toFixed(1)}" y="${height - 6}">${escape(wide > s.name.length * 6.6 ? s.name : '')}</text></g>`;
  });
  const stems = seams.map((s) => {
    const { colour, shape } = GRADES[s.grade];
    const [at, top] = [x(s.frame).toFixed(1), y(s.ratio).toFixed(1)];
    return `<path d="M${at} ${floor}V${top}" stroke="${colour}" stroke-width="2"/><text x="${at}" y="${top}" text-anchor="middle" style="fill:${colour}">${shape}</text>`;
  });
  return `<svg class="chart" viewBox="0 0 ${width} ${height}" role="img" aria-label="Seams of ${escape(name)} over frames ${start} to ${end}, by how near they are to their limits"><path d="M0 ${y(1)}H${width}" stroke="#62666E" stroke-dasharray="3 3"/><text x="${width}" y="${y(1) - 3}" text-anchor="end" fill="#62666E">limit</text>${boxes.join('')}${stems.join('')}</svg>`;
}

function worstPlaces({ items }: BakeReport, plan: Plan): string {
  const open = items.filter((item) => item.grade !== 'good' && item.ignored === null);
  const shown = open.slice(0, MOST_PICTURED);
  if (shown.length === 0)
    return '<section><h2>Worst places</h2><p>Nothing is beyond its limit.</p></section>';
  const places = shown.map((item, i) => {
    const character = characterOf(plan, item.characterName);
    const frames = [item.frame - AROUND, item.frame, item.frame + AROUND];
    const hue = hueOf(plan, item.characterName, i);
    const pictures = character
      ? (['front', 'side'] as const)
          .map(
            (view) =>
              `<figure>${figureSvg(character, frames, view, hue)}<figcaption>${view}</figcaption></figure>`,
          )
          .join('')
      : '';
    return `<article><div><h3>${mark(item.grade)} ${escape(item.characterName)}: ${escape(item.name)}</h3><p>Frame ${item.frame}. ${escape(sentence(item.cause))} ${escape(sentence(item.hint))}</p></div>${pictures}</article>`;
  });
  const rest = open.length - shown.length;
  return `<section>
<h2>Worst places</h2>
<p>Each at its frame, and ${AROUND} frames before and after.${rest > 0 ? ` ${rest} more are in the list that comes with the bake.` : ''}</p>
${places.join('\n')}
</section>`;
}

const STYLE = `
:root { color: #22252B; background: #F4F1EA; font: 14px/1.45 "Source Sans 3", system-ui, sans-serif; font-variant-numeric: tabular-nums; }
body { max-width: 960px; margin: 2rem auto; padding: 0 1rem; }
h1 { font-size: 1.7rem; margin: 0; } h2 { font-size: 1.2rem; margin: 2rem 0 .4rem; } h3 { font-size: 1rem; margin: 0 0 .2rem; }
p { margin: .2rem 0; } footer { margin: 2rem 0; color: #62666E; }
table { width: 100%; border-collapse: collapse; } th { font-weight: 400; color: #62666E; text-align: left; } td, th { padding: .25rem .4rem; border-bottom: 1px solid #D9D4C7; } .n { text-align: right; }
.word { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
.chart { width: 100%; height: auto; } .chart text { font-size: 11px; fill: currentColor; }
article { display: flex; gap: 1rem; align-items: start; border-top: 1px solid #D9D4C7; padding: .6rem 0; break-inside: avoid; } article > div { flex: 1; }
figure { margin: 0; background: #FBFAF6; } figcaption { text-align: center; color: #62666E; font-size: 12px; }
section { break-inside: auto; } tr { break-inside: avoid; }
@media print { :root { background: #fff; } body { margin: 0; } }
`;
