// Takes the pictures of docs/screenshots from the demonstration: `node scripts/screenshots.mjs` after a build.
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { launch } from 'puppeteer-core';
import { CHROMIUM, CHROMIUM_FLAGS } from './chromium.mjs';
import { root } from './steps.mjs';

const folder = join(root, 'docs/screenshots');
const server = spawn(process.execPath, ['server/dist/server.mjs'], {
  cwd: root,
  env: { ...process.env, PORT: '0' },
  stdio: ['ignore', 'pipe', 'inherit'],
});
const origin = await new Promise((resolve) =>
  server.stdout.on('data', (text) => resolve(/http:\/\/localhost:\d+/.exec(String(text))[0])),
);
const browser = await launch({
  executablePath: CHROMIUM,
  headless: true,
  args: CHROMIUM_FLAGS,
});
const page = await browser.newPage();
await page.setViewport({ width: 1280, height: 800 });
await page.evaluateOnNewDocument(() => {
  // As on a second visit: the tour was left before.
  const { location, localStorage } = globalThis;
  if (location.protocol.startsWith('http') && localStorage.getItem('warper-preferences') === null)
    localStorage.setItem('warper-preferences', JSON.stringify({ toured: true }));
});

const settle = (ms = 1500) => new Promise((resolve) => setTimeout(resolve, ms));
const take = async (name) => {
  await settle();
  await page.screenshot({ path: join(folder, `${name}.png`) });
  console.log(name);
};
/** Files as they come in: one that floats and jumps, one at another rate, one that is cut short, a picture. */
const oddFiles = async () => {
  const place = mkdtempSync(join(tmpdir(), 'warper-'));
  const write = (name, content) => {
    writeFileSync(join(place, name), content);
    return join(place, name);
  };
  const bvh = readFileSync(join(root, 'demo/made/Set down.bvh'), 'utf8');
  const lines = bvh.split('\n');
  const first = lines.findIndex((line) => line.startsWith('Frame Time')) + 1;
  const odd = lines.map((line, i) => {
    const values = line.trim().split(/\s+/).map(Number);
    if (i < first || values.length < 6) return line;
    values[1] += 0.06;
    if (i > first + 60) values[2] += 0.4;
    return values.join(' ');
  });
  return [
    write('Set down.bvh', odd.join('\n')),
    write('lantern slow.bvh', bvh.replace(/Frame Time: [\d.]+/, 'Frame Time: 0.0416667')),
    write('torn.bvh', bvh.slice(0, 500)),
    write('gallery wall.png', Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10)),
  ];
};
/** A motion whose bones are called what nobody calls them. */
const foundFile = () => {
  const path = join(mkdtempSync(join(tmpdir(), 'warper-')), 'Found in the store.bvh');
  const odd = { leftUpperArm: 'Strut7', leftLowerArm: 'Strut8', rightUpperLeg: 'Beam' };
  let text = readFileSync(join(root, 'demo/made/Set down.bvh'), 'utf8').replace(
    /Frame Time: [\d.]+/,
    'Frame Time: 0.025',
  );
  for (const [bone, name] of Object.entries(odd)) text = text.replace(`JOINT ${bone}\n`, `JOINT ${name}\n`);
  writeFileSync(path, text);
  return path;
};
const frame = async (number) => {
  const ruler = await (await page.$('[data-ruler]')).boundingBox();
  await page.mouse.click(ruler.x + number * 1.25, ruler.y + 8);
};
/** Two ghosts more, or two less, on either side. */
const ghosts = async (key) => {
  await (await page.$('[aria-label="Ghosts"] input')).focus();
  await page.keyboard.press(key);
  await page.keyboard.press(key);
  await page.$$eval(':focus', (all) => all.forEach((e) => e.blur()));
};
const choose = async (name, text) => {
  await page.click(`::-p-aria([name="${name}"][role="combobox"])`);
  await page.waitForSelector('[role=listbox]');
  await (await page.$(`[role=option] ::-p-text(${text})`)).click();
  await page.waitForSelector('[role=listbox]', { hidden: true });
};
const look = async (angle, follow) => {
  await choose('Follow', follow);
  await (await page.$(`button ::-p-text(${angle})`)).click();
};

