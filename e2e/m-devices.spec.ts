import { expect, test, type APIRequestContext, type Page } from './test';
import { accessible } from './accessible';
import { compared } from './cullPage';

// Plays after the whole job: one shoot is archived, and the potter's card lies on the table.

const jobs = (page: Page) => page.getByRole('button', { name: /job needs attention|^Jobs$|Copying/ });

async function change(request: APIRequestContext, where: string, data: object): Promise<void> {
  const response = await request.put(`/api/stand-ins/${where}`, { data, headers: { 'x-arkiv': '1' } });
  expect(response.status()).toBe(200);
}

test.describe('cards and drives that fail', () => {
  // A test that breaks off leaves no broken device to the next one.
  test.afterEach(async ({ request }) => {
    await change(request, 'drives/backup', { state: 'well' });
    for (const slot of ['slot-1', 'slot-2']) await change(request, `slots/${slot}`, { unreadable: [] });
  });

  test('a card pulled out while it is read: the job waits, says so, and carries on with the card', async ({
    page,
    request,
  }) => {
    await page.goto('/');
    await page.getByRole('link', { name: 'Insert cards, make devices fail' }).click();
    const reader = page.getByRole('group', { name: 'Reader 1' });
    await reader.getByLabel('Card', { exact: true }).selectOption('catalogue');
    await accessible(page);
    await page.getByRole('link', { name: /^Desk/ }).click();
    await expect(page.getByText('24 Sept 2026, 09:05–10:01 · Ockham Five')).toBeVisible();
    await page.getByRole('link', { name: /^Take in .*: catalogue$/ }).click();
    await page.getByRole('textbox', { name: 'Shoot' }).fill('Autumn catalogue');
    const copy = page.getByRole('button', { name: /to 2 drives and verify$/ });
    await expect(copy).toBeEnabled();
    // The card's facts and small pictures have been read by now; of its files the first megabyte will be.
    await page.waitForFunction(() => [...document.images].every((image) => image.complete));
    await change(request, 'slots/slot-1', { pullAfterBytes: 1_000_000 });
    await copy.click();
    await expect(
      page.getByRole('alert').getByText(/Insert it again.*copying carries on where it stopped/),
    ).toBeVisible();
    await expect(jobs(page)).toContainText('1 job needs attention');
    await jobs(page).click();
    const panel = page.getByRole('dialog', { name: 'Jobs' });
    await expect(panel.getByText('Copying Autumn catalogue: waiting')).toBeVisible();
    await accessible(page);
    await page.keyboard.press('Escape');

    await page.goto('/stand-ins');
    await expect(reader.getByLabel('Card', { exact: true })).toHaveValue('');
    await reader.getByLabel('Card', { exact: true }).selectOption('catalogue');
    await expect(jobs(page)).not.toContainText('needs attention');
    await page.goto('/');
    await expect(page.getByText(/All \d+ files archived and read back: safe to clear\./)).toBeVisible({
      timeout: 60_000,
    });
  });

  test('a drive that is unplugged, full or read-only says so on the Desk', async ({ page, request }) => {
    await page.goto('/');
    await expect(page.getByText(/every archived file has 2 verified copies/)).toBeVisible();
    await expect(page.getByText(/files, each also on another drive/)).toHaveCount(2);
    await change(request, 'drives/backup', { state: 'unplugged' });
    await expect(page.getByText(/^Not connected\./)).toBeVisible();
    await accessible(page);
    await change(request, 'drives/backup', { state: 'full' });
    await expect(page.getByText('full: nothing can be written to it')).toBeVisible();
    await change(request, 'drives/backup', { state: 'well' });
    await expect(page.getByText(/^Not connected\./)).toHaveCount(0);
  });

  test('a drive that is unplugged before the page hears of changes shows as such all the same', async ({
    page,
    request,
  }) => {
    let listen = (): void => undefined;
    const listening = new Promise<void>((resolve) => (listen = resolve));
    // The stream in the page itself, where it can be held back; in the shared worker it cannot.
    await page.addInitScript(() => Reflect.deleteProperty(window, 'SharedWorker'));
    await page.route('**/api/events', async (route) => {
      await listening;
      await route.continue();
    });
    await page.goto('/');
    await expect(page.getByText(/files, each also on another drive/)).toHaveCount(2);
    await change(request, 'drives/backup', { state: 'unplugged' });
    listen();
    await expect(page.getByText(/^Not connected\./)).toBeVisible();
  });

  test('a file that cannot be read is named in the report, and copied when it can be', async ({
    page,
    request,
  }) => {
    await page.goto('/stand-ins');
    const reader = page.getByRole('group', { name: 'Reader 2' });
    await reader.getByLabel('Card', { exact: true }).selectOption('press-night-a');
    const files = reader.getByLabel('Files whose second half cannot be read');
    await files.click();
    await files.fill('9975.JPG');
    await page.getByRole('option', { name: 'DCIM/100OCKHM/OCK_9975.JPG' }).click();
    await expect(reader.getByText('DCIM/100OCKHM/OCK_9975.JPG')).toBeVisible();
    await page.goto('/intake/slot-2');
    await page.getByRole('textbox', { name: 'Shoot' }).fill('Press night again');
    await page.getByRole('button', { name: /to 2 drives and verify$/ }).click();
    await expect(page.getByText('What became of each file')).toBeVisible({ timeout: 60_000 });
    await expect(jobs(page)).toContainText('1 job needs attention');
    await jobs(page).click();
    const panel = page.getByRole('dialog', { name: 'Jobs' });
    await panel.getByRole('button', { name: 'Report: 1 file failed' }).click();
    const report = panel.getByRole('list', { name: 'Failed files' });
    await expect(report).toContainText('DCIM/100OCKHM/OCK_9975.JPG');
    await expect(report).toContainText(/cannot be read at bytes \d+–\d+ of \d+/);
    await accessible(page);
    await change(request, 'slots/slot-2', { unreadable: [] });
    await panel.getByRole('button', { name: 'Try the failed again' }).click();
    await expect(
      panel.getByRole('article', { name: 'Took in Press night again' }).getByText('72 of 72 files'),
    ).toBeVisible();
    // The button that had the focus is gone; the panel takes the focus back a moment later.
    await expect(async () => {
      await page.keyboard.press('Escape');
      await expect(panel).toHaveCount(0, { timeout: 500 });
    }).toPass();
    await expect(jobs(page)).not.toContainText('needs attention');
  });

  test('a card that holds nothing new asks nothing of a drive that cannot be written to', async ({
    page,
    request,
  }) => {
    await change(request, 'drives/backup', { state: 'read-only' });
    await page.goto('/intake/slot-2');
    await page.getByRole('textbox', { name: 'Shoot' }).fill('Once more');
    const backup = page.getByLabel(/^Backup drive · read-only/);
    await expect(backup).toBeDisabled();
    await page.getByRole('button', { name: /and verify$/ }).click();
    await expect(page.getByRole('heading', { name: 'Nothing new on this card' })).toBeVisible({
      timeout: 60_000,
    });
    await change(request, 'drives/backup', { state: 'well' });
  });
});

