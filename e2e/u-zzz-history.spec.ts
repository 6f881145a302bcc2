import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { readSidecar, writeSidecar } from '@arkiv/core';
import { expect, test, type Page } from './test';
import { accessible } from './accessible';
import { columnsOf, enterUnmarked, position } from './cullPage';
import { keepSome } from './keepers';

// What was decided, step by step, whoever did it; any single step is taken back.
test.describe('history', () => {
  let shootId: string;
  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as { id: string; frames: number }[];
    shootId = shoots.find(({ frames }) => frames >= 20)!.id;
  });

  const steps = (page: Page) => page.getByRole('list', { name: 'History' }).locator('> [role=listitem]');

  test('is a key away in Cull: an older step is taken back by keys, a newer one stays, and Back is where one was', async ({
    page,
  }) => {
    await enterUnmarked(page, shootId);
    await page.keyboard.press('w');
    await page.keyboard.press('Home');
    await expect(position(page)).toHaveText(/^frame 1 of/);
    await page.keyboard.press('4');
    await page.keyboard.press('f');
    await expect(page.getByTestId('marks')).toContainText('keep');
    await page.keyboard.press('Alt+z');
    await expect(steps(page).nth(0)).toContainText('kept · 1 frame');
    await expect(steps(page).nth(1)).toContainText('4★ · 1 frame');
    await accessible(page);
    const older = steps(page)
      .nth(1)
      .getByRole('button', { name: /^Take back: 4★/ });
    await older.focus();
    await page.keyboard.press('Enter');
    await expect(steps(page).nth(1)).toContainText('1 mark taken back');
    // The focus stays where the hand is.
    await expect(
      steps(page)
        .nth(1)
        .getByRole('button', { name: /^Do again: 4★/ }),
    ).toBeFocused();
    const first = async () => {
      const { stars, verdict } = await columnsOf(page, shootId);
      return [stars[0], verdict[0]];
    };
    expect(await first()).toEqual([0, 'keep']);
    await page.keyboard.press('Enter');
    await expect(steps(page).nth(1)).toContainText('1 mark done again');
    expect(await first()).toEqual([4, 'keep']);
    await page.goBack();
    await expect(position(page)).toHaveText(/^frame 1 of/);
    await expect(page.getByTestId('marks')).toContainText('keep');
    // Of this frame alone.
    await page.keyboard.press('Alt+Shift+z');
    await expect(page.getByText(/^What was decided of one frame of/)).toBeVisible();
    await expect(steps(page).nth(0)).toContainText('kept · 1 frame');
    await page.reload();
    await expect(steps(page).nth(0)).toContainText('kept · 1 frame');
  });

  test('shows what an editing program wrote into copies, told of on Hand-off by itself, and takes it back by mouse', async ({
    page,
    request,
  }) => {
    await keepSome(request, shootId);
    const { id: ids } = await columnsOf(page, shootId);
    // Onto the drive whose folder is told of.
    const lying = (await (await request.get(`/api/opening/frames/${ids[0]}`)).json()) as {
      files: { volumeId: string; path: string; whole: string }[];
    };
    const { volumeId, path: below, whole } = lying.files[0]!;
    const root = whole.slice(0, -below.length);
    const headers = { 'x-arkiv': '1' };
    const started = await request.post(`/api/shoots/${shootId}/handoffs`, {
      headers,
      data: { volumeId },
    });
    const { jobId } = (await started.json()) as { jobId: string };
    await expect
      .poll(
        async () =>
          ((await (await request.get(`/api/jobs/${jobId}`)).json()) as { job: { state: string } }).job.state,
        {
          timeout: 60_000,
        },
      )
      .toBe('done');
    const past = (await (await request.get(`/api/shoots/${shootId}/handoffs`)).json()) as {
      result: { folders: string[] };
    }[];
    const { id, name, stars } = await columnsOf(page, shootId);
    await page.goto(`/shoots/${shootId}/handoff`);
    const back = page.getByRole('region', { name: 'Came back' });
    await expect(back).toBeVisible();
    for (const i of [0, 1]) {
      const file = path.join(root, past[0]!.result.folders[0]!, `${name[i]}.xmp`);
      const text = readFileSync(file, 'utf8');
      const read = readSidecar(text);
      if (!read.ok) throw new Error(read.reason);
      const metadataDate = new Date(Date.now() + 1000).toISOString();
      writeFileSync(file, writeSidecar({ ...read.model, stars: 2, caption: 'at dusk', metadataDate }, text));
    }
    await expect(back.getByText(/Editing wrote into the copies of \d+ frames?, last/)).toBeVisible();
    await expect.poll(async () => (await columnsOf(page, shootId)).stars.slice(0, 2)).toEqual([2, 2]);
    await accessible(page);
    await back.getByRole('link', { name: 'History' }).click();
    await expect(page.getByRole('button', { name: 'By programs and clients' })).toHaveAttribute(
      'aria-pressed',
      'true',
    );
    await expect(steps(page).nth(0)).toContainText('an editing program, in a copy');
    // However many steps it came in, each is taken back.
    await expect(async () => {
      const open = page.getByRole('button', { name: /^Take back: .*“at dusk”/ });
      if ((await open.count()) > 0) await open.first().click();
      expect((await columnsOf(page, shootId)).stars.slice(0, 2)).toEqual(stars.slice(0, 2));
    }).toPass();
    expect((await columnsOf(page, shootId)).id).toEqual(id);
    await page.getByRole('button', { name: 'Made here' }).click();
    await expect(steps(page).nth(0)).not.toContainText('an editing program');
  });
});
