import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { expect, test, type Page } from './test';
import { previewAddress } from '@arkiv/core';
import { accessible } from './accessible';

// What comes back from editing: found by itself, asked about where nothing tells, seen before and after.
test.describe('edits', () => {
  let shootId: string;
  let home: string;

  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as {
      id: string;
      frames: number;
      folders: string[];
      edits: string;
    }[];
    const shoot = shoots.find(({ frames }) => frames >= 20)!;
    shootId = shoot.id;
    const answer = await request.get(`/api/shoots/${shootId}/frames`);
    const { columns } = (await answer.json()) as { columns: { id: string[] } };
    const lying = await request.get(`/api/opening/frames/${columns.id[0]}`);
    const { files } = (await lying.json()) as { files: { path: string; whole: string }[] };
    // Where this shoot's folder is on the first of its drives.
    const { path: below, whole } = files[0]!;
    home = path.join(whole.slice(0, -below.length), shoot.folders[0]!, shoot.edits);
  });

  const part = (page: Page) => page.getByRole('region', { name: 'Came back' });
  const frames = async (page: Page) => {
    const answer = await page.request.get(`/api/shoots/${shootId}/frames`);
    return ((await answer.json()) as { columns: Record<'id' | 'name' | 'picture' | 'edited', string[]> })
      .columns;
  };
  /** A finished picture of one frame, under a name. */
  const save = async (page: Page, picture: string, name: string): Promise<void> => {
    const preview = await page.request.get(previewAddress(picture, 'screen'));
    const ending = preview.headers()['content-type']!.replace('image/', '').replace('jpeg', 'jpg');
    mkdirSync(home, { recursive: true });
    writeFileSync(path.join(home, `${name}.${ending}`), await preview.body());
  };

  test('are found in their folder, show their frame, and are seen before and after', async ({ page }) => {
    const { id, name, picture } = await frames(page);
    await page.goto(`/shoots/${shootId}/handoff`);
    await expect(part(page).getByText(/Finished pictures that are saved into “edits”/)).toBeVisible();
    await save(page, picture[4]!, `${name[4]}-final`);
    // Nobody has to ask: it is there when it has lain still.
    await expect(part(page).getByRole('button', { name: /-final/ })).toBeVisible({ timeout: 60_000 });
    await expect(
      part(page).getByRole('button', { name: new RegExp(`-final.*of ${name[4]!.slice(-4)}`) }),
    ).toBeVisible();
    await accessible(page);
    await page.goto(`/shoots/${shootId}/cull?view=single&frame=${id[4]}`);
    await expect(page.getByText(/^edit 1 of 1: /)).toBeVisible();
    await page.keyboard.press('Alt+e');
    await expect(page.getByText('as the camera took it')).toBeVisible();
    await page.keyboard.press('Alt+e');
    await expect(page.getByText(/^edit 1 of 1: /)).toBeVisible();
    // Of another frame, before and after are nothing.
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Alt+e');
    await expect(page.getByText('No edit of this frame came back yet')).toBeVisible();
    // Only what is edited.
    await page.keyboard.press('/');
    await page.keyboard.type('edited:any');
    await page.keyboard.press('Escape');
    await expect(page.getByText(/^frame 1 of 1$/)).toBeVisible();
  });

  test('of which nothing tells are asked about, side by side, by keys', async ({ page }) => {
    const { name, picture, edited } = await frames(page);
    // Three whose numbers follow each other, whatever other tests have called them.
    const numbered = (one: string, by: number) =>
      one.replace(/\d+$/, (digits) => String(Number(digits) + by).padStart(digits.length, '0'));
    const at = name.findIndex(
      (one, i) => !edited[i] && [1, 2].every((by) => name[i + by] === numbered(one, by)),
    );
    const other = name.findIndex((_, i) => !edited[i] && (i < at || i > at + 2));
    const numberOf = (i: number) => /\d{1,6}$/.exec(name[i]!)![0];
    const before = edited.filter(Boolean).length;
    const to = /\d+$/.exec(name[at + 2]!)![0];
    await save(page, picture[at]!, `${name[at]}-${to}-pano`);
    await page.goto(`/shoots/${shootId}/handoff`);
    await expect(part(page).getByRole('button', { name: 'Whose edit is it?' })).toBeVisible({
      timeout: 60_000,
    });
    await page.keyboard.press('w');
    const dialog = page.getByRole('dialog', { name: /^Whose edit is .*-pano/ });
    await expect(dialog.getByRole('option')).toHaveCount(3);
    await accessible(page);
    await page.keyboard.press('ArrowRight');
    await expect(dialog.getByRole('button', { name: `Of ${numberOf(at + 1)}` })).toBeVisible();
    // It is of all of them.
    await page.keyboard.press('a');
    await dialog.getByRole('button', { name: 'Of these 3 frames' }).click();
    await expect(dialog).toHaveCount(0);
    const row = part(page).getByRole('button', { name: /-pano.*of 3 frames/ });
    await expect(row).toBeVisible();
    await expect.poll(async () => (await frames(page)).edited.filter(Boolean).length).toBe(before + 3);
    // Said otherwise: of none.
    await row.click();
    await expect(dialog).toBeVisible();
    await page.keyboard.press('0');
    await expect(part(page).getByRole('button', { name: /-pano.*of no frame of this shoot/ })).toBeVisible();
    // And by its number, typed.
    await part(page).getByRole('button', { name: /-pano/ }).click();
    await dialog.getByLabel('Another frame: number, name or time').pressSequentially(name[other]!);
    await page.keyboard.press('Enter');
    await expect(
      part(page).getByRole('button', { name: new RegExp(`-pano.*of ${numberOf(other)}`) }),
    ).toBeVisible();
  });
});
