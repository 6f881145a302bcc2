import { expect, test, type Page } from './test';
import { cells, columnsOf, enterUnmarked, position } from './cullPage';

// Marks and what they go to, as hands make them.
test.describe('in Cull', () => {
  let shootId: string;
  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as { id: string; frames: number }[];
    shootId = shoots.find(({ frames }) => frames >= 20)!.id;
  });
  const marks = (page: Page) => page.getByTestId('marks');
  const columns = (page: Page) => columnsOf(page, shootId);
  const enter = async (page: Page) => {
    await page.goto(`/shoots/${shootId}/cull`);
    await expect(position(page)).toBeVisible();
  };
  test.beforeEach(({ page }) => enterUnmarked(page, shootId));

  test('a mark goes to the frame that is seen, not to a selection behind it', async ({ page }) => {
    await cells(page).nth(0).click();
    await cells(page)
      .nth(1)
      .click({ modifiers: ['ControlOrMeta'] });
    await cells(page)
      .nth(2)
      .click({ modifiers: ['ControlOrMeta'] });
    await cells(page)
      .nth(1)
      .click({ modifiers: ['ControlOrMeta'] });
    await page.keyboard.press('Enter');
    await page.keyboard.press('4');
    await expect(marks(page)).toContainText('4★');
    await expect.poll(async () => (await columns(page)).stars.slice(0, 4)).toEqual([0, 4, 0, 0]);
  });

  test('selecting all is seen on the sheet, and marking many offers the way back', async ({ page }) => {
    await cells(page).nth(2).click();
    await page.keyboard.press('w');
    await expect(page.getByTestId('stage')).toBeVisible();
    await page.keyboard.press('Control+a');
    await expect(page.getByRole('listbox', { name: 'Contact sheet' })).toBeVisible();
    const all = (await columns(page)).id.length;
    await page.keyboard.press('d');
    await expect(page.getByText(`${all} frames changed: reject.`)).toBeVisible();
    // It stands through a step, and its button takes all of it back.
    await page.keyboard.press('ArrowRight');
    await page.getByRole('button', { name: /^Undo/ }).click();
    await expect.poll(async () => new Set((await columns(page)).verdict)).toEqual(new Set(['undecided']));
    await expect(page.getByText(`${all} selected`)).toBeVisible();
    await expect(position(page)).toHaveText(/^frame 3 of/);
  });

  test('frames that the filter hides get no marks, and those just marked stay till the next step', async ({
    page,
  }) => {
    await page.keyboard.press('5');
    await page.keyboard.press('h');
    await page.getByRole('button', { name: /^no stars/ }).click();
    await page.keyboard.press('h');
    await cells(page).nth(0).click();
    await cells(page)
      .nth(1)
      .click({ modifiers: ['Shift'] });
    const shown = await position(page).textContent();
    await page.keyboard.press('3');
    // They fit the filter no more, and are still there, selected, for the next mark.
    await expect(page.getByText('2 frames changed: 3★.')).toBeVisible();
    await expect(position(page)).toHaveText(shown!);
    await expect(cells(page).nth(0)).toContainText('3★');
    await expect(page.getByText('2 selected')).toBeVisible();
    await page.keyboard.press('d');
    await expect.poll(async () => (await columns(page)).stars.slice(0, 4)).toEqual([5, 3, 3, 0]);
    await expect
      .poll(async () => (await columns(page)).verdict.slice(0, 4))
      .toEqual(['undecided', 'reject', 'reject', 'undecided']);
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('f');
    await expect
      .poll(async () => (await columns(page)).verdict.slice(0, 4))
      .toEqual(['undecided', 'reject', 'reject', 'keep']);
  });

  test('what hides frames is seen after a reload too, and can be taken away part by part', async ({
    page,
  }) => {
    await page.keyboard.press('f');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('3');
    const all = (await columns(page)).id.length;
    await page.keyboard.press('h');
    const filter = page.getByRole('complementary', { name: 'Filter' });
    await filter.getByRole('radio', { name: 'at least' }).click();
    await expect(position(page)).toHaveText(`frame 2 of ${all}`);
    await expect(page.getByRole('region', { name: 'What hides frames' })).toBeEmpty();
    await filter.getByRole('radio', { name: 'any' }).click();
    await filter.getByRole('button', { name: /^keep/ }).click();
    await page.keyboard.press('Escape');
    await expect(filter).toBeHidden();
    await page.reload();
    await expect(page.getByText(`${all - 1} of ${all} hidden; shown:`)).toBeVisible();
    await page.getByTitle('Take “keep” away').locator('svg').click();
    await expect(position(page)).toHaveText(new RegExp(`of ${all}$`));
    // All hidden: Backspace is said to show them, and does.
    await page.keyboard.press('/');
    await filter.getByRole('button', { name: /^reject/ }).click();
    await expect(page.getByText(/^All \d+ frames are hidden by: reject/)).toBeVisible();
    await page.keyboard.press('Backspace');
    await expect(position(page)).toHaveText(new RegExp(`of ${all}$`));
    await page.keyboard.press('Escape');
  });

  test('the prompt after L stands as long as it is shown, and means what it says', async ({ page }) => {
    const prompt = page.getByText(/^Label: 1 /);
    await page.keyboard.press('w');
    await page.keyboard.press('l');
    await expect(prompt).toBeVisible();
    await page.waitForTimeout(3300);
    await expect(prompt).toBeVisible();
    await page.keyboard.press('2');
    await expect(prompt).toBeHidden();
    await expect(marks(page)).toHaveText(/undecidedB/);
    await page.keyboard.press('l');
    await page.keyboard.press('9');
    await expect(prompt).toBeHidden();
    await expect(page.getByText('L then 9 does nothing')).toBeVisible();
    await page.keyboard.press('2');
    await expect(marks(page)).toContainText('2★');
    await page.keyboard.press('l');
    await page.keyboard.press('Escape');
    await expect(prompt).toBeHidden();
  });

  test('keys work on other layouts, from the number pad, and held ones mark nothing', async ({ page }) => {
    const typing = await page.context().newCDPSession(page);
    const press = async (code: string, key: string, modifiers = 0, autoRepeat = false) => {
      await typing.send('Input.dispatchKeyEvent', { type: 'rawKeyDown', code, key, modifiers, autoRepeat });
      await typing.send('Input.dispatchKeyEvent', { type: 'keyUp', code, key, modifiers });
    };
    const [CTRL, META, SHIFT] = [2, 4, 8];
    await page.keyboard.press('w');
    await press('Numpad4', 'ArrowLeft');
    await expect(marks(page)).toContainText('4★');
    await press('KeyY', 'z', CTRL);
    await expect(marks(page)).not.toContainText('★');
    await press('Digit2', 'é');
    await expect(marks(page)).toContainText('2★');
    await press('KeyW', 'z', META);
    await expect(marks(page)).not.toContainText('★');
    await press('Minus', '?', SHIFT);
    await expect(page.getByRole('dialog')).toBeVisible();
    await press('Minus', '?', SHIFT);
    await expect(page.getByRole('dialog')).toBeHidden();
    await press('Digit7', '/', SHIFT);
    await expect(page.getByRole('complementary', { name: 'Filter' })).toBeVisible();
    await page.keyboard.press('Escape');
    await press('Digit5', '5', 0, true);
    await press('KeyF', 'f', 0, true);
    await press('ArrowRight', 'ArrowRight', 0, true);
    await expect(position(page)).toHaveText(/^frame 2 of/);
    await page.keyboard.press('ArrowLeft');
    await expect(marks(page)).toHaveText('undecided');
  });

  test('marks can be taken back after a reload, and a window keeps its own place', async ({ page }) => {
    await cells(page).nth(3).click();
    await page.keyboard.press('4');
    await expect.poll(async () => (await columns(page)).stars[3]).toBe(4);
    const other = await page.context().newPage();
    await enter(other);
    await other.keyboard.press('End');
    await expect(position(other)).not.toHaveText(/^frame 4 of/);
    await page.keyboard.press('Home');
    await page.reload();
    await expect(position(page)).toHaveText(/^frame 1 of/);
    await page.keyboard.press('Control+z');
    await expect(position(page)).toHaveText(/^frame 4 of/);
    await expect.poll(async () => (await columns(page)).stars[3]).toBe(0);
    await other.close();
  });

  test('the sheet stays where it is while another window marks, and pages by its keys', async ({ page }) => {
    const sheet = page.getByRole('listbox', { name: 'Contact sheet' });
    await cells(page).nth(0).click();
    await sheet.hover();
    await page.mouse.wheel(0, 500);
    await expect.poll(() => sheet.evaluate((box) => box.scrollTop)).toBeGreaterThan(300);
    expect(await sheet.evaluate((box) => box.scrollWidth - box.clientWidth)).toBeLessThanOrEqual(0);
    const before = await sheet.evaluate((box) => box.scrollTop);
    const other = await page.context().newPage();
    await enter(other);
    await other.keyboard.press('Home');
    await other.keyboard.press('f');
    await expect(page.getByRole('slider', { name: 'Time of the shoot' })).toBeVisible();
    await expect.poll(async () => (await columns(page)).verdict[0]).toBe('keep');
    await expect(page.getByTestId('marks')).toContainText('keep');
    expect(await sheet.evaluate((box) => box.scrollTop)).toBe(before);
    await other.close();
    await page.keyboard.press('Home');
    await page.keyboard.press('PageDown');
    await expect(position(page)).not.toHaveText(/^frame 1 of/);
    await page.keyboard.press('PageUp');
    await expect(position(page)).toHaveText(/^frame 1 of/);
  });

  test('two windows stand at the same frame where that is wanted, and each goes its own way where not', async ({
    page,
  }) => {
    const other = await page.context().newPage();
    await enter(other);
    for (const each of [page, other]) {
      await each.bringToFront();
      await each.keyboard.press('w');
      await each.keyboard.press('Home');
      await each.keyboard.press('Shift+W');
      await expect(each.getByText('All windows with this on stand at the same frame')).toBeVisible();
    }
    await page.bringToFront();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowRight');
    await expect(position(other)).toHaveText(/^frame 3 of/);
    await other.bringToFront();
    await other.keyboard.press('ArrowLeft');
    await expect(position(page)).toHaveText(/^frame 2 of/);
    await other.keyboard.press('Shift+W');
    await other.keyboard.press('ArrowRight');
    await other.keyboard.press('ArrowRight');
    await expect(position(other)).toHaveText(/^frame 4 of/);
    await expect(position(page)).toHaveText(/^frame 2 of/);
    // The other way round it hears nothing any more.
    await page.bringToFront();
    await page.keyboard.press('Home');
    await expect(position(page)).toHaveText(/^frame 1 of/);
    await expect(position(other)).toHaveText(/^frame 4 of/);
    await page.keyboard.press('Shift+W');
    await other.close();
  });

  test('two windows end with what the journal ends with, however slow an answer is', async ({ page }) => {
    const other = await page.context().newPage();
    await enter(other);
    for (const each of [page, other]) {
      await each.keyboard.press('w');
      await each.keyboard.press('Home');
      await expect(position(each)).toHaveText(/^frame 1 of/);
    }
    await page.route('**/api/marks', async (route) => {
      const answer = await route.fetch();
      await new Promise((resolve) => setTimeout(resolve, 1200));
      await route.fulfill({ response: answer });
    });
    await page.bringToFront();
    await page.keyboard.press('1');
    await other.bringToFront();
    await other.keyboard.press('4');
    // And quickly, without waiting for anything.
    for (const [window, key] of [
      [page, '2'],
      [other, '5'],
      [page, '3'],
      [other, '1'],
    ] as const)
      await window.keyboard.press(key);
    await page.unrouteAll({ behavior: 'wait' });
    const waiting = () =>
      page.evaluate(
        () =>
          new Promise<number>((resolve) => {
            indexedDB.databases().then(
              (list) => {
                const name = list.find((d) => d.name?.startsWith('arkiv-'))?.name;
                if (name === undefined) return resolve(-1);
                const open = indexedDB.open(name);
                open.onerror = () => resolve(-1);
                open.onsuccess = () => {
                  const all = open.result.transaction('marks').objectStore('marks').count();
                  all.onsuccess = () => (open.result.close(), resolve(all.result));
                };
              },
              () => resolve(-1),
            );
          }),
      );
    // A request that hangs is sent again after twenty seconds.
    await expect.poll(waiting, { timeout: 120_000 }).toBe(0);
    const kept = (await columns(page)).stars[0];
    await expect(marks(page)).toContainText(`${kept}★`);
    await expect(marks(other)).toContainText(`${kept}★`);
    await other.close();
  });

  test('marks reach the server although the browser’s data are cleared under the open window', async ({
    page,
    context,
    baseURL,
  }) => {
    await page.keyboard.press('w');
    await page.keyboard.press('Home');
    const devtools = await context.newCDPSession(page);
    await devtools.send('Storage.clearDataForOrigin', {
      origin: new URL(baseURL!).origin,
      storageTypes: 'indexeddb',
    });
    await page.keyboard.press('3');
    await expect(marks(page)).toContainText('3★');
    await expect.poll(async () => (await columns(page)).stars[0]).toBe(3);
  });

  test('frames of a corrected body show the corrected time everywhere', async ({ page }) => {
    const answer: unknown = await (await page.request.get(`/api/shoots/${shootId}/frames`)).json();
    const { columns: c } = answer as { columns: Record<'id' | 'name' | 'body' | 'local', string[]> };
    const [id, name, local] = [c.id[0]!, c.name[0]!, c.local[0]!];
    const [, model] = c.body[0]!.split(' · ');
    const corrected = new Date(Date.parse(`${local}Z`) + 3_600_000).toISOString().slice(11, 19);
    const clock = async (shift: string) => {
      await page.goto(`/shoots/${shootId}/files`);
      const clocks = page.getByRole('button', { name: 'Clocks', exact: true });
      if ((await clocks.getAttribute('aria-expanded')) === 'false') await clocks.click();
      const field = page.getByLabel(new RegExp(`^Clock of .*${model}`));
      const said = page.waitForResponse((answer) => answer.url().endsWith('/clocks') && answer.ok());
      await field.fill(shift);
      await field.press('Tab');
      await said;
      await expect(field).toHaveValue(shift);
    };
    await clock('+1:00:00');
    await page.goto(`/shoots/${shootId}/cull?frame=${id}`);
    await expect(page.getByText(new RegExp(`^${corrected}\\.`))).toBeVisible();
    await expect(page.getByRole('slider', { name: 'Time of the shoot' })).toHaveAttribute(
      'aria-valuetext',
      new RegExp(`, ${corrected.slice(0, 5)}$`),
    );
    await page.keyboard.press('c');
    await expect(page.getByText(`camera’s clock ${local.slice(11)}`)).toBeVisible();
    await page.keyboard.press('q');
    const cell = page.getByRole('option', { name: new RegExp(`^Frame ${/\d+$/.exec(name)![0]},`) });
    await expect(cell).toContainText(corrected);
    // Back leads to what stands in the address, which follows when the keys rest.
    await expect.poll(() => new URL(page.url()).searchParams.get('view')).toBe('sheet');
    await page.keyboard.press('c');
    await page.keyboard.press('c');
    await clock('+0:00:00');
    await page.goBack();
    await expect(cell).toContainText(local.slice(11));
  });
});
