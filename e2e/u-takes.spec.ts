import { devices, expect, test, type Page } from './test';
import { cells, columnsOf, compared, enterUnmarked, position } from './cullPage';

// Takes as hands correct them: what the machine found, what somebody says of it, and that it stays.
test.describe('takes', () => {
  let shootId: string;
  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as { id: string; frames: number }[];
    shootId = shoots.find(({ frames }) => frames >= 20)!.id;
  });
  const takePlace = (page: Page) => page.getByText(/^take \d+ of \d+$/).first();
  const takes = async (page: Page) => Number(/of (\d+)/.exec((await takePlace(page).textContent())!)![1]);
  const column = (page: Page) => page.getByRole('complementary', { name: 'Take' });
  const said = async (page: Page) =>
    ((await columnsOf(page, shootId)).take as (string | null)[]).filter((take) => take !== null);

  test.beforeEach(async ({ page }) => {
    await enterUnmarked(page, shootId);
    await page.keyboard.press('w');
    await page.keyboard.press('Home');
    await expect(position(page)).toHaveText(/^frame 1 of/);
    await compared(page, shootId);
    expect(await said(page)).toEqual([]);
  });
  test.afterEach(async ({ page }) => {
    // Whatever was said is taken back: the next test finds the machine's own.
    await page.goto(`/shoots/${shootId}/cull`);
    await expect(position(page)).toBeVisible();
    await page.keyboard.press('q');
    // A busy machine hears of an undo later than it is asked.
    for (let i = 0; i < 60 && (await said(page)).length > 0; i++) {
      await page.keyboard.press('Control+z');
      await page.waitForTimeout(250);
    }
    expect(await said(page)).toEqual([]);
  });

  test('are walked through by keys, split, joined and called by name, and undone', async ({ page }) => {
    const before = await takes(page);
    // The first is three exposures of the empty stage.
    await expect(column(page)).toContainText('1 of 3');
    await expect(column(page)).toContainText('bracket');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Shift+S');
    await expect(takePlace(page)).toHaveText(`take 2 of ${before + 1}`);
    await expect(column(page)).toContainText('corrected');
    await page.keyboard.press('Shift+A');
    await expect(takePlace(page)).toHaveText(`take 1 of ${before}`);
    await page.keyboard.press('Shift+K');
    await page.keyboard.press('4');
    await expect(column(page)).toContainText('near-duplicates');
    for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
    await expect(takePlace(page)).toHaveText(`take 1 of ${before}`);
    await expect(column(page)).not.toContainText('corrected');
    await page.keyboard.press('ArrowDown');
    await expect(takePlace(page)).toHaveText(`take 2 of ${before}`);
    await page.keyboard.press('ArrowUp');
    await expect(position(page)).toHaveText(/^frame 1 of/);
  });

  test('stay as they were corrected by mouse, through regrouping and a reload', async ({ page }) => {
    const before = await takes(page);
    await page.keyboard.press('ArrowRight');
    await column(page).getByRole('button', { name: 'Out' }).click();
    await expect(takePlace(page)).toHaveText(`take 2 of ${before + 1}`);
    // It stands after the take that it was in, and a click beside the picture leaves the keys where they were.
    await expect(position(page)).toHaveText(/^frame 3 of/);
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.press('ArrowLeft');
    await expect(position(page)).toHaveText(/^frame 1 of/);
    await expect(column(page)).toContainText('1 of 2');
    await page.keyboard.press('h');
    const slider = page.getByRole('slider', { name: 'How strictly frames are grouped' });
    await slider.fill('1');
    const strictly = await takes(page);
    await slider.fill('-1');
    await expect.poll(() => takes(page)).toBeLessThan(strictly);
    await slider.fill('0');
    await expect(takePlace(page)).toHaveText(`take 1 of ${before + 1}`);
    await expect.poll(() => said(page)).toHaveLength(1);
    await page.reload();
    await expect(takePlace(page)).toHaveText(`take 1 of ${before + 1}`);
    await expect(column(page)).toContainText('1 of 2');
  });

  test('are gone through where they are doubtful, two frames large, by one key each, and stay decided', async ({
    page,
  }) => {
    const line = page.getByText(/^Doubtful \d+ of \d+:/);
    await page.keyboard.press('Shift+D');
    await expect(line).toBeVisible();
    const all = Number(/of (\d+):/.exec((await line.textContent())!)![1]);
    await expect(page.getByTestId('stage')).toHaveCount(2);
    expect(all).toBeGreaterThan(0);
    await page.keyboard.press('Shift+S');
    await expect.poll(() => said(page)).toEqual(['cut']);
    if (all > 1) {
      await expect(line).toContainText(`Doubtful 2 of ${all}`);
      await page.keyboard.press('ArrowLeft');
      await expect(line).toContainText(`Doubtful 1 of ${all}`);
      await page.keyboard.press('ArrowRight');
      await page.keyboard.press('Shift+A');
      await expect.poll(async () => (await said(page)).sort()).toEqual(['cut', 'join']);
    }
    await page.keyboard.press('Escape');
    await expect(line).toBeHidden();
    // What was decided is not asked again.
    await page.keyboard.press('Shift+D');
    if (all > 2) await expect(line).toContainText(`of ${all - 2}:`);
    else await expect(line).toBeHidden();
  });

  test('are walked through side by side, take by take', async ({ page }) => {
    await page.keyboard.press('e');
    await expect(page.getByTestId('stage')).toHaveCount(3);
    await page.keyboard.press('ArrowDown');
    await expect(takePlace(page)).toHaveText(/^take 2 of/);
    await page.keyboard.press('ArrowUp');
    await expect(takePlace(page)).toHaveText(/^take 1 of/);
    await expect(page.getByTestId('stage')).toHaveCount(3);
    await page.keyboard.press('g');
    await expect(takePlace(page)).toHaveText(/^take 2 of/);
    // Painted at once, sent after: the server is asked until it has them.
    await expect
      .poll(async () => (await columnsOf(page, shootId)).verdict.slice(0, 3))
      .toEqual(['keep', 'reject', 'reject']);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+z');
  });

  test('fold on the sheet to one frame each, and open at the frame that stood for them', async ({ page }) => {
    const before = await takes(page);
    const frames = (await columnsOf(page, shootId)).id.length;
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Shift+L');
    await page.keyboard.press('Shift+Q');
    await expect(page.getByText(`take 1 of ${before}`, { exact: true })).toBeVisible();
    await expect(cells(page).first()).toContainText('+2 bracket');
    const second = (await columnsOf(page, shootId)).name[1] as string;
    await expect(cells(page).first()).toHaveAccessibleName(new RegExp(`Frame ${second.slice(-4)}`));
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Enter');
    await expect(position(page)).toHaveText(new RegExp(` of ${frames}$`));
    await expect(takePlace(page)).toHaveText(/^take 2 of/);
    await page.keyboard.press('q');
    await page.keyboard.press('Shift+Q');
    await expect(position(page)).toHaveText(/^frame \d+ of/);
  });

  test('are made by hand of what was selected on the sheet', async ({ page }) => {
    const before = await takes(page);
    await page.keyboard.press('q');
    await page.keyboard.press('Home');
    await page.keyboard.press('Shift+ArrowRight');
    for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('Shift+B');
    // Three of the stage, and two of what came after it.
    await page.keyboard.press('Escape');
    await page.keyboard.press('Home');
    await page.keyboard.press('w');
    await expect(column(page)).toContainText('1 of 5');
    expect(await takes(page)).toBeLessThanOrEqual(before);
  });

  test('get what is dragged over them on the sheet, and lose what is dragged beside', async ({ page }) => {
    const before = await takes(page);
    await page.keyboard.press('q');
    const frames = cells(page);
    const selected = page.locator('[role="option"][aria-selected="true"]');
    await frames.nth(3).click({ modifiers: ['Control'] });
    // Only what is selected is dragged; before that is painted, the same way draws a rectangle.
    await expect(frames.nth(3)).toHaveAttribute('aria-selected', 'true');
    const several = await selected.count();
    await frames.nth(3).dragTo(frames.nth(0));
    await expect(page.getByText(/^\d+ frames? goe?s? to another take/)).toBeVisible();
    await expect.poll(async () => (await said(page)).length).toBeGreaterThan(0);
    // Undone, one stands on the sheet again, with what was selected there.
    await page.keyboard.press('Control+z');
    await expect(takePlace(page)).toHaveText(new RegExp(`^take \\d+ of ${before}$`));
    await expect.poll(async () => (await said(page)).length).toBe(0);
    // Let go beside the frames, they stand alone.
    await expect(selected).toHaveCount(several);
    const sheet = (await page.getByRole('listbox', { name: 'Contact sheet' }).boundingBox())!;
    await selected.first().hover();
    await page.mouse.down();
    for (const x of [sheet.x + 60, sheet.x - 6, sheet.x - 8]) await page.mouse.move(x, sheet.y + 90);
    await page.mouse.up();
    await expect(page.getByText(/^\d+ frames? stands? alone/)).toBeVisible();
    await expect.poll(async () => (await said(page)).length).toBe(several);
    await page.keyboard.press('Control+z');
  });

  test('are corrected by fingers: out, together again, and taken back', async ({ browser, baseURL }) => {
    const { defaultBrowserType: _, ...tablet } = devices['Galaxy Tab S4 landscape']!;
    const context = await browser.newContext({ ...tablet, baseURL });
    const page = await context.newPage();
    try {
      await page.goto(`/shoots/${shootId}/cull`);
      await expect(position(page)).toBeVisible();
      const bar = page.getByRole('toolbar', { name: 'Marks and steps' });
      const choose = async (words: string) => {
        await bar.getByRole('button', { name: 'More' }).tap();
        await page.getByRole('toolbar', { name: 'More' }).getByRole('button', { name: 'Takes' }).tap();
        await page.getByRole('toolbar', { name: 'Takes' }).getByRole('button', { name: words }).tap();
      };
      if (await bar.getByRole('button', { name: 'Sheet' }).isVisible())
        await bar.getByRole('button', { name: 'Sheet' }).tap();
      const frames = cells(page);
      // Alone, it stands elsewhere on the sheet.
      const label = (await frames.nth(1).getAttribute('aria-label'))!;
      const one = page.getByRole('option', { name: label.split(',')[0]!, exact: false });
      await one.tap();
      await choose('Out, alone');
      await expect(page.getByText('1 frame stands alone.')).toBeVisible();
      await expect.poll(async () => (await said(page)).length).toBe(1);
      // A long press selects it with the one that one stands at: they belong together.
      await frames.nth(0).tap();
      const cell = (await one.boundingBox())!;
      const cdp = await context.newCDPSession(page);
      await cdp.send('Input.dispatchTouchEvent', {
        type: 'touchStart',
        touchPoints: [{ x: cell.x + 40, y: cell.y + 40 }],
      });
      await expect(page.getByText('2 selected')).toBeVisible();
      await cdp.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
      await choose('Belong together');
      await expect(page.getByText('2 frames belong together.')).toBeVisible();
      await bar.getByRole('button', { name: 'Undo' }).tap();
      await bar.getByRole('button', { name: 'Undo' }).tap();
      await expect.poll(async () => (await said(page)).length).toBe(0);
    } finally {
      await context.close();
    }
  });

  test('say of each frame how it stands beside the others, and filters know what is said', async ({
    page,
  }) => {
    await expect
      .poll(async () => (await columnsOf(page, shootId)).measures.filter((its) => its === null).length, {
        timeout: 240_000,
      })
      .toBe(0);
    await page.keyboard.press('w');
    // Frames of a bracket, a panorama or alone have no order: on to the first take that has one.
    const all = await takes(page);
    for (let take = 1; take < all; take += 1) {
      await expect(takePlace(page)).toHaveText(new RegExp(`^take ${take} of ${all}$`));
      if (/in order of merit/.test((await column(page).textContent())!)) break;
      await page.keyboard.press('ArrowDown');
    }
    const listed = column(page).getByRole('listitem');
    await expect(listed.filter({ hasText: 'in order of merit 1st' }).first()).toBeVisible();
    await expect(listed.filter({ hasText: 'sharpest' }).first()).toBeVisible();
    await page.keyboard.press('h');
    await page.getByText('Advice', { exact: true }).click();
    const choices = page.locator('details').filter({ hasText: 'Advice' }).getByRole('button');
    const words = (await choices.first().textContent())!;
    const many = Number(/(\d+)$/.exec(words)![1]);
    expect(many).toBeGreaterThan(0);
    await choices.first().click();
    await expect(position(page)).toHaveText(new RegExp(` of ${many}$`));
    // Kept through a reload; no frame was marked by any of it.
    await page.reload();
    await expect(position(page)).toHaveText(new RegExp(` of ${many}$`));
    const { verdict } = await columnsOf(page, shootId);
    expect(new Set(verdict)).toEqual(new Set(['undecided']));
    await page.keyboard.press('Backspace');
  });

  test('have the clock of a second body proposed by what both saw, corrected by one key and taken back', async ({
    page,
    request,
  }) => {
    const columns = await columnsOf(page, shootId);
    const bodies = [...new Set(columns.body as string[])];
    expect(bodies).toHaveLength(2);
    const second = bodies.find((body) => body.includes('Three'))!;
    const isSecond = (columns.body as string[]).map((body) => body === second);
    const corrections = async () =>
      new Set(((await columnsOf(page, shootId)).correctionMillis as number[]).filter((_, i) => isSecond[i]))
        .size;
    const set = (millis: number) =>
      request.put(`/api/shoots/${shootId}/clocks`, {
        data: { corrections: [{ body: second, millis }] },
        headers: { 'x-arkiv': '1' },
      });
    const correction = async () => {
      const { body, correctionMillis } = await columnsOf(page, shootId);
      return (correctionMillis as number[])[(body as string[]).indexOf(second)]!;
    };
    expect(await corrections()).toBe(1);
    const before = await correction();
    await set(0);
    await page.reload();
    const line = page.getByText(/^The clock of Ockham Three seems to be off beside Ockham Five: \+0:03:2\d/);
    await compared(page, shootId);
    await expect(line).toBeVisible({ timeout: 60_000 });
    // On the strip lines join what both saw, from the one lane to the other.
    const joined = page.locator('svg[data-pairs] line');
    expect(await joined.count()).toBeGreaterThan(3);
    await page.keyboard.press('Shift+O');
    await expect(page.getByTestId('stage')).toHaveCount(2);
    expect(await correction()).toBe(0);
    await page.keyboard.press('Shift+M');
    await expect(page.getByText(/^The clock of Ockham Three was corrected by \+0:03:2\d/)).toBeVisible();
    await expect(joined).toHaveCount(0);
    // The two seconds that a proposal may be off.
    await expect.poll(async () => Math.abs((await correction()) - 207_400)).toBeLessThan(2000);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect.poll(correction).toBe(0);
    await expect(line).toBeVisible();
    await page.getByRole('button', { name: 'Leave it so' }).click();
    await expect(line).toBeHidden();
    await page.reload();
    await expect(position(page)).toBeVisible();
    await page.keyboard.press('Shift+M');
    await expect(page.getByText('No clock seems to be off')).toBeVisible();
    await set(before);
  });
});
