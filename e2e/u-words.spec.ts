import { expect, test, type Page } from './test';
import { accessible } from './accessible';
import { cells, columnsOf, enterUnmarked, position } from './cullPage';

// Keywords and captions as hands give them: to one frame, to many, found again, and taken back.
test.describe('keywords and captions', () => {
  let shootId: string;
  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as { id: string; frames: number }[];
    shootId = shoots.find(({ frames }) => frames >= 20)!.id;
  });
  const words = async (page: Page) => {
    const { keywords, caption } = await columnsOf(page, shootId);
    return (keywords as string[]).flatMap((its, i) =>
      its === '' && caption![i] === null ? [] : [[its.split('\n').join(','), caption![i]]],
    );
  };

  test('are given by keys to what is selected, shown where they differ, filtered by, and undone', async ({
    page,
  }) => {
    await enterUnmarked(page, shootId);
    await page.keyboard.press('q');
    await cells(page).nth(1).click();
    await cells(page)
      .nth(3)
      .click({ modifiers: ['Shift'] });
    await page.keyboard.press('Shift+E');
    const keywords = page.getByRole('textbox', { name: 'Keywords, parted by commas' });
    await expect(keywords).toBeFocused();
    // Keys are letters here, and mark nothing.
    await page.keyboard.type('stage, full moon');
    await page.keyboard.press('Tab');
    await page.keyboard.press('Tab');
    await page.getByRole('textbox', { name: 'Caption' }).fill('Before the first bell');
    await page.keyboard.press('Enter');
    await expect(keywords).toBeHidden();
    await expect.poll(() => words(page)).toEqual(Array(3).fill(['stage,full moon', 'Before the first bell']));
    expect(new Set((await columnsOf(page, shootId)).verdict)).toEqual(new Set(['undecided']));
    // One more frame that has none of it: what some have comes to all by a click, what all have goes by two.
    await cells(page)
      .nth(4)
      .click({ modifiers: ['Control'] });
    await page.keyboard.press('Shift+E');
    await accessible(page);
    await expect(page.getByPlaceholder(/^not the same in all 4/)).toBeVisible();
    await page.getByRole('button', { name: 'stage 3 of 4' }).click();
    await page.getByRole('button', { name: 'full moon 3 of 4' }).click();
    await page.getByRole('button', { name: 'full moon to all' }).click();
    await page.getByRole('button', { name: 'Write' }).click();
    await expect
      .poll(() => words(page))
      .toEqual([...Array(3).fill(['stage', 'Before the first bell']), ['stage', null]]);
    // The drawer knows it at once, and so does its field for words.
    await page.keyboard.press('h');
    const section = page.locator('details').filter({ hasText: 'Keywords' });
    await section.locator('summary').click();
    await section.getByRole('button', { name: /^stage/ }).click();
    await expect(cells(page)).toHaveCount(4);
    await page.reload();
    await expect(cells(page)).toHaveCount(4);
    // What was typed before comes back by one key.
    await page.keyboard.press('Shift+E');
    await page.keyboard.press('ArrowUp');
    await expect(keywords).toHaveValue('stage, full moon');
    await page.keyboard.press('ArrowDown');
    await expect(keywords).toHaveValue('');
    await page.keyboard.press('Escape');
    await expect(keywords).toBeHidden();
    await page.keyboard.press('Backspace');
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await expect.poll(() => words(page)).toEqual([]);
    await expect(position(page)).toBeVisible();
  });
});
