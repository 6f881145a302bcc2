import { execFileSync } from 'node:child_process';
import { expect, test, type Page } from './test';
import { accessible } from './accessible';

const marks = (page: Page) => page.getByTestId('marks');
const press = async (page: Page, ...keys: string[]) => {
  for (const key of keys) await page.keyboard.press(key);
};

test('a photographer takes a card in, culls it by keys, hands it off and delivers', async ({ page }) => {
  const problems: string[] = [];
  page.on('pageerror', (error) => problems.push(String(error)));
  page.on('console', (message) => message.type() === 'error' && problems.push(message.text()));
  const outside: string[] = [];
  page.on(
    'request',
    (request) =>
      !request.url().startsWith('http://127.0.0.1:') &&
      !/^(data|blob):/.test(request.url()) &&
      outside.push(request.url()),
  );

  await test.step('Desk: a card is in the reader', async () => {
    await page.goto('/');
    await expect(page.getByText('press-night-a').first()).toBeVisible();
    await accessible(page);
    await page.getByRole('link', { name: 'Take in' }).click();
  });

  await test.step('Intake: where each file goes is shown before anything happens', async () => {
    await expect(page.getByText('57 frames · 72 files')).toBeVisible();
    // A title is proposed, and nothing is red before something was entered.
    await expect(page.getByRole('textbox', { name: 'Shoot' })).toHaveValue('press-night-a');
    await expect(page.getByRole('alert')).toHaveCount(0);
    await page.getByRole('textbox', { name: 'Shoot' }).fill('');
    await expect(page.getByRole('alert')).toContainText('The shoot has no title');
    await expect(page.getByText('To begin: give the shoot a title.')).toBeVisible();
    await page.getByRole('textbox', { name: 'Shoot' }).fill('Press night');
    await page.getByLabel('Client').fill('Lantern Row Puppets');
    await page.getByLabel('Place').fill('Mill Stage');
    await expect(
      page.getByText('→ 2026/2026-10-16_press-night/originals/press-night_20261016_0001.dng'),
    ).toBeVisible();
    await accessible(page);
    await page.getByRole('button', { name: 'Names and folders …' }).click();
    const dialog = page.getByRole('dialog', { name: 'Names and folders' });
    await dialog.getByLabel('Name pattern', { exact: true }).fill('{shoot}_{nope}');
    await expect(dialog.getByText(/“nope”, which does not exist/).first()).toBeVisible();
    await expect(dialog.getByRole('button', { name: 'Use for this card' })).toBeDisabled();
    await dialog.getByLabel('Name pattern', { exact: true }).fill('{shoot}_{capture:yyyyMMdd}_{seq:4}');
    await accessible(page);
    await dialog.getByRole('button', { name: 'Use for this card' }).click();
    await page.getByRole('button', { name: /^Copy 72 files, .* to 2 drives and verify$/ }).click();
  });

  await test.step('Receipt: all copies are proven, and the card is safe to clear', async () => {
    await expect(page.getByRole('heading', { name: 'Press night is taken in' })).toBeVisible({
      timeout: 60_000,
    });
    await expect(page.getByText('72 files copied to Working drive and Backup drive')).toBeVisible();
    await expect(page.getByText('Safe to clear')).toBeVisible();
    await accessible(page);
    await page.getByRole('button', { name: 'Eject press-night-a' }).click();
    await expect(page.getByText('is not in the reader any more')).toBeVisible();
    await page.getByRole('link', { name: 'Cull 57 frames' }).click();
  });

  await test.step('Cull: single view, by keys alone', async () => {
    await expect(page.getByTestId('stage').locator('img')).toHaveAttribute('alt', 'Frame 0001');
    await expect(page.getByTestId('stage').locator('img')).toHaveAttribute('data-quality', 'screen');
    await expect(page.getByTestId('detail')).toContainText('full detail');
    await accessible(page);
    await press(page, 'ArrowRight', 'f', '4');
    await expect(marks(page)).toHaveText(/keep\s*4★/);
    await press(page, 'ArrowRight', 'd');
    await expect(marks(page)).toHaveText('reject');
    await press(page, 'Control+z');
    await expect(marks(page)).toHaveText('undecided');
    await press(page, 'Control+Shift+z');
    await expect(marks(page)).toHaveText('reject');
    await press(page, 'l', '3');
    await expect(marks(page)).toHaveText(/reject\s*M\s*Moss/);
    // Stepping on after each mark: one key a frame.
    await press(page, 'a', 'ArrowRight', 'f', 'f', 'd', 'a');
    await expect(page.getByText('7 of 57')).toBeVisible();
    await expect(page.getByRole('link', { name: /Cull/ })).toContainText('52 left');
    await expect(page.getByRole('link', { name: /Hand-off/ })).toContainText('3');
  });

  await test.step('Cull: marks last, also when the page is loaded anew', async () => {
    await page.waitForTimeout(200);
    await page.reload();
    await expect(page.getByText('7 of 57')).toBeVisible();
    await press(page, 'Home', 'ArrowRight');
    await expect(marks(page)).toHaveText(/keep\s*4★/);
  });

  await test.step('Cull: contact sheet, selection and filter', async () => {
    await press(page, 'q');
    const sheet = page.getByRole('listbox', { name: 'Contact sheet' });
    await expect(sheet.getByRole('option', { name: 'Frame 0003, reject, 0 stars' })).toBeVisible();
    await accessible(page);
    await sheet.getByRole('option', { name: /Frame 0009/ }).click();
    await sheet.getByRole('option', { name: /Frame 0011/ }).click({ modifiers: ['Shift'] });
    await expect(page.getByText('3 selected')).toBeVisible();
    await press(page, '2');
    await expect(page.getByText('3 frames changed')).toBeVisible();
    await press(page, 'Control+z');
    await expect(sheet.getByRole('option', { name: 'Frame 0010, undecided, 0 stars' })).toBeVisible();
    await press(page, '/');
    await page.getByRole('button', { name: /^keep 3$/ }).click();
    await expect(sheet.getByRole('option')).toHaveCount(3);
    await accessible(page);
    await page.getByRole('button', { name: /^5★ 0$/ }).click();
    await expect(page.getByText('All 57 frames are hidden by: keep, exactly 5★.')).toBeVisible();
    await press(page, 'Backspace', 'h');
    await expect(page.getByText('of 57').first()).toBeVisible();
  });

  await test.step('Cull: all keys are listed', async () => {
    await press(page, 'Shift+Slash');
    await expect(page.getByRole('dialog')).toContainText('step on after marking');
    await accessible(page);
    await press(page, 'Escape');
  });

  await test.step('Hand-off: said before, proven after', async () => {
    await page.getByRole('link', { name: /Hand-off/ }).click();
    await expect(page.getByText(/3 keepers, 7 files, .* will be copied to Edit drive/)).toBeVisible();
    await accessible(page);
    await page.getByRole('button', { name: 'Copy 3 keepers to Edit drive' }).click();
    await expect(page.getByText('all 7 verified')).toBeVisible();
  });

  await test.step('Deliver: finished JPEGs and a zip that outside tools accept', async () => {
    await page.getByRole('link', { name: /Deliver/ }).click();
    await page.getByRole('button', { name: 'Change “Web 2,000 px”' }).click();
    const spec = page.getByRole('dialog', { name: 'Output spec “Web 2,000 px”' });
    await spec.getByLabel('Pixels', { exact: true }).fill('300');
    await accessible(page);
    await spec.getByRole('button', { name: 'Keep' }).click();
    await expect(
      page.getByRole('group', { name: 'How its files are made' }).getByText(/long side 300 px/),
    ).toBeVisible();
    await expect(page.getByText(/3 files of 3 keepers, about \d+/)).toBeVisible();
    await expect(
      page.getByText('press-night_001.jpg · press-night_002.jpg · press-night_003.jpg'),
    ).toBeVisible();
    await accessible(page);
    await page.getByRole('button', { name: 'Make 3 files and the zip' }).click();
    const link = page.getByRole('link', { name: /Download zip/ });
    await expect(link).toBeVisible();
    const [download] = await Promise.all([page.waitForEvent('download'), link.click()]);
    expect(download.suggestedFilename()).toBe('web-set.zip');
    const listing = execFileSync('unzip', ['-t', await download.path()], { encoding: 'utf8' });
    expect(listing).toContain('web-set/press-night_003.jpg');
    expect(listing).toContain('No errors detected');
  });

  await test.step('Shoots: found by its place', async () => {
    await page.getByRole('link', { name: /^Shoots/ }).click();
    await page.getByLabel('Title, client or place').fill('mill');
    await expect(page.getByText('57 frames · 3 keepers · 2 rejects')).toBeVisible();
    await accessible(page);
  });

  expect(problems).toEqual([]);
  expect(outside).toEqual([]);
});

test('two windows see each other’s marks', async ({ context }) => {
  const one = await context.newPage();
  const two = await context.newPage();
  await one.goto('/shoots');
  await one.getByText('Press night').first().click();
  await two.goto(one.url());
  // A key that comes before the frames means none of them.
  for (const page of [one, two]) await expect(page.getByText(/^frame \d+ of \d+$/).first()).toBeVisible();
  await press(one, 'w', 'End', '5');
  await expect(marks(one)).toHaveText(/5★/);
  await press(two, 'w', 'End');
  await expect(marks(two)).toHaveText(/5★/);
});