await page.goto(origin);
await page.waitForSelector('::-p-aria([name="The Lamp Round"][role="link"])', { timeout: 60_000 });
await settle(2500);
await take('scenes');

await page.goto(`${origin}/library`);
await page.waitForSelector('[data-clip-card="Turn right 180"]');
await take('library');
await (await page.$('input[aria-label="Files to import"]')).uploadFile(...(await oddFiles()));
await page.waitForSelector('[role=dialog] ::-p-text(What was found)', { timeout: 60_000 });
await take('import');
await (await page.$('::-p-aria([name="Keep nothing"][role="button"])')).click();
await (await page.$('::-p-aria([name="Walk drifting"][role="link"])')).click();
await (await page.waitForSelector('[aria-label=Loops] button')).click();
await settle();
await (await page.$('::-p-aria([name="Play"][role="button"])')).click();
await settle();
await (await page.$('::-p-aria([name="Pause"][role="button"])')).click();
await take('clip');

await page.goto(`${origin}/library/server`);
await (await page.waitForSelector('[data-server-clip="Carry walk"]')).click();
await page.waitForSelector('aside[aria-label=Try] canvas', { timeout: 60_000 });
await settle();
await (await page.$('aside[aria-label=Try] button[aria-label=Pause]')).click();
await take('server');

await page.goto(`${origin}/library`);
await page.waitForSelector('[data-clip-card]');
await (await page.$('input[aria-label="Files to import"]')).uploadFile(foundFile());
await page.waitForSelector('[role=dialog] ::-p-text(What was found)', { timeout: 60_000 });
await (await page.$('::-p-aria([name="Keep 1 clip"][role="button"])')).click();
await page.waitForSelector('[role=dialog]', { hidden: true });
await (await page.waitForSelector('main input[type=search]')).type('found in');
await (await page.waitForSelector('::-p-aria([name="Found in the store"][role="link"])')).click();
await (await page.waitForSelector('a ::-p-text(how they are mapped)')).click();
await page.waitForSelector('[data-bone-row=Strut7]');
await (await page.$('::-p-aria([name="Play"][role="button"])')).click();
await settle(3000);
await (await page.$('::-p-aria([name="Pause"][role="button"])')).click();
await (await page.$('svg[aria-label^="Bones of Found"] [data-bone=Strut7]')).click();
await take('bones');

await page.goto(`${origin}/scene/lamp-round`);
await page.waitForSelector('[data-segment]', { timeout: 60_000 });
await settle(2500);
await frame(232);
await (await page.$('[aria-label^="Turn round"]')).focus();
await settle();
await take('workbench');

await page.$$eval(':focus', (all) => all.forEach((e) => e.blur()));
await page.keyboard.press('q');
await ghosts('ArrowUp');
await choose('Follow', 'Keeper');
await settle();
await take('cues');
await page.keyboard.press('q');
await ghosts('ArrowDown');
await choose('Follow', 'nobody');

// A made step, with the clips that follow well beside it.
await (await page.$$('[data-seam]'))[0].click();
await choose('Order', 'Follows well');
await frame(62);
await look('Side', 'Keeper');
await settle(2500);
await take('seam');
await choose('Order', 'As in the library');

await (await page.$$('[data-seam]'))[4].click();
await frame(396);
await page.$$eval(':focus', (all) => all.forEach((e) => e.blur()));
await page.keyboard.press('k');
await page.waitForSelector('[data-match-map]', { timeout: 60_000 });
await page.$eval('[aria-label="Selection"]', (card) => card.scrollTo(0, 240));
await take('seam-desk');
await page.$$eval(':focus', (all) => all.forEach((e) => e.blur()));
await page.keyboard.press('k');