test.describe('the contact sheet', () => {
  const sheet = (page: Page) => page.getByRole('listbox', { name: 'Contact sheet' });
  const frame = (page: Page, number: string) =>
    sheet(page).getByRole('option', { name: new RegExp(`^Frame ${number},`) });

  test.beforeEach(async ({ page }) => {
    await page.goto('/shoots');
    // On its title: on its strip a click opens the frame that is under it.
    await page
      .getByRole('link', { name: /Autumn catalogue/ })
      .getByText('Autumn catalogue')
      .click();
    await expect(page.getByText('frame 1 of 90')).toBeVisible();
    await page.keyboard.press('q');
    await expect(frame(page, '0001')).toBeVisible();
  });

  test('selects a range, takes single frames out and in, by mouse', async ({ page }) => {
    await frame(page, '0002').click();
    await frame(page, '0005').click({ modifiers: ['Shift'] });
    await expect(page.getByText('4 selected')).toBeVisible();
    await frame(page, '0003').click({ modifiers: ['Control'] });
    await expect(page.getByText('3 selected')).toBeVisible();
    await expect(frame(page, '0003')).toHaveAttribute('aria-selected', 'false');
    await frame(page, '0007').click({ modifiers: ['Control'] });
    await expect(frame(page, '0007')).toHaveAttribute('aria-selected', 'true');
    await page.keyboard.press('f');
    await expect(page.getByText('4 frames changed')).toBeVisible();
    await expect(sheet(page).getByRole('option', { name: /, keep,/ })).toHaveCount(4);
    await page.keyboard.press('Control+z');
    await expect(sheet(page).getByRole('option', { name: /, keep,/ })).toHaveCount(0);
  });

  test('selects by keys alone: on, back, by rows, and single frames far apart', async ({ page }) => {
    for (const key of ['Home', 'Shift+ArrowRight', 'Shift+ArrowRight']) await page.keyboard.press(key);
    await expect(page.getByText('3 selected')).toBeVisible();
    await page.keyboard.press('Shift+ArrowLeft');
    await expect(page.getByText('2 selected')).toBeVisible();
    await page.keyboard.press('Escape');
    await page.keyboard.press('Shift+ArrowDown');
    await expect(page.getByText(/^[5-9] selected$/)).toBeVisible();
    await page.keyboard.press('Escape');
    for (const key of ['Home', 'Control+ArrowRight', 'Control+ArrowRight', 'Space'])
      await page.keyboard.press(key);
    await expect(page.getByText('2 selected')).toBeVisible();
    await expect(frame(page, '0001')).toHaveAttribute('aria-selected', 'true');
    await expect(frame(page, '0002')).toHaveAttribute('aria-selected', 'false');
    await page.keyboard.press('Control+a');
    await expect(page.getByText('90 selected')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByText(/selected$/)).toHaveCount(0);
  });

  test('shows more or fewer thumbnails by keys and by the slider', async ({ page }) => {
    const across = async () => {
      const tops = await sheet(page)
        .getByRole('option')
        .evaluateAll((cells) => cells.map((cell) => Math.round(cell.getBoundingClientRect().top)));
      return tops.filter((top) => top === tops[0]).length;
    };
    const normal = await across();
    await page.keyboard.press('Minus');
    await page.keyboard.press('Minus');
    await expect.poll(across).toBeGreaterThan(normal);
    await page.keyboard.press('Equal');
    await page.keyboard.press('Equal');
    await expect.poll(across).toBe(normal);
    const slider = page.getByRole('slider', { name: 'Thumbnail size' });
    await slider.focus();
    await page.keyboard.press('End');
    await expect.poll(across).toBeLessThan(normal);
    await accessible(page);
  });

  test('lays takes on a common line, and single view shows the take beside the picture', async ({ page }) => {
    await expect(sheet(page).locator('[data-take=first]').first()).toBeVisible();
    await compared(page, /shoots\/([0-9A-Z]+)\//.exec(page.url())![1]!);
    await page.keyboard.press('Home');
    await page.keyboard.press('w');
    const take = page.getByRole('complementary', { name: 'Take' });
    // One bowl: three exposures, and closer twice.
    await expect(take.getByRole('listitem')).toHaveCount(7);
    await expect(take.getByText('1 of 7')).toBeVisible();
    await take.getByRole('button', { name: /^Frame 0002/ }).click();
    await expect(page.getByText('frame 2 of 90')).toBeVisible();
    await page.keyboard.press('ArrowDown');
    await expect(page.getByText('frame 8 of 90')).toBeVisible();
    await page.keyboard.press('ArrowUp');
    await expect(page.getByText('frame 1 of 90')).toBeVisible();
    await accessible(page);
    await page.keyboard.press('j');
    await expect(take).toBeHidden();
    await page.keyboard.press('j');
    await expect(take).toBeVisible();
  });
});

test.describe('Shoots', () => {
  test('has a time line by year and month, and finds by title, client, place and date', async ({ page }) => {
    await page.goto('/shoots');
    const line = page.getByRole('navigation', { name: 'Time line' });
    await expect(line.getByRole('button', { name: /^Sept 2026: 1 shoot, 90 frames$/ })).toBeVisible();
    await expect(line.getByRole('button', { name: /^Feb 2026: 0 shoots/ })).toBeDisabled();
    await line.getByRole('button', { name: /^Sept 2026/ }).click();
    await expect(page.getByRole('link', { name: /Autumn catalogue/ })).toBeFocused();
    const search = page.getByLabel('Title, client or place');
    await search.fill('autumn 2026-09');
    await expect(page.getByRole('link', { name: /frames/ })).toHaveCount(1);
    await search.fill('autumn mill');
    await expect(page.getByText(/has “autumn mill” in its title, client or place/)).toBeVisible();
    await search.press('Escape');
    await expect(page.getByRole('link', { name: /Press night/ }).first()).toBeVisible();
    await accessible(page);
  });
});

test.describe('the look', () => {
  test('shows each part, and axe finds nothing in any state', async ({ page }) => {
    await page.goto('/look');
    await expect(page.getByRole('heading', { name: 'The look' })).toBeVisible();
    await expect(page.getByText('Copying Press night: waiting')).toBeVisible();
    await accessible(page);
  });
});
