import { markEach, marksIn, type MarkKind, type MarkValue, type Marks } from '@arkiv/core';
import sharp from 'sharp';
import { expect, test, type APIRequestContext, type Page } from './test';
import { accessible } from './accessible';
import { cells, columnsOf, position } from './cullPage';

// Frames anywhere in the archive, found as hands look for them: typed, clicked, by a picture, and gone on with.
test.describe('finding', () => {
  let shootId: string;
  let ids: string[];
  let made = 0;

  /** Says something of frames, as another window does. */
  async function say(
    request: APIRequestContext,
    changes: { id: string; field: MarkKind; to: MarkValue }[],
  ): Promise<void> {
    const headers = { 'x-arkiv': '1' };
    const data = { frameIds: changes.map(({ id }) => id) };
    const now = await request.post('/api/marks/now', { headers, data });
    const { frames } = (await now.json()) as { frames: (Marks & { id: string })[] };
    const operations = markEach(
      changes.map((change) => ({ ...change, marks: marksIn(frames.find(({ id }) => id === change.id)!) })),
      {
        newId: () => `01F${Date.now()}${String(++made).padStart(10, '0')}`,
        at: Date.now(),
        window: 'other',
        pass: null,
      },
    );
    expect((await request.post('/api/marks', { headers, data: { operations } })).ok()).toBe(true);
  }

  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as { id: string; frames: number }[];
    shootId = shoots.find(({ frames }) => frames >= 20)!.id;
    const answer = await request.get(`/api/shoots/${shootId}/frames`);
    const { id, verdict } = ((await answer.json()) as { columns: Record<'id' | 'verdict', string[]> })
      .columns;
    // Rejects are left out of what is found.
    ids = id.filter((_, i) => verdict[i] !== 'reject');
    await say(request, [
      { id: ids[0]!, field: 'caption', to: 'Kingfisher above the North Pier' },
      { id: ids[1]!, field: 'caption', to: 'Two kingfishers' },
      { id: ids[2]!, field: 'keyword kingfisher', to: true },
      // So that stars tell frames apart, whatever was done with them before.
      { id: ids[3]!, field: 'stars', to: 5 },
      { id: ids[4]!, field: 'stars', to: 0 },
    ]);
  });
  test.afterAll(async ({ request }) => {
    await say(request, [
      { id: ids[0]!, field: 'caption', to: null },
      { id: ids[1]!, field: 'caption', to: null },
      { id: ids[2]!, field: 'keyword kingfisher', to: false },
      { id: ids[3]!, field: 'stars', to: 0 },
    ]);
  });

  const line = (page: Page) => page.getByRole('combobox', { name: 'What is looked for' });
  const said = (page: Page) => page.getByRole('region', { name: 'What was looked for' });
  const chip = (page: Page, words: string) => said(page).locator('.MuiChip-root', { hasText: words });
  /** Stars of the second of the three, by the server. */
  const stars = async (page: Page) => {
    const { id, stars: all } = await columnsOf(page, shootId);
    return all[id.indexOf(ids[1]!)];
  };

  test('by keys: from any screen, with marks and undo there, on to Cull over what was found and to its shoot', async ({
    page,
  }) => {
    await page.goto('/shoots');
    await expect(page.getByRole('heading', { name: 'Shoots' }).first()).toBeVisible();
    await page.keyboard.press('Control+f');
    await page.keyboard.type('kingf');
    await page.keyboard.press('Enter');
    await expect(said(page)).toContainText('3 frames');
    await expect(cells(page)).toHaveCount(3);
    await accessible(page);
    // The hand is on what was found: the newest first.
    const before = await stars(page);
    await page.keyboard.press('ArrowRight');
    const other = before === 3 ? 2 : 3;
    await page.keyboard.press(String(other));
    await expect.poll(() => stars(page)).toBe(other);
    await page.keyboard.press('Control+z');
    await expect.poll(() => stars(page)).toBe(before);
    await page.keyboard.press('Enter');
    await expect(position(page)).toHaveText('frame 2 of 3');
    await page.keyboard.press(String(other));
    await expect.poll(() => stars(page)).toBe(other);
    await page.keyboard.press('Control+z');
    await expect.poll(() => stars(page)).toBe(before);
    await page.keyboard.press('Shift+P');
    await expect(page).toHaveURL(new RegExp(`/shoots/${shootId}/cull`));
    await expect(position(page)).not.toHaveText(/of 3$/);
    await page.goBack();
    await expect(position(page)).toHaveText('frame 2 of 3');
    await page.getByRole('link', { name: 'Back to Find' }).click();
    await expect(line(page)).toHaveValue('kingf');
    await expect(cells(page)).toHaveCount(3);
    await expect(cells(page).nth(1)).toHaveAttribute('data-current', 'true');
    // The line again, from where one stands; Escape leaves it.
    await page.keyboard.press('/');
    await expect(line(page)).toBeFocused();
    await page.keyboard.press('End');
    await page.keyboard.type('* -north');
    await expect(said(page)).toContainText('2 frames');
    await expect(page).toHaveURL(/north/);
    await page.reload();
    await expect(line(page)).toHaveValue('kingf* -north');
    await expect(cells(page)).toHaveCount(2);
  });

  test('by mouse: what is suggested, facts beside the pictures, parts that are taken away, and what was meant', async ({
    page,
  }) => {
    await page.goto('/find');
    await line(page).click();
    await page.keyboard.type('kingfi');
    await page.getByRole('option', { name: /^kingfisher ?keyword/ }).click();
    await expect(line(page)).toHaveValue('keyword=kingfisher ');
    await expect(said(page)).toContainText('1 frame');
    await chip(page, 'keyword kingfisher').locator('.MuiChip-deleteIcon').click();
    await expect(line(page)).toHaveValue('');
    const drawer = page.getByRole('complementary', { name: 'What was found, by its facts' });
    // What is said lags behind what is asked.
    await expect(said(page)).toContainText(/\d frames/);
    const many = Number(/(\d+) frames/.exec((await said(page).textContent())!.replace(/,/g, ''))![1]);
    await drawer.getByRole('button', { name: /^no stars/ }).click();
    await expect(line(page)).toHaveValue('0★ ');
    await expect
      .poll(async () => Number(/(\d+) frames/.exec((await said(page).textContent())!)?.[1]))
      .toBeLessThan(many);
    await expect(page).toHaveURL(/q=0/);
    await page.goBack();
    await expect(line(page)).toHaveValue('');
    await line(page).fill('kingfihser');
    await page.getByRole('button', { name: /^Look for “kingfisher”/ }).click();
    await expect(line(page)).toHaveValue('kingfisher');
    await expect(said(page)).toContainText('3 frames');
    // A click on a picture takes the keys to it.
    await cells(page).nth(1).click();
    await page.keyboard.press('ArrowLeft');
    await expect(cells(page).first()).toHaveAttribute('data-current', 'true');
    // Folded under their heading, and back.
    const heading = page.locator('[data-heading]').first();
    await heading.click();
    await expect(cells(page)).toHaveCount(0);
    await page.keyboard.press('Alt+f');
    await expect(cells(page)).toHaveCount(3);
    await page.keyboard.press('Alt+f');
    await expect(cells(page)).toHaveCount(0);
    await heading.click();
    await expect(cells(page)).toHaveCount(3);
    // “or” is a word like any other, and what is probably meant by it a press away.
    await line(page).fill('kingfisher or xyzzy');
    await page.getByRole('button', { name: 'Look for “kingfisher|xyzzy”' }).click();
    // Before a bar a word is whole: one of the three says “kingfishers”.
    await expect(said(page)).toContainText('2 frames');
    await line(page).fill('xyzzy');
    await expect(page.getByRole('heading', { name: 'Nothing was found.' })).toBeVisible();
    await accessible(page);
  });

  test('by walking the folders of the archive: down, up, with and without what lies below, by Back and by a link', async ({
    page,
  }) => {
    const { id, lies } = await columnsOf(page, shootId);
    const place = String(lies[id.indexOf(ids[1]!)]);
    const steps = place.split('/');
    expect(steps.length).toBeGreaterThan(1);
    await page.goto('/find?rejects=1');
    await page.getByRole('button', { name: 'Folders', exact: true }).click();
    const walk = page.getByRole('navigation', { name: 'Folders' });
    for (const name of steps) await walk.getByRole('button', { name: new RegExp(`^${name} · `) }).click();
    await expect(walk.getByRole('button', { name: steps.at(-1)!, exact: true })).toHaveAttribute(
      'aria-current',
      'location',
    );
    const here = id.filter((_, i) => lies[i] === place).length;
    const all = said(page).getByRole('status');
    await expect(all).toHaveText(`${here} frames`);
    await accessible(page);
    // A hand that walked by the mouse goes on by keys.
    const before = await stars(page);
    await page.keyboard.press('Home');
    await page.keyboard.press('ArrowRight');
    await expect(page.getByText(`2 of ${here}`)).toBeVisible();
    expect(await stars(page)).toBe(before);
    // Up to the one around it, which holds no picture itself.
    await walk.getByRole('button', { name: steps.at(-2)!, exact: true }).click();
    const below = walk.getByRole('checkbox', { name: 'with what lies below it' });
    await expect(cells(page).first()).toBeVisible();
    await expect(walk.getByRole('button', { name: new RegExp(`^${steps.at(-1)!} · `) })).toBeVisible();
    await expect(below).toHaveCount(0);
    await page.goBack();
    await expect(all).toHaveText(`${here} frames`);
    // Come to by a link that asks for the folder alone, there is a way out of it.
    await page.goto(`/find?q=${encodeURIComponent(`folder="${steps.slice(0, -1).join('/')}"`)}`);
    await expect(all).toHaveText('0 frames');
    await page.reload();
    await expect(below).not.toBeChecked();
    await below.click();
    await expect(cells(page).first()).toBeVisible();
    await page.getByRole('button', { name: 'Folders', exact: true }).click();
    await expect(walk).toHaveCount(0);
    await expect(line(page)).toHaveValue('');
  });

  test('by a picture that somebody made of a frame, and by what looks like it', async ({ page }) => {
    await page.goto('/find');
    await expect(cells(page).first()).toBeVisible();
    // It is found once it has been looked at, which is done in the background.
    const ask = async (data: object) => {
      const answer = await page.request.post('/api/find', { headers: { 'x-arkiv': '1' }, data });
      return (await answer.json()) as { count: number; page: { columns: { id: string[] } } };
    };
    const [first] = (await ask({ line: '', heading: 'shoot' })).page.columns.id;
    await expect
      .poll(async () => (await ask({ line: '', like: first })).count, { timeout: 240_000 })
      .toBeGreaterThan(0);
    const shown = page.locator('main img').first();
    await expect(shown).toBeVisible();
    const source = await shown.getAttribute('src');
    const bytes = await (await page.request.get(source!)).body();
    await page
      .getByLabel('A picture whose frame is looked for')
      .setInputFiles({ name: 'shot.jpg', mimeType: 'image/jpeg', buffer: bytes });
    await expect(page.getByText('The frame that this picture was made from stands first')).toBeVisible();
    await expect(cells(page).first().locator('img')).toHaveAttribute('src', source!);
    await expect(chip(page, 'like one picture')).toBeVisible();
    // Taken away it leaves nothing of itself.
    await chip(page, 'like one picture').locator('.MuiChip-deleteIcon').click();
    await expect(chip(page, 'like one picture')).toBeHidden();
    await expect(page).toHaveURL(/\/find$/);
    // A part of it, of which its hash tells nothing or another frame, is held against one frame after the other.
    const large = await (await page.request.get(source!.replace('thumb', 'screen'))).body();
    const { width, height } = await sharp(large).metadata();
    const part = await sharp(large)
      .extract({
        left: Math.round(width * 0.3),
        top: Math.round(height * 0.2),
        width: Math.round(width * 0.6),
        height: Math.round(height * 0.6),
      })
      .jpeg()
      .toBuffer();
    const pixels = Array.from({ length: 64 * 64 * 3 }, (_, i) => (i * 7919 + (i >> 5) * 104729) % 256);
    const strange = await sharp(Buffer.from(pixels), { raw: { width: 64, height: 64, channels: 3 } })
      .png()
      .toBuffer();
    const choose = (buffer: Buffer) =>
      page
        .getByLabel('A picture whose frame is looked for')
        .setInputFiles({ name: 'sent.jpg', mimeType: 'image/jpeg', buffer });
    const held = page.getByRole('progressbar', { name: 'Frames that the picture was held against' });
    let open = (): void => undefined;
    const gate = new Promise<void>((resolve) => (open = resolve));
    await page.route('**/find/picture/*/further', async (route) => {
      await gate;
      await route.continue();
    });
    const nothing = page.getByRole('heading', { name: 'Nothing was found.' });
    await choose(strange);
    await expect(held).toBeVisible();
    // That nothing was found is not said as long as it is looked for.
    await expect(nothing).toBeHidden();
    await accessible(page);
    await page.getByRole('button', { name: 'Stop', exact: true }).click();
    await expect(held).toBeHidden();
    await expect(nothing).toBeVisible();
    await choose(strange);
    await expect(held).toBeVisible();
    // Whoever asks something else is not called back to it.
    await chip(page, 'like one picture').locator('.MuiChip-deleteIcon').click();
    await expect(held).toBeHidden();
    open();
    await choose(strange);
    await expect(page.getByText('No frame is surely this picture')).toBeVisible();
    await expect(held).toBeHidden();
    await choose(part);
    await expect(page.getByText('The frame that this picture was made from stands first')).toBeVisible();
    await expect(cells(page).first().locator('img')).toHaveAttribute('src', source!);
  });
});