// A layer that pushes the character back, and one that poses an arm, its keys a row for each joint.
const fill = async (name, value) => {
  const field = await page.waitForSelector(`::-p-aria([name="${name}"][role="textbox"])`);
  await field.click({ count: 3 });
  await field.type(value);
  await field.press('Enter');
  await settle(400);
};
const addLayer = async (name) => {
  await (await page.$('[title^="Drag up or down"] ::-p-text(9 segments)')).click();
  await (await page.waitForSelector('button ::-p-text(Add a layer)')).click();
  await fill('Name', name);
};
await look('Around', 'Keeper');
await addLayer('Door push');
await frame(600);
await (await page.$('button ::-p-text(Key the root)')).click();
await frame(608);
await fill('Forward', '-0.4');
await addLayer('Signal');
await frame(590);
await choose('Part of the body', 'Right arm');
await choose('In force', 'Between');
await choose('Joint', 'rightHand');
await (await page.waitForSelector('button ::-p-text(Reach)')).click();
for (const [at, height] of [
  [600, '1.0'],
  [630, '1.25'],
]) {
  await frame(at);
  await fill('Reach Y', height);
}
await page.click('[aria-label="Keys of Signal, one row for each joint"]');
await page.$$eval(':focus', (all) => all.forEach((e) => e.blur()));
await page.keyboard.press('v');
await settle();
await page.$eval('[aria-label="Selection"]', (card) => card.scrollTo(0, 130));
await take('layers');
// The curves of the push, with a key of one in hand.
await (await page.$('[title^="Drag up or down"] ::-p-text(Door push)')).click();
await frame(640);
await fill('Turn', '25');
await page.$$eval(':focus', (all) => all.forEach((e) => e.blur()));
await page.keyboard.press('y');
await (await page.waitForSelector('button ::-p-text(Fit)')).click();
await settle();
await page.$eval('[data-curve-key][aria-label*="Root forward at frame 608"]', (key) => key.focus());
await (await page.$('[aria-label="Interpolation"]')).focus();
await page.$eval('[aria-label="Selection"]', (card) => card.scrollTo(0, 0));
await settle();
await take('curves');
// The zoom that shows the keys is gone with the page; undo is not.
await page.goto(`${origin}/scene/lamp-round`);
await page.waitForSelector('[data-segment]');
await settle(2500);
// By night: props, tethers and links of the second scene, with the lead in hand.
await (await page.$('[aria-label="Show in night colours"]')).click();
await page.goto(`${origin}/scene/before-dark`);
await page.waitForSelector('[data-tether]');
await settle(2500);
await frame(84);
await (await page.$('[data-tether][aria-label^="Dog on a lead"]')).focus();
await page.keyboard.press('Enter');
await page.waitForSelector('[aria-label="Selection"] ::-p-text(Worn at)');
await page.click('[aria-label="Frame the selection"]');
await page.$$eval(':focus', (all) => all.forEach((e) => e.blur()));
await page.$eval('[data-timeline]', (lanes) => lanes.scrollTo(0, 92));
await page.$eval('[aria-label="Selection"]', (card) => card.scrollTo(0, 0));
await settle();
await take('staging');
await (await page.$('[aria-label="Show in day colours"]')).click();
await page.$$eval(':focus', (all) => all.forEach((e) => e.blur()));
await page.keyboard.press('h');
await frame(600);
const shot = await page.$('[data-shot][aria-label^="Handed over"]');
await shot.evaluate((e) => e.scrollIntoView({ block: 'center' }));
await shot.press('Enter');
await frame(600);
// The shots, and below them the first of the sounds.
await page.$eval('[data-timeline]', (e) => {
  e.scrollTo(0, 9999);
  e.scrollBy(0, -100);
});
await settle(2500);
await take('filming');
await page.goto(`${origin}/scene/lamp-round`);
await page.waitForSelector('[data-segment]');
await settle(2500);
while (await page.$('[title^="Drag up or down"] ::-p-text(· layer)')) {
  await page.click('button[aria-label^="Undo "]');
  await settle(300);
}
await look('Around', 'Keeper');
await settle();

// Two ways of looking out, side by side, with their measures.
await page.goto(`${origin}/scene/look-out`);
await page.waitForSelector('[data-sheet]');
await settle(2500);
await (await page.$('[data-segment][aria-label^="Look out"]')).focus();
await frame(272);
await page.$$eval(':focus', (all) => all.forEach((e) => e.blur()));
await page.keyboard.press('i');
await page.waitForSelector('[data-panes="2"]');
await (await page.waitForSelector('[aria-label="Below the view"] ::-p-text(Alternates)')).click();
await page.waitForSelector('section[aria-label="Alternates"] ::-p-text(a look)');
await settle(2500);
await take('alternates');

