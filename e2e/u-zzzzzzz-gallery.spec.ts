import { execFileSync } from 'node:child_process';
import { accessible } from './accessible';
import { devices, expect, test, type Browser, type Page } from './test';

// The studio in one browser and its client's people in others, at once.
test.describe('a gallery', () => {
  let shootId: string;
  let address: string;
  let code: string;
  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as { id: string; frames: number }[];
    shootId = shoots.find(({ frames }) => frames >= 20)!.id;
    // After a test that failed, others begin anew.
    const galleries = (await (await request.get(`/api/shoots/${shootId}/galleries`)).json()) as {
      links: { address: string; code: string }[];
    }[];
    ({ address, code } = galleries[0]?.links[0] ?? { address: '', code: '' });
  });

  const card = (page: Page) => page.getByRole('group', { name: 'Gallery “For the company”' });
  const comeIn = async (browser: Browser, name: string, device: object = {}) => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, ...device });
    const page = await context.newPage();
    await page.goto(address);
    await page.getByLabel('Your name').fill(name);
    await page.getByLabel('Pass code').fill(code.toLowerCase());
    await page.getByLabel('Pass code').press('Enter');
    // Its script makes these; until then a picture is a link.
    await expect(page.getByRole('button', { name: /^All/ })).toBeVisible();
    return page;
  };
  const pictures = (page: Page) => page.getByRole('list', { name: 'Pictures' }).getByRole('listitem');
  const isPressed = (page: Page, name: RegExp, n: number, is: boolean) =>
    expect(pictures(page).nth(n).getByRole('button', { name })).toHaveAttribute('aria-pressed', String(is));

  test('is made in the studio, from its words to its link', async ({ page }) => {
    await page.goto(`/shoots/${shootId}/deliver`);
    await page.getByRole('button', { name: 'Make a gallery …' }).click();
    const dialog = page.getByRole('dialog', { name: 'Make a gallery' });
    await page.keyboard.press('Control+A');
    await page.keyboard.type('For the company');
    await dialog.getByLabel('Words to the client').fill('Please choose two for the programme.');
    await dialog.getByLabel(/^How many they choose/).fill('2');
    const sets = dialog.getByLabel('Files they may take along');
    await sets.selectOption({ index: 1 });
    await accessible(page);
    await dialog.getByRole('button', { name: 'Make the gallery' }).click();
    await expect(card(page).getByText('Nobody was there yet.')).toBeVisible({ timeout: 60_000 });
    await expect(card(page).getByText(/^Making|of \d+ pictures/)).toBeHidden({ timeout: 60_000 });
    address = (await card(page).getByRole('link', { name: /\/g\// }).getAttribute('href'))!;
    code = (
      await card(page)
        .getByText(/^pass code/)
        .innerText()
    ).replace('pass code ', '');
    expect(new URL(address).pathname).toMatch(/^\/g\/[\w-]{22}$/);
    await accessible(page);
  });

  test('opens with a name and a code alone, on a telephone, and without its script too', async ({
    browser,
  }) => {
    const context = await browser.newContext({ ...devices['Pixel 7'] });
    const page = await context.newPage();
    await page.goto(address);
    await accessible(page);
    await page.getByLabel('Your name').fill('Nele');
    await page.getByLabel('Pass code').fill('AAAA-AAAA');
    await page.getByRole('button', { name: 'Open the gallery' }).tap();
    await expect(page.getByRole('alert')).toContainText('This code does not open the gallery');
    await page.getByLabel('Your name').fill('Nele');
    await page.getByLabel('Pass code').fill(code);
    await page.getByRole('button', { name: 'Open the gallery' }).tap();
    await expect(page.getByText('Please choose two for the programme.')).toBeVisible();
    const width = await page.evaluate(() => document.documentElement.scrollWidth);
    expect(width).toBeLessThanOrEqual(412);
    await accessible(page);
    const blank = await browser.newContext({ javaScriptEnabled: false });
    const plain = await blank.newPage();
    await plain.goto(address);
    await plain.getByLabel('Your name').fill('Nele');
    await plain.getByLabel('Pass code').fill(code);
    await plain.getByRole('button', { name: 'Open the gallery' }).click();
    await expect(plain.getByText(/the page needs its script/)).toBeVisible();
    await pictures(plain).first().getByRole('link').click();
    await expect(plain.locator('img')).toBeVisible();
    await context.close();
    await blank.close();
  });

  test('is chosen in by two at once while the studio looks on', async ({ page, browser }) => {
    await page.goto(`/shoots/${shootId}/deliver`);
    const nele = await comeIn(browser, 'Nele', devices['Pixel 7']);
    const jaro = await comeIn(browser, 'Jaro');
    await pictures(nele)
      .nth(0)
      .getByRole('button', { name: /^Choose/ })
      .tap();
    await isPressed(nele, /^Choose/, 0, true);
    // The other one sees it without a reload, with who chose it.
    await isPressed(jaro, /^Choose/, 0, true);
    await expect(pictures(jaro).nth(0).getByText('chosen by Nele')).toBeVisible();
    await expect(card(page).getByText('1 of 2 chosen', { exact: true })).toBeVisible();
    await pictures(jaro)
      .nth(2)
      .getByRole('button', { name: /^Choose/ })
      .click();
    await isPressed(nele, /^Choose/, 2, true);
    // Two were asked for, and two are chosen: there is no third.
    await expect(
      pictures(nele)
        .nth(1)
        .getByRole('button', { name: /^Choose/ }),
    ).toBeDisabled();
    await expect(card(page).getByText('2 of 2 chosen', { exact: true })).toBeVisible();
    // Favourites are each one's own.
    await pictures(jaro)
      .nth(1)
      .getByRole('button', { name: /^Favourite/ })
      .click();
    await isPressed(jaro, /^Favourite/, 1, true);
    await isPressed(nele, /^Favourite/, 1, false);
    await expect(card(page).getByText(/Jaro · last there .* · 1 favourite · 1 chosen/)).toBeVisible();
    await jaro.getByRole('button', { name: /^My favourites/ }).click();
    await expect(pictures(jaro).filter({ visible: true })).toHaveCount(1);
    await accessible(jaro);
    await jaro.getByRole('button', { name: /^All/ }).click();
    // One taken back makes room, in the studio's pile as well.
    await pictures(jaro)
      .nth(2)
      .getByRole('button', { name: /^Choose/ })
      .click();
    await isPressed(nele, /^Choose/, 2, false);
    await expect(card(page).getByText('1 of 2 chosen', { exact: true })).toBeVisible();
    await card(page).getByRole('link', { name: 'Open the pile' }).click();
    await expect(page.getByRole('heading', { level: 1, name: /Choice · For the company/ })).toBeVisible();
    await nele.context().close();
    await jaro.context().close();
  });

  test('is gone through by keys: look, favourite, choose, compare, remark, and back', async ({
    page,
    browser,
  }) => {
    await page.goto(`/shoots/${shootId}/deliver`);
    const jaro = await comeIn(browser, 'Jaro');
    await pictures(jaro).nth(0).getByRole('link').focus();
    await jaro.keyboard.press('ArrowRight');
    await jaro.keyboard.press('Enter');
    const viewer = jaro.getByRole('dialog', { name: 'Picture' });
    await expect(viewer.getByRole('heading', { name: / 2 of / })).toBeVisible();
    await accessible(jaro);
    await jaro.keyboard.press('ArrowRight');
    await jaro.keyboard.press('c');
    await expect(viewer.getByRole('button', { name: 'Choose' })).toHaveAttribute('aria-pressed', 'true');
    await jaro.keyboard.press('r');
    await jaro.keyboard.type('Could this be brighter?');
    await viewer
      .locator('.stage img')
      .first()
      .click({ position: { x: 120, y: 90 } });
    await jaro.keyboard.press('Tab');
    await jaro.keyboard.press('Enter');
    await expect(viewer.getByText('Could this be brighter?')).toBeVisible();
    const remarks = card(page).getByRole('list', { name: 'Remarks' });
    await expect(remarks.getByText('Could this be brighter?')).toBeVisible();
    await expect(remarks.getByText(/Jaro, .*at the top/)).toBeVisible();
    // A press on a button leaves the keys alive.
    await viewer.getByRole('button', { name: 'Compare with others' }).click();
    await expect(viewer.getByRole('heading')).toHaveCount(2);
    await jaro.keyboard.press('f');
    await accessible(jaro);
    await jaro.keyboard.press('Escape');
    await expect(viewer.getByRole('heading')).toHaveCount(1);
    await viewer.getByRole('button', { name: 'Next picture' }).click();
    await jaro.keyboard.press('ArrowLeft');
    await jaro.keyboard.press('Escape');
    await expect(viewer).toBeHidden();
    // What was looked at last is where one goes on, after a reload as well.
    await jaro.keyboard.press('Enter');
    await expect(viewer).toBeVisible();
    const looked = await viewer.getByRole('heading').innerText();
    await jaro.reload();
    await expect(viewer.getByRole('heading', { name: looked })).toBeVisible();
    await jaro.keyboard.press('Escape');
    await expect(pictures(jaro).nth(2).getByText('1 remark')).toBeVisible();
    await jaro.getByRole('button', { name: 'Send our choice' }).click();
    await expect(card(page).getByText(/^2 of 2 chosen, sent by Jaro /)).toBeVisible();
    await jaro.context().close();
  });

  test('gives out one file and all in a size, as they were delivered', async ({ browser }) => {
    const nele = await comeIn(browser, 'Nele');
    const [zip] = await Promise.all([
      nele.waitForEvent('download'),
      nele.getByRole('region', { name: 'Take all along' }).getByRole('link').first().click(),
    ]);
    expect(execFileSync('unzip', ['-t', await zip.path()], { encoding: 'utf8' })).toContain('No errors');
    await pictures(nele).nth(1).getByRole('link').click();
    const [one] = await Promise.all([
      nele.waitForEvent('download'),
      nele
        .getByRole('dialog')
        .getByTitle(/^Take along/)
        .first()
        .click(),
    ]);
    expect(one.suggestedFilename()).toMatch(/\.jpg$/);
    await nele.context().close();
  });

  test('says so when the server is gone, and goes on when it is back', async ({ browser }) => {
    const nele = await comeIn(browser, 'Nele');
    await nele.context().setOffline(true);
    await pictures(nele)
      .nth(2)
      .getByRole('button', { name: /^Favourite/ })
      .click();
    await expect(nele.getByRole('status')).not.toBeEmpty();
    await isPressed(nele, /^Favourite/, 2, false);
    await nele.context().setOffline(false);
    await pictures(nele)
      .nth(2)
      .getByRole('button', { name: /^Favourite/ })
      .click();
    await isPressed(nele, /^Favourite/, 2, true);
    await nele.context().close();
  });

  test('says that its pictures were changed while one looks, and shows them at a press', async ({
    page,
    browser,
    request,
  }) => {
    const nele = await comeIn(browser, 'Nele');
    const before = await pictures(nele).count();
    const frames = await (await request.get(`/api/shoots/${shootId}/frames`)).json();
    const { id, verdict } = (frames as { columns: Record<'id' | 'verdict', string[]> }).columns;
    const more = verdict.findIndex((one) => one === 'undecided');
    const judge = async (from: string, to: string) => {
      const operation = { id: `01H${Date.now()}0000000001`, subject: id[more], kind: 'verdict', from, to };
      const data = { operations: [{ ...operation, at: Date.now(), group: to, window: 'other' }] };
      expect((await request.post('/api/marks', { headers: { 'x-arkiv': '1' }, data })).ok()).toBe(true);
    };
    await judge('undecided', 'keep');
    await page.goto(`/shoots/${shootId}/deliver`);
    await card(page).getByRole('button', { name: 'Bring up to date' }).click();
    const news = nele.getByRole('status').filter({ hasText: `there are ${before + 1} by now` });
    await expect(news).toBeVisible();
    // Nothing has moved under the hand of whoever is choosing.
    expect(await pictures(nele).count()).toBe(before);
    await accessible(nele);
    await news.getByRole('button', { name: 'Show them' }).click();
    await expect(pictures(nele)).toHaveCount(before + 1);
    await expect(news).toBeHidden();
    await judge('keep', 'undecided');
    await page.reload();
    await card(page).getByRole('button', { name: 'Bring up to date' }).click();
    await nele.getByRole('button', { name: 'Show them' }).click();
    await expect(pictures(nele)).toHaveCount(before);
    await nele.context().close();
  });

  test('is closed, and opened again with what was said', async ({ page, browser }) => {
    await page.goto(`/shoots/${shootId}/deliver`);
    await card(page).getByRole('button', { name: 'Close it' }).click();
    await expect(card(page).getByText(/ · closed /)).toBeVisible();
    const context = await browser.newContext();
    const client = await context.newPage();
    await client.goto(address);
    await expect(client.getByRole('heading', { name: 'This gallery is closed.' })).toBeVisible();
    await accessible(client);
    await context.close();
    await card(page).getByRole('button', { name: 'Open it again' }).click();
    await expect(card(page).getByText(/ · closed /)).toBeHidden();
    await expect(card(page).getByText(/^2 of 2 chosen/)).toBeVisible();
    const nele = await comeIn(browser, 'Nele');
    await isPressed(nele, /^Choose/, 0, true);
    await nele.context().close();
    // Whoever works on a frame reads there what was said of it.
    await card(page).getByRole('list', { name: 'Remarks' }).getByRole('link').first().click();
    await expect(page.getByText('Jaro: Could this be brighter?')).toBeVisible();
  });
});
