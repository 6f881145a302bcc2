import { expect, test, type Page } from './test';
import { accessible } from './accessible';
import { cells } from './cullPage';

// Albums as hands make and use them: filled from Cull and Find, arranged, opened, moved into each other, kept as bookmarks.
test.describe('albums', () => {
  let shootId: string;

  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as { id: string; frames: number }[];
    shootId = shoots.find(({ frames }) => frames >= 20)!.id;
  });

  const numbers = (page: Page) =>
    cells(page).evaluateAll((all) => all.map((cell) => /Frame (\S+),/.exec(cell.ariaLabel ?? '')?.[1]));
  const status = (page: Page, words: string | RegExp) =>
    expect(page.getByRole('status').filter({ hasText: words }).first()).toBeVisible();
  const rows = (page: Page) => page.getByRole('tree', { name: 'Albums' }).getByRole('treeitem');

  test('are filled by keys in Cull, arranged and emptied in their own screen, and gone through as they are arranged', async ({
    page,
  }) => {
    await page.goto(`/shoots/${shootId}/cull?view=sheet`);
    await expect(cells(page).first()).toBeVisible();
    await cells(page).nth(1).click();
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('Alt+Shift+V');
    await page.keyboard.type('Wall of the harbour');
    await status(page, 'makes the album “Wall of the harbour” and puts 3 frames in');
    await page.keyboard.press('Enter');
    await status(page, '3 frames into the album “Wall of the harbour”');
    // The album goes along: one more key puts one more frame in.
    await page.keyboard.press('Escape');
    await cells(page).nth(5).click();
    await page.keyboard.press('Alt+V');
    await status(page, '1 frame into the album');
    const shot = await numbers(page);

    await page.getByRole('link', { name: 'Albums' }).click();
    await expect(rows(page).filter({ hasText: 'Wall of the harbour' })).toContainText('4 frames');
    await accessible(page);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { name: 'Wall of the harbour' })).toBeVisible();
    await expect(cells(page)).toHaveCount(4);
    const [a, b, c, d] = [shot[1], shot[2], shot[3], shot[5]];
    expect(await numbers(page)).toEqual([a, b, c, d]);
    await accessible(page);

    await cells(page).first().click();
    await page.keyboard.press('.');
    await expect.poll(() => numbers(page)).toEqual([b, a, c, d]);
    // A mouse takes the last one to the front.
    await cells(page).nth(3).click();
    await cells(page).nth(3).dragTo(cells(page).first());
    await expect.poll(() => numbers(page)).toEqual([d, b, a, c]);
    await page.keyboard.press('Delete');
    await status(page, 'The frame stays in its shoot');
    await expect.poll(() => numbers(page)).toEqual([b, a, c]);
    await page.reload();
    await expect.poll(() => numbers(page)).toEqual([b, a, c]);
    await page.keyboard.press('Control+z');
    await expect.poll(() => numbers(page)).toEqual([d, b, a, c]);

    await cells(page).first().click();
    await page.keyboard.press('Enter');
    await expect(page.getByText('Album “Wall of the harbour”: 4 frames.')).toBeVisible();
    await page.keyboard.press('q');
    await expect(cells(page)).toHaveCount(4);
    expect(await numbers(page)).toEqual([d, b, a, c]);
    await page.getByRole('link', { name: 'Back to the album' }).click();
    await expect(page.getByRole('heading', { name: 'Wall of the harbour' })).toBeVisible();
    // All of them are in the shoot still.
    await page.goto(`/shoots/${shootId}/cull?view=sheet`);
    await expect.poll(() => numbers(page)).toEqual(expect.arrayContaining([a, b, c, d]));
  });

  test('are filled by a rule that is tried while it is typed, and stay live', async ({ page }) => {
    await page.goto('/albums');
    await page.getByRole('button', { name: 'New album …' }).click();
    await page.getByLabel('Name', { exact: true }).fill('Harbour by rule');
    await page.getByLabel(/By a rule/).click();
    const rule = page.getByLabel('Rule: words and facts, as in Find');
    await rule.fill('album:nowhere');
    await expect(page.getByText('No album is called “nowhere”.')).toBeVisible();
    await rule.fill('album:"wall of"');
    // Rejects are left out of what a rule finds, as in Find.
    const now = page.getByText(/^\d frames? now$/);
    await expect(now).toBeVisible();
    const holds = (await now.textContent())!.replace(' now', '');
    const count = Number(holds[0]);
    await page.getByRole('button', { name: 'Make it' }).click();
    const row = rows(page).filter({ hasText: 'Harbour by rule' });
    await expect(row).toContainText(`${holds} · by its rule: album:"wall of"`);
    await row.getByText('Harbour by rule').click();
    await expect(cells(page)).toHaveCount(count);
    await cells(page).first().click();
    await page.keyboard.press('Delete');
    await status(page, 'is filled by its rule: change that instead');
    await expect(cells(page)).toHaveCount(count);
  });

  test('stand in each other by keys and by hand, are taken away and brought back', async ({ page }) => {
    await page.goto('/albums');
    for (const name of ['Birds of the year', 'Prints to order']) {
      await page.getByRole('button', { name: 'New album …' }).click();
      await page.getByLabel('Name', { exact: true }).fill(name);
      await page.keyboard.press('Enter');
      await expect(rows(page).filter({ hasText: name })).toBeVisible();
    }
    const level = (name: string) => rows(page).filter({ hasText: name }).getAttribute('aria-level');
    // The new one is stood at: into the one above it.
    await page.getByRole('tree', { name: 'Albums' }).focus();
    await page.keyboard.press('Control+ArrowRight');
    await expect.poll(() => level('Prints to order')).toBe('2');
    await page.keyboard.press('Control+ArrowLeft');
    await expect.poll(() => level('Prints to order')).toBe('1');
    await rows(page)
      .filter({ hasText: 'Wall of the harbour' })
      .dragTo(rows(page).filter({ hasText: 'Birds of the year' }));
    await expect.poll(() => level('Wall of the harbour')).toBe('2');
    // What stands above shows what is below it.
    await expect(rows(page).filter({ hasText: 'Birds of the year' })).toContainText('4 frames');
    await rows(page).filter({ hasText: 'Birds of the year' }).click();
    await page.keyboard.press('Delete');
    await expect(rows(page).filter({ hasText: 'Birds of the year' })).toHaveCount(0);
    await page.getByRole('button', { name: 'Bring “Birds of the year” back' }).click();
    await expect.poll(() => level('Wall of the harbour')).toBe('2');
    await rows(page).getByText('Birds of the year').click();
    await expect(page.getByRole('listbox', { name: 'What was found' })).toContainText('Wall of the harbour');
    await page.getByRole('link', { name: 'Wall of the harbour' }).click();
    await expect(page.getByRole('navigation', { name: 'Where it stands' })).toContainText(
      'Birds of the year',
    );
  });

  test('come in as a list of names, with those that nobody knows named', async ({ page, request }) => {
    const answer = await request.get(`/api/shoots/${shootId}/frames`);
    const { name } = ((await answer.json()) as { columns: { name: string[] } }).columns;
    await page.goto('/albums');
    await page.getByRole('button', { name: 'Bring in …' }).click();
    await page.getByLabel('A file of albums').setInputFiles({
      ...{ name: 'Client’s choice.txt', mimeType: 'text/plain' },
      buffer: Buffer.from(`${name[2]}.jpg\nnowhere_0007.jpg\n${name[0]}\n`),
    });
    await status(page, '2 frames in 1 album. No picture is touched.');
    await page.getByText('No frame here has these names: 1').click();
    await expect(page.getByText('nowhere_0007.jpg').last()).toBeVisible();
    await page.getByRole('button', { name: 'Bring them in' }).click();
    await expect(rows(page).filter({ hasText: 'Client’s choice' })).toContainText('2 frames');
    // A table says more: what it says is shown before, and what is not taken over.
    await page.getByRole('button', { name: 'Bring in …' }).click();
    await page.getByLabel('A file of albums').setInputFiles({
      ...{ name: 'prints.csv', mimeType: 'text/csv' },
      buffer: Buffer.from(`file,keywords,collection,paper\n${name[2]}.jpg,from a table,Prints of May,matt\n`),
    });
    await status(
      page,
      '1 frame in 1 album. 1 frame with new marks, which can be undone. No picture is touched.',
    );
    await page.getByText('Not taken over: 1').click();
    await expect(page.getByText('column “paper”')).toBeVisible();
    await accessible(page);
    await page.keyboard.press('Escape');
  });

  test('are kept as bookmarks beside shoots and searches, a key and a digit away from any screen', async ({
    page,
  }) => {
    await page.goto('/albums');
    await rows(page).getByText('Wall of the harbour').click();
    await expect(cells(page)).toHaveCount(4);
    await page.keyboard.press('Alt+m');
    const dialog = page.getByRole('dialog', { name: 'Bookmarks' });
    await expect(dialog.getByLabel('Keep this place as')).toHaveValue('Album · Wall of the harbour');
    await dialog.getByRole('button', { name: 'Keep', exact: true }).click();
    await expect(dialog.getByRole('button', { name: /1 Album · Wall of the harbour/ })).toBeVisible();
    await accessible(page);
    await page.keyboard.press('Escape');
    // From within Cull, with a hand that has just clicked.
    await page.goto(`/shoots/${shootId}/cull?view=sheet`);
    await cells(page).nth(2).click();
    await page.keyboard.press('Alt+m');
    await page.keyboard.press('1');
    await expect(page.getByRole('heading', { name: 'Wall of the harbour' })).toBeVisible();
    await page.goBack();
    await expect(page).toHaveURL(new RegExp(`/shoots/${shootId}/cull`));
  });
});
