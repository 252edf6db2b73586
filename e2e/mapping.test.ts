import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Application, made } from './application';

let app: Application;
const folder = mkdtempSync(join(tmpdir(), 'warper-mapping-'));

/** Names that no list of bones knows. */
const ODD = { leftUpperArm: 'Strut7', leftLowerArm: 'Strut8', rightUpperLeg: 'Beam' };

/** The set-down with odd bone names, at another rate, so that each rate is a file of its own. */
function oddFile(name: string, rate: number): string {
  let text = readFileSync(made('Set down.bvh'), 'utf8').replace(
    /Frame Time: [\d.]+/,
    `Frame Time: ${1 / rate}`,
  );
  for (const [bone, odd] of Object.entries(ODD)) text = text.replace(`JOINT ${bone}\n`, `JOINT ${odd}\n`);
  const path = join(folder, `${name}.bvh`);
  writeFileSync(path, text);
  return path;
}

beforeAll(async () => {
  app = await Application.start();
  await app.openLibrary();
});
afterAll(() => app.stop());

/** Imports a file and keeps it; gives what the sheet said. */
async function take(path: string): Promise<string> {
  await (await app.page.$('input[aria-label="Files to import"]'))!.uploadFile(path);
  await app.page.waitForSelector('[role=dialog] ::-p-text(What was found)', { timeout: 60_000 });
  const text = await app.page.$eval('[role=dialog]', (e) => e.textContent ?? '');
  await app.press('button', 'Keep 1 clip');
  await app.page.waitForSelector('[role=dialog]', { hidden: true });
  return text;
}
const sum = (): Promise<string> =>
  app.page.$eval('[data-testid=mapping-sum]', (e) => e.textContent ?? '').catch(() => '');
const states = (): Promise<Record<string, string>> =>
  app.page.$$eval('[data-bone-row]', (rows) =>
    Object.fromEntries(
      rows.map((r) => [(r as HTMLElement).dataset.boneRow!, (r as HTMLElement).dataset.state!]),
    ),
  );

describe('mapping a skeleton by hand', () => {
  it('says on import which bones are not known', async () => {
    const text = await take(oddFile('Odd set down', 40));
    expect(text).toMatch(/not known which of its bones are left upper arm, left lower arm, right upper leg/);
    expect(text).toMatch(/has no steps/);
  });

  it('shows what is mapped, and maps the rest from the table and by pointing', async () => {
    await (await app.page.waitForSelector('main input[type=search]'))!.type('odd');
    await app.press('link', 'Odd set down');
    await app.press('link', '52, and how they are mapped');
    await app.until(async () => /49 mapped.*0 doubtful.*3 not mapped/.test(await sum()), 'three are left');
    expect(await app.barriers()).toEqual([]);
    await app.choose('Part that Strut7 is', 'left upper arm');
    await app.until(async () => (await states()).Strut7 === 'mapped', 'the upper arm is mapped');
    // A shin where the thigh belongs is doubtful, and where it belongs it is not.
    await app.choose('Part that Beam is', 'right lower leg');
    await app.until(
      async () => (await states()).rightFoot === 'mapped' && /[1-9] not/.test(await sum()),
      'it is taken',
    );
    await app.choose('Part that Beam is', 'left lower leg');
    await app.until(async () => (await states()).Beam === 'doubtful', 'the wrong side is doubtful');
    await app.press('button', 'Discard changes');
    await app.until(async () => /49 mapped/.test(await sum()), 'it is as it was');
    await app.choose('Part that Strut7 is', 'left upper arm');
    const point = async (from: string, to: string): Promise<void> => {
      await (await app.page.$(`svg[aria-label="Bones of Odd set down"] [data-bone="${from}"]`))!.click();
      await app.until(
        async () => (await app.page.$(`tr[aria-selected=true][data-bone-row="${from}"]`)) !== null,
        'the bone is chosen',
      );
      await (await app.page.$(`svg[aria-label="Bones of Keeper"] [data-bone="${to}"]`))!.click();
      await app.until(async () => (await states())[from] === 'mapped', `${from} is mapped`);
    };
    await point('Strut8', 'leftLowerArm');
    await point('Beam', 'rightUpperLeg');
    await app.until(async () => /52 mapped.*0 doubtful.*0 not mapped/.test(await sum()), 'all are mapped');
  });

  it('is kept by name, measures the clip anew, and is used by later imports of the skeleton', async () => {
    await app.fill('Mapping name', 'Strut rig');
    await app.press('button', 'Save this mapping');
    await app.page.waitForSelector('::-p-text(Every file with this skeleton is read as)', {
      timeout: 60_000,
    });
    await app.press('link', 'Back to the clip');
    await app.page.waitForSelector('::-p-text(1 left, 1 right)');
    await app.press('link', 'All clips');
    await app.page.waitForSelector('[data-clip-card="Walk"]');
    const text = await take(oddFile('Another set down', 50));
    expect(text).toMatch(/Its bones are mapped as “Strut rig” says/);
    expect(text).not.toMatch(/not known/);
  });

  it('lets the clip play on the Keeper, and says that it is mapped', async () => {
    await app.press('link', 'Scenes');
    await app.press('link', 'The Lamp Round');
    await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
    await (await app.page.waitForSelector('aside input[type=search]'))!.type('another');
    await (await app.page.waitForSelector('[data-clip="Another set down"]'))!.focus();
    const before = (await app.segments()).length;
    await app.page.keyboard.press('Enter');
    await app.until(async () => (await app.segments()).length === before + 1, 'it is on a lane');
    expect((await app.segments()).filter((s) => s.startsWith('Another set down')).join()).toMatch(
      /^Another set down mapped, frames/,
    );
    expect(await app.barriers()).toEqual([]);
    expect(app.faults).toEqual([]);
  });
});
