import { expect, test, type Page } from './test';
import { accessible } from './accessible';
import { columnsOf } from './cullPage';

// What is said of frames, written as hands write it: one by one, many at once, in a table, by a template.
test.describe('describing', () => {
  test.beforeEach(({ context }) => context.grantPermissions(['clipboard-read', 'clipboard-write']));
  let shootId: string;
  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as { id: string; frames: number }[];
    shootId = shoots.find(({ frames }) => frames >= 20)!.id;
  });
  const frames = (page: Page) =>
    page.getByRole('listbox', { name: 'Frames that are described' }).getByRole('option');
  const field = (page: Page, label: string) => page.getByRole('textbox', { name: label, exact: true });
  /** The key that takes the hand into a field, and the field that has it then. */
  const enter = async (page: Page, key: string, name: string) => {
    await page.keyboard.press(key);
    await expect(page.locator(`[data-field="${name}"]`)).toBeFocused();
  };
  /** What the first frames say in a column, by the server. */
  const said = async (page: Page, column: keyof Awaited<ReturnType<typeof columnsOf>>, n = 4) =>
    (await columnsOf(page, shootId))[column].slice(0, n);
  const undoAll = async (page: Page, steps: number) => {
    for (let i = 0; i < steps; i++) {
      await page.keyboard.press('Control+z');
      await expect(page.getByText(/^Undone/)).toBeVisible();
    }
  };

  test('by keys: captions go from frame to frame, words to many, and each step is taken back', async ({
    page,
  }) => {
    await page.goto(`/shoots/${shootId}/cull`);
    await page.getByRole('link', { name: 'Describe' }).click();
    await page.getByRole('button', { name: /^All/ }).click();
    await expect(frames(page).first()).toBeVisible();
    await accessible(page);
    await page.keyboard.press('Home');
    await page.keyboard.press('Enter');
    await expect(field(page, 'Caption')).toBeFocused();
    await page.keyboard.type('First light');
    await page.keyboard.press('Control+Enter');
    await expect(field(page, 'Caption')).toHaveValue('');
    await expect(field(page, 'Caption')).toBeFocused();
    await page.keyboard.type('Second call');
    await page.keyboard.press('Control+Enter');
    await expect.poll(() => said(page, 'caption')).toEqual(['First light', 'Second call', null, null]);
    // What is typed and left by Escape is not written; the keys are the sheet's again.
    await expect(field(page, 'Caption')).toHaveValue('');
    await expect(field(page, 'Caption')).toBeFocused();
    await page.keyboard.type('never');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Home');
    for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowRight');
    await expect(page.getByPlaceholder('different in 2 frames')).toBeVisible();
    await enter(page, 'k', 'keywords');
    await page.keyboard.type('stage, lamp');
    await page.keyboard.press('Enter');
    await expect.poll(() => said(page, 'keywords')).toEqual(Array(4).fill('stage\nlamp'));
    // Only what is empty is filled.
    await page.getByRole('button', { name: 'Only fill what is empty' }).click();
    await field(page, 'Caption').fill('House left');
    await expect(page.getByText('Fills 2 empty frames.')).toBeVisible();
    await page.keyboard.press('Tab');
    await expect
      .poll(() => said(page, 'caption'))
      .toEqual(['First light', 'Second call', 'House left', 'House left']);
    await page.getByRole('button', { name: 'lamp' }).click();
    await expect.poll(() => said(page, 'keywords')).toEqual(Array(4).fill('stage'));
    await page.getByRole('button', { name: 'Replace', exact: true }).click();
    await undoAll(page, 5);
    await expect.poll(() => said(page, 'caption')).toEqual(Array(4).fill(null));
    await expect.poll(() => said(page, 'keywords')).toEqual(Array(4).fill(''));
  });

  test('by mouse: a click, a range and single ones, a place for all of them, and the picture large', async ({
    page,
  }) => {
    await page.goto(`/shoots/${shootId}/describe?show=all`);
    await frames(page).nth(1).click();
    await frames(page)
      .nth(3)
      .click({ modifiers: ['Shift'] });
    await frames(page)
      .nth(2)
      .click({ modifiers: ['Control'] });
    await expect(page.getByText('2 frames', { exact: false }).first()).toBeVisible();
    await field(page, 'City').fill('Hafen');
    await field(page, 'Country').click();
    const hafen = '{"city":"Hafen"}';
    await expect.poll(() => said(page, 'texts')).toEqual(['', hafen, '', hafen]);
    await frames(page).nth(1).dblclick();
    await expect(page.getByText('2 of')).toBeVisible();
    await expect(field(page, 'City')).toHaveValue('Hafen');
    // The address holds the view: a reload shows it again.
    await page.reload();
    await expect(page.getByRole('img', { name: /^Frame/ })).toBeVisible();
    await accessible(page);
    await page.keyboard.press('Control+z');
    await expect.poll(() => said(page, 'texts')).toEqual(Array(4).fill(''));
  });

  test('in a table: cells are typed, filled down, sorted, pasted from a spreadsheet and handed back to it', async ({
    page,
  }) => {
    await page.goto(`/shoots/${shootId}/describe?show=all&view=table`);
    const grid = page.getByRole('grid');
    await expect(grid).toBeFocused();
    await accessible(page);
    await page.keyboard.type('Curtain');
    await page.keyboard.press('Enter');
    await page.keyboard.press('ArrowUp');
    await page.keyboard.press('Shift+ArrowDown');
    await page.keyboard.press('Shift+ArrowDown');
    await page.keyboard.press('Control+d');
    await expect.poll(() => said(page, 'caption')).toEqual(['Curtain', 'Curtain', 'Curtain', null]);
    // Three columns of two rows, as a spreadsheet gives them.
    await page.evaluate(() =>
      navigator.clipboard.writeText('Bows\tAna Pinto\tstage, bow\r\n"Two\nlines"\t\tlamp\r\n'),
    );
    await page.keyboard.press('Control+Home');
    await page.keyboard.press('Control+v');
    await expect.poll(() => said(page, 'caption')).toEqual(['Bows', 'Two\nlines', 'Curtain', null]);
    expect(await said(page, 'persons')).toEqual(['Ana Pinto', '', '', '']);
    expect(await said(page, 'keywords')).toEqual(['stage\nbow', 'lamp', '', '']);
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('Control+c');
    expect(await page.evaluate(() => navigator.clipboard.readText())).toBe('Bows\tAna Pinto');
    // Sorted by captions, backwards: those that say something come first.
    await grid.getByRole('button', { name: 'Caption' }).click();
    await grid.getByRole('button', { name: 'Caption' }).click();
    await expect(grid.getByRole('columnheader', { name: 'Caption' })).toHaveAttribute('aria-sort', /.+/);
    // A double click writes into a cell; Escape leaves it as it was.
    await grid.getByRole('gridcell', { name: 'Bows' }).dblclick();
    await page.keyboard.type(' and more');
    await page.keyboard.press('Escape');
    await expect(grid.getByRole('gridcell', { name: 'Bows', exact: true })).toBeVisible();
    await expect(grid).toBeFocused();
    await page.keyboard.press('Delete');
    await expect.poll(() => said(page, 'caption')).toEqual([null, 'Two\nlines', 'Curtain', null]);
    // The rows of a range are what templates and find and replace are about.
    await page.keyboard.press('Control+Home');
    await page.keyboard.press('Shift+ArrowDown');
    await page.getByRole('button', { name: 'Template …' }).click();
    await expect(page.getByRole('dialog', { name: 'Template on 2 frames' })).toBeVisible();
    await page.keyboard.press('Escape');
    await undoAll(page, 4);
    await expect.poll(() => said(page, 'caption')).toEqual(Array(4).fill(null));
    await expect.poll(() => said(page, 'keywords')).toEqual(Array(4).fill(''));
  });

  test('by a template and by find and replace: shown before and after, and undone as one step', async ({
    page,
    request,
  }) => {
    const before = (await (await request.get('/api/settings')).json()) as { templates: object[] };
    const template = {
      ...{
        id: '01J00000000000000000000DES',
        name: 'Night work',
        mode: 'fill',
        keywords: 'theatre',
        persons: '',
      },
      fields: { headline: '{shoot} {capture:yyyy}', credit: 'House' },
    };
    const settings = (templates: object[]) =>
      request.patch('/api/settings', { headers: { 'x-arkiv': '1' }, data: { templates } });
    expect((await settings([...before.templates, template])).ok()).toBe(true);
    await page.goto(`/shoots/${shootId}/describe?show=all`);
    await expect(frames(page).first()).toBeVisible();
    await page.keyboard.press('Home');
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('m');
    const dialog = page.getByRole('dialog', { name: 'Template on 2 frames' });
    await dialog.getByLabel('Template', { exact: true }).selectOption({ label: 'Night work' });
    await expect(dialog.getByRole('row')).toHaveCount(7);
    await accessible(page);
    await dialog.getByRole('button', { name: 'Write 6 changes into 2 frames' }).click();
    await expect.poll(() => said(page, 'keywords', 3)).toEqual(['theatre', 'theatre', '']);
    expect(JSON.parse((await said(page, 'texts', 1))[0] as string)).toMatchObject({ credit: 'House' });
    await page.keyboard.press('f');
    const replace = page.getByRole('dialog', { name: 'Find and replace in 2 frames' });
    await replace.getByLabel('Find').fill('house');
    await replace.getByLabel('Replace by').fill('Mill');
    await accessible(page);
    await expect(replace.getByRole('row')).toHaveCount(3);
    await page.keyboard.press('Enter');
    await expect
      .poll(async () =>
        (await said(page, 'texts', 2)).map((its) => (JSON.parse(its as string) as { credit: string }).credit),
      )
      .toEqual(['Mill', 'Mill']);
    await undoAll(page, 2);
    await expect.poll(() => said(page, 'texts', 2)).toEqual(['', '']);
    await settings(before.templates);
  });

  test('by the vocabulary: a term gives all above it, and frames follow when it is renamed, and back', async ({
    page,
  }) => {
    await page.goto('/vocabulary');
    await page.getByRole('button', { name: 'Bring in …' }).click();
    await page
      .getByRole('textbox', { name: 'Terms' })
      .fill('Stage\n\tset\n\t\t{scenery}\n\t\tpainted moon\n\tlamp\nPeople\n\tMila Vance  #person\n');
    await expect(page.getByText('6 new terms. Nothing is taken away.')).toBeVisible();
    await accessible(page);
    await page.getByRole('button', { name: 'Bring them in' }).click();
    const tree = page.getByRole('tree');
    await expect(tree.getByRole('treeitem')).toHaveCount(2);
    await accessible(page);
    // In Describe a part of a word offers the term with its place; a person is a keyword as well.
    await page.goto(`/shoots/${shootId}/describe?show=all`);
    await expect(frames(page).first()).toBeVisible();
    await enter(page, 'k', 'keywords');
    await page.keyboard.type('moon');
    await expect(page.getByRole('option', { name: 'painted moon Stage › set' })).toBeVisible();
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await expect.poll(() => said(page, 'keywords', 2)).toEqual(['painted moon\nset\nStage', '']);
    await page.keyboard.press('Escape');
    await enter(page, 'p', 'persons');
    await page.keyboard.type('mila vance');
    await page.keyboard.press('Enter');
    await expect.poll(() => said(page, 'persons', 1)).toEqual(['Mila Vance']);
    expect(await said(page, 'keywords', 1)).toEqual(['painted moon\nset\nStage\nMila Vance\nPeople']);
    // The tree by keys: opened, walked, and what is chosen renamed; it says first who follows.
    await page.goto('/vocabulary');
    await page.getByLabel('Filter by typing').fill('painted');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Rename' }).click();
    await page.getByLabel('New word').fill('moon flat');
    await expect(page.getByText('1 frame in 1 shoot follow.')).toBeVisible();
    await accessible(page);
    await page.keyboard.press('Enter');
    await expect(page.getByText(/renamed “moon flat”, 1 frame followed/)).toBeVisible();
    expect((await said(page, 'keywords', 1))[0]).toContain('moon flat');
    await page.getByRole('button', { name: 'Take it back' }).click();
    await expect.poll(async () => (await said(page, 'keywords', 1))[0]).toContain('painted moon');
    await page.getByLabel('Filter by typing').fill('');
    await tree.focus();
    await page.keyboard.press('Home');
    await page.keyboard.press('ArrowRight');
    await expect(tree.getByRole('treeitem', { name: 'Mila Vance' })).toBeVisible();
    await page.keyboard.press('ArrowRight');
    await expect(page.getByRole('heading', { name: 'Mila Vance' })).toBeVisible();
    await page.goto(`/shoots/${shootId}/describe?show=all`);
    await expect(frames(page).first()).toBeVisible();
    await undoAll(page, 4);
    await expect.poll(() => said(page, 'keywords', 1)).toEqual(['']);
  });

  test('by numbers: a list is kept under a term, a shoot uses it, and a number names who is shown', async ({
    page,
  }) => {
    await page.goto('/vocabulary');
    await page.getByLabel('New term at the top').fill('Harbour Rowers');
    await page.keyboard.press('Enter');
    await page.getByLabel('Filter by typing').fill('harbour r');
    await expect(page.getByRole('treeitem', { name: 'Harbour Rowers' })).toBeVisible();
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Numbered list' }).click();
    const list = page.getByLabel('A line each: the number, then the name');
    await list.fill('7 Ana Pinto\nBo');
    await expect(page.getByText('Line 2: a line is a number, a blank and a name')).toBeVisible();
    await list.fill('7 Ana Pinto\n12 Bo Lind');
    await page.getByRole('button', { name: 'Keep the list' }).click();
    await expect(page.getByText('list of “Harbour Rowers” changed')).toBeVisible();
    await page.goto(`/shoots/${shootId}/describe?show=all`);
    await expect(frames(page).first()).toBeVisible();
    await page.getByRole('combobox', { name: 'Numbered lists of this shoot' }).click();
    await page.getByRole('option', { name: 'Harbour Rowers' }).click();
    // The list is in use as soon as the server has it.
    await expect(page.locator('[data-field="roster"]')).toBeVisible();
    await page.keyboard.press('Escape');
    await frames(page).first().click();
    await enter(page, 'r', 'roster');
    await page.keyboard.type('7');
    await expect(page.getByRole('option', { name: '7 Ana Pinto Harbour Rowers' })).toBeVisible();
    await page.keyboard.press('Enter');
    await expect.poll(() => said(page, 'caption', 2)).toEqual(['Ana Pinto', null]);
    await page.keyboard.type('12');
    await page.keyboard.press('Enter');
    await expect.poll(() => said(page, 'caption', 1)).toEqual(['Ana Pinto, Bo Lind']);
    expect(await said(page, 'persons', 1)).toEqual(['Ana Pinto\nBo Lind']);
    expect(await said(page, 'keywords', 1)).toEqual(['Ana Pinto\nHarbour Rowers\nBo Lind']);
    await accessible(page);
    await page.keyboard.press('Escape');
    await undoAll(page, 2);
    await expect.poll(() => said(page, 'persons', 1)).toEqual(['']);
  });
});
