import { expect, test, type Page } from './test';
import { accessible } from './accessible';
import { keepSome } from './keepers';

// Keepers between culling and delivery, moved from stage to stage as hands do it.
test.describe('the stages of keepers', () => {
  let shootId: string;

  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as { id: string; frames: number }[];
    shootId = shoots.find(({ frames }) => frames >= 20)!.id;
    await keepSome(request, shootId);
  });

  const sheet = (page: Page) => page.getByRole('listbox', { name: 'Keepers by stage' });
  const cells = (page: Page) => sheet(page).getByRole('option');
  const bar = (page: Page) => page.getByRole('group', { name: /^Move .* to$/ });
  const counts = async (page: Page): Promise<number[]> => {
    const buttons = await bar(page).getByRole('button').allTextContents();
    return buttons.map((text) => Number(/(\d+)$/.exec(text)![1]));
  };
  const open = async (page: Page): Promise<number> => {
    await page.goto(`/shoots/${shootId}/handoff`);
    await expect(cells(page).first()).toBeVisible();
    const all = await counts(page);
    return all.reduce((sum, frames) => sum + frames, 0);
  };
  /** All keepers at the first stage, whatever other tests did. */
  test.beforeEach(async ({ page }) => {
    const keepers = await open(page);
    await page.keyboard.press('Control+a');
    if ((await counts(page))[0] !== keepers) await page.keyboard.press('1');
    await page.keyboard.press('Escape');
    await expect.poll(() => counts(page)).toEqual([keepers, 0, 0, 0]);
  });

  test('by keys: on and back, to a stage by its number, with a note; undone, and the same after a reload', async ({
    page,
  }) => {
    const [keepers] = await counts(page);
    await cells(page).first().click();
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('2');
    await expect(page.getByText('2 frames moved to “being edited”')).toBeVisible();
    await expect.poll(() => counts(page)).toEqual([keepers! - 2, 2, 0, 0]);
    await page.keyboard.press('Control+z');
    await expect.poll(() => counts(page)).toEqual([keepers, 0, 0, 0]);
    await page.keyboard.press('Control+Shift+z');
    await expect.poll(() => counts(page)).toEqual([keepers! - 2, 2, 0, 0]);
    // One of them goes on by a step, and back.
    await page.keyboard.press('End');
    await page.keyboard.press('.');
    await expect.poll(() => counts(page)).toEqual([keepers! - 2, 1, 1, 0]);
    await page.keyboard.press('End');
    await page.keyboard.press('n');
    await page.getByRole('textbox', { name: 'Note to whoever edits it' }).fill('brighter');
    await page.keyboard.press('Enter');
    await expect(cells(page).last()).toContainText('brighter');
    await accessible(page);
    await page.reload();
    await expect.poll(() => counts(page)).toEqual([keepers! - 2, 1, 1, 0]);
    // The header and the list of shoots say how many are left, and Find knows them by the studio's words.
    await page.keyboard.press('End');
    await page.keyboard.press('4');
    await expect(page.getByRole('link', { name: /^Hand-off/ })).toContainText(`${keepers! - 1} left`);
    await page.goto('/shoots');
    await expect(page.getByText(/1 being edited · 1 ready/).first()).toBeVisible();
    await page.goto('/find?q=stage%3Aready');
    await expect(page.getByRole('status').filter({ hasText: '1 frame' }).first()).toBeVisible();
    await page.goto(`/shoots/${shootId}/cull`);
    await expect(page.getByTestId('marks')).toBeVisible();
  });

  test('by mouse: chosen, taken to another heading, folded, and opened in Cull', async ({ page }) => {
    const [keepers] = await counts(page);
    await cells(page).first().click();
    await cells(page)
      .nth(1)
      .click({ modifiers: ['Control'] });
    await cells(page)
      .first()
      .dragTo(page.locator('[data-heading]', { hasText: 'nearly done' }));
    await expect.poll(() => counts(page)).toEqual([keepers! - 2, 0, 2, 0]);
    await page.locator('[data-heading]', { hasText: 'nearly done' }).click();
    await expect(cells(page)).toHaveCount(keepers! - 2);
    await page.locator('[data-heading]', { hasText: 'nearly done' }).click();
    await expect(cells(page)).toHaveCount(keepers!);
    await cells(page).last().click();
    await bar(page).getByRole('button', { name: /ready/ }).click();
    await expect.poll(() => counts(page)).toEqual([keepers! - 2, 0, 1, 1]);
    await cells(page).last().dblclick();
    await expect(page).toHaveURL(/cull\?view=single&frame=/);
    await expect(page.getByTestId('marks')).toContainText('ready');
    await page.goBack();
    await expect.poll(() => counts(page)).toEqual([keepers! - 2, 0, 1, 1]);
  });

  test('the studio words them, adds one, and ties one to a label', async ({ page }) => {
    await page.goto('/studio#stages');
    const name = page.getByLabel('Name of stage 4');
    await name.fill('to the client');
    await name.press('Enter');
    await expect(page.getByText('Kept.')).toBeVisible();
    await page.getByLabel('Name of stage 1').fill('to the client');
    await expect(page.getByText('Two stages are called “to the client”.')).toBeVisible();
    await page.getByLabel('Name of stage 1').press('Escape');
    await page.getByLabel('Another stage, behind the others').fill('printed');
    await page.getByRole('button', { name: 'Add', exact: true }).click();
    await expect(page.getByLabel('Name of stage 5')).toHaveValue('printed');
    await page.getByLabel('Label that says “printed”').selectOption('P');
    await accessible(page);
    await open(page);
    await cells(page).first().click();
    await page.keyboard.press('5');
    await expect.poll(async () => (await counts(page))[4]).toBe(1);
    // The label came with it.
    await expect(cells(page).last().getByText('P', { exact: true })).toBeVisible();
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await counts(page))[4]).toBe(0);
    await page.goto('/studio#stages');
    await page.getByRole('button', { name: 'As they came' }).click();
    await expect(page.getByLabel('Name of stage 5')).toHaveCount(0);
    await expect(name).toHaveValue('ready');
  });

  test('copies what is new or described since, and takes back what is no keeper any more', async ({
    page,
    request,
  }) => {
    const copies = page.getByRole('region', { name: 'Copies for editing' });
    await copies.getByRole('radio', { name: /^All of it/ }).check();
    await copies.getByRole('button', { name: /^Copy \d+ keepers/ }).click();
    // They have left the first stage by themselves.
    await expect.poll(async () => (await counts(page))[0], { timeout: 30_000 }).toBe(0);
    await expect(copies.getByText('Every keeper is there, as it is by now.')).toBeVisible();
    await accessible(page);
    // One is described afterwards: that alone is to be done.
    const columns = async () => {
      const answer = await request.get(`/api/shoots/${shootId}/frames`);
      return ((await answer.json()) as { columns: Record<'id' | 'name' | 'verdict', string[]> }).columns;
    };
    await cells(page).first().click();
    await page.keyboard.press('n');
    await page.getByRole('textbox', { name: 'Note to whoever edits it' }).fill('crop closer');
    await page.keyboard.press('Enter');
    await copies.getByRole('button', { name: 'Update 1 sidecar' }).click({ timeout: 20_000 });
    await expect(copies.getByText('Every keeper is there, as it is by now.')).toBeVisible({
      timeout: 20_000,
    });
    // Another one is kept no more, and its copies are taken back.
    const { id, name, verdict } = await columns();
    const last = verdict.lastIndexOf('keep');
    await page.goto(`/shoots/${shootId}/cull?view=single&frame=${id[last]}`);
    await expect(page.getByTestId('marks')).toContainText('keep');
    await page.keyboard.press('s');
    await expect(page.getByTestId('marks')).toContainText('undecided');
    await open(page);
    // Whatever an earlier hand-off has left there is named too.
    await expect(copies.getByText(new RegExp(`no keeper any more: .*${name[last]}`))).toBeVisible();
    await copies.getByRole('button', { name: /^Take \d+ frames? back, into the drive’s bin$/ }).click();
    await expect(copies.getByText('no keeper any more')).toHaveCount(0);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await columns()).verdict[last]).toBe('keep');
  });
});
