import { expect, test, type Page } from './test';

// As hands do it: a click first, then the keys.
test.describe('keys of Cull belong to the screen', () => {
  let shootId: string;
  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as { id: string; frames: number }[];
    shootId = shoots.find(({ frames }) => frames >= 20)!.id;
  });
  test.beforeEach(async ({ page }) => {
    await page.goto(`/shoots/${shootId}/cull`);
    await expect(position(page)).toBeVisible();
    await page.keyboard.press('w');
    await page.keyboard.press('Home');
    await expect(position(page)).toHaveText(/^frame 1 of /);
  });

  const position = (page: Page) => page.getByText(/^frame \d+ of \d+$/).first();
  /** An arrow moves, a letter and a digit mark, and all is taken back. */
  const keysWork = async (page: Page) => {
    const before = Number(/\d+/.exec((await position(page).textContent())!)![0]);
    await page.keyboard.press('ArrowRight');
    await expect(position(page)).toHaveText(new RegExp(`^frame ${before + 1} of `));
    await page.keyboard.press('3');
    await expect(page.getByTestId('marks')).toContainText('★');
    await page.keyboard.press('Control+z');
    await page.keyboard.press('ArrowLeft');
    await expect(position(page)).toHaveText(new RegExp(`^frame ${before} of `));
  };

  test('after a click on the time strip', async ({ page }) => {
    const strip = page.getByRole('slider', { name: 'Time of the shoot' });
    const box = (await strip.boundingBox())!;
    await page.mouse.click(box.x + 20, box.y + 30);
    await keysWork(page);
  });

  test('after the thumbnails’ size was drawn', async ({ page }) => {
    await page.keyboard.press('q');
    const slider = page.getByRole('slider', { name: 'Thumbnail size' });
    const box = (await slider.locator('..').boundingBox())!;
    await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
    await keysWork(page);
    // Come to by keys, the slider keeps its own.
    await slider.focus();
    await page.keyboard.press('Tab');
    await page.keyboard.press('Shift+Tab');
    await expect(slider).toBeFocused();
    const size = await slider.getAttribute('aria-valuenow');
    await page.keyboard.press('ArrowRight');
    await expect(slider).not.toHaveAttribute('aria-valuenow', size!);
    await expect(position(page)).toHaveText(/^frame 1 of /);
  });

  test('after choices in the filter, and after leaving a field by Escape', async ({ page }) => {
    await page.keyboard.press('h');
    await page.getByRole('radio', { name: 'at least' }).click();
    await page.getByRole('button', { name: /^no stars/ }).click();
    await keysWork(page);
    const field = page.getByLabel('Words and facts, as in Find');
    await field.click();
    await page.keyboard.type('3');
    await expect(field).toHaveValue('3');
    await field.fill('');
    await page.keyboard.press('Escape');
    await expect(field).not.toBeFocused();
    await keysWork(page);
    await page.getByRole('button', { name: /^Show all \d/ }).click();
    await page.keyboard.press('h');
  });

  test('entered by the job line, and after Jobs was closed', async ({ page }) => {
    await page.getByRole('link', { name: /^Files/ }).click();
    await page.getByRole('link', { name: /^Cull/ }).click();
    await expect(position(page)).toBeVisible();
    await keysWork(page);
    await page.getByRole('button', { name: /Jobs|job/ }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toBeHidden();
    await keysWork(page);
  });
});