await page.goto(`${origin}/measures`);
await take('measures');

// A seam that is moved aside by hand is bad, and one of its mends is shown.
await page.goto(`${origin}/scene/lamp-round`);
await page.waitForSelector('[data-segment]');
await settle(2500);
await (await page.$$('[data-seam]'))[2].click();
await settle();
const nudge = await page.$('::-p-aria([name="Nudge left"][role="textbox"])');
await nudge.click({ count: 3 });
await nudge.type('0.3');
await nudge.press('Enter');
await settle();
await page.goto(`${origin}/scene/lamp-round/continuity`);
await page.waitForSelector('[data-item]', { timeout: 60_000 });
await (await page.$('[data-item] button ::-p-text(Find a mend)')).click();
await page.waitForSelector('button ::-p-text(Take it)', { timeout: 60_000 });
await take('continuity');
await page.goto(`${origin}/scene/lamp-round`);
await page.waitForSelector('[data-segment]');
await page.click('button[aria-label^="Undo "]');
await settle();

// The bake page before a bake, during it and after, and a sheet of poses, below each other in one picture.
const press = async (role, name) =>
  (await page.waitForSelector(`::-p-aria([name="${name}"][role="${role}"])`)).click();
const states = [];
const keep = async () => states.push(await page.screenshot({ encoding: 'base64' }));
await page.goto(`${origin}/scene/lamp-round/bake`);
await page.waitForSelector('::-p-aria([name="Bake GLB"][role="button"])');
await choose('Files', 'One for each');
await choose('Keys', 'Reduced');
await fill('Frames per second', '120');
await settle();
await keep();
await press('button', 'Bake 3 files');
await page.waitForFunction(() =>
  [...globalThis.document.querySelectorAll('[role=progressbar]')].some((e) => Number(e.ariaValueNow) > 30),
);
await keep();
await page.waitForSelector('::-p-text(Save again)', { timeout: 120_000 });
await settle();
await keep();
await press('button', 'Film');
for (const other of (await page.$$('[aria-label^="Who is"] [role=checkbox]')).slice(1)) await other.click();
await choose('Format', 'Sheet');
await fill('Start frame', '100');
await fill('End frame', '136');
await fill('Every', '6');
await press('button', 'Make sheet');
await page.waitForSelector('img[alt^="The film"]', { timeout: 60_000 });
await settle();
await keep();
const stack = await browser.newPage();
await stack.setViewport({ width: 1280, height: 800 * states.length });
await stack.setContent(
  `<body style="margin:0">${states.map((s) => `<img style="display:block" src="data:image/png;base64,${s}">`).join('')}`,
);
await stack.screenshot({ path: join(folder, 'bake.png') });
await stack.close();
console.log('bake');

// Two clips that do not join, and a bridge between them that is shown before it is taken.
await page.goto(origin);
await (await page.waitForSelector('::-p-aria([name="New scene"][role="button"])')).click();
await (await page.waitForSelector('::-p-aria([name="Character"][role="button"])')).click();
await (await page.waitForSelector('[role=menuitem] ::-p-text(Keeper)')).click();
await page.waitForSelector('[data-lane]');
for (const clip of ['Walk hitching', 'Rope haul']) {
  const search = await page.$('input[type=search]');
  await search.click({ count: 3 });
  await search.type(clip);
  await (await page.waitForSelector(`[data-clip="${clip}"]`)).focus();
  await page.keyboard.press('Enter');
  await settle();
}
await (await page.$('[data-seam]')).click();
await (await page.waitForSelector('::-p-aria([name="Find a mend"][role="button"])')).click();
await (await page.waitForSelector('::-p-aria([name="Show it"][role="button"])', { timeout: 60_000 })).click();
await settle(2000);
await take('bridge');

await browser.close();
server.kill('SIGTERM');
