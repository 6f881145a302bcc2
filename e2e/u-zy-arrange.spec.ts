import { expect, test, type Page } from './test';
import { accessible } from './accessible';
import { cells, position } from './cullPage';
import { keepSome } from './keepers';

// Names and folders of some frames, and where their files lie, from Cull as hands do it.
test.describe('arranging', () => {
  let shoot: { id: string; title: string };

  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as {
      id: string;
      title: string;
      frames: number;
    }[];
    shoot = shoots.find(({ frames }) => frames >= 20)!;
  });

  const columns = async (page: Page) => {
    const answer = await page.request.get(`/api/shoots/${shoot.id}/frames`);
    return ((await answer.json()) as { columns: Record<'name' | 'lies', string[]> }).columns;
  };
  const dialog = (page: Page) => page.getByRole('dialog', { name: /^Names and folder/ });
  const open = async (page: Page, frame: number, more = 0) => {
    await page.goto(`/shoots/${shoot.id}/cull?view=sheet`);
    await expect(cells(page).first()).toBeVisible();
    await page.keyboard.press('Escape');
    await cells(page).nth(frame).click();
    for (let i = 0; i < more; i++) await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('F2');
    await expect(dialog(page)).toBeVisible();
  };
  /** Takes the last move back, so that other tests find the shoot as it was. */
  const undo = async (page: Page) => {
    const jobs = (await (await page.request.get('/api/jobs')).json()) as {
      id: string;
      deed: string | null;
    }[];
    const { id } = jobs.find(({ deed }) => deed === 'arrange')!;
    const headers = { 'x-arkiv': '1' };
    const { jobId } = (await (await page.request.post(`/api/moves/${id}/undo`, { headers })).json()) as {
      jobId: string;
    };
    await expect
      .poll(async () => {
        const report = await page.request.get(`/api/jobs/${jobId}`);
        return ((await report.json()) as { job: { state: string } }).job.state;
      })
      .toBe('done');
  };

  test('takes a selection into a folder, which a path line then walks', async ({ page }) => {
    await open(page, 1, 2);
    await page.getByText('Names stay').click();
    await page.getByText('Into a folder below the originals').click();
    await page.getByLabel('Folder; empty: the originals themselves').fill('proofs/first');
    await expect(dialog(page).getByText(/files of 3 frames with their sidecars/)).toBeVisible();
    await accessible(page);
    await page.getByRole('button', { name: 'Move 3 frames' }).click();
    await expect(dialog(page)).toBeHidden({ timeout: 30_000 });
    const path = page.getByRole('navigation', { name: 'Folders' });
    await expect(path.getByRole('button', { name: 'proofs · 3' })).toBeVisible();
    await path.getByRole('button', { name: 'proofs · 3' }).click();
    await expect(cells(page)).toHaveCount(3);
    await path.getByRole('button', { name: 'first · 3' }).click();
    await expect(cells(page)).toHaveCount(3);
    await path.getByRole('button', { name: /^originals · / }).click();
    await expect.poll(() => cells(page).count()).toBeGreaterThan(3);
    await accessible(page);
    // What lies in the folder itself, and all again: by the mouse, with the hand on the pictures afterwards.
    const { length } = (await columns(page)).name;
    const below = path.getByRole('checkbox', { name: 'with what lies below it' });
    await below.click();
    await page.keyboard.press('End');
    await expect(position(page)).toHaveText(`frame ${length - 3} of ${length - 3}`);
    await below.click();
    await page.keyboard.press('End');
    await expect(position(page)).toHaveText(`frame ${length} of ${length}`);
    await undo(page);
    await expect(path).toBeHidden();
  });

  test('copies frames into a folder, one of which stands for it, and Jobs puts the copies into the bin', async ({
    page,
  }) => {
    const { name: before } = await columns(page);
    await open(page, 1, 1);
    await page.getByText('Names stay').click();
    await page.getByText('Into a folder below the originals').click();
    await page.getByLabel('Folder; empty: the originals themselves').fill('album');
    await page.getByLabel(/^Copy: the frames stay where they are/).check();
    await expect(dialog(page).getByText(/read back and compared/)).toBeVisible();
    await page.getByRole('button', { name: 'Copy 2 frames' }).click();
    await expect(dialog(page)).toBeHidden({ timeout: 30_000 });
    expect((await columns(page)).name.length).toBe(before.length + 2);
    const folder = page
      .getByRole('navigation', { name: 'Folders' })
      .getByRole('button', { name: 'album · 2' });
    await folder.click();
    await expect(cells(page)).toHaveCount(2);
    await cells(page).nth(1).click();
    await page.keyboard.press('Alt+Shift+L');
    await expect(page.getByText('It stands for “album”')).toBeVisible();
    await page.keyboard.press('Alt+w');
    const where = page.getByRole('dialog', { name: /^Where / });
    await expect(where.getByText(/^A copy of/)).toBeVisible();
    await accessible(page);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: /^Jobs|needs? attention/ }).click();
    const job = page
      .getByRole('article')
      .filter({ hasText: `Copied frames of ${shoot.title}` })
      .first();
    await job.getByRole('button', { name: 'Undo' }).click();
    await expect.poll(async () => (await columns(page)).name, { timeout: 30_000 }).toEqual(before);
    // Nothing of it is left for other tests.
    const { times } = (await (await page.request.get('/api/bin')).json()) as {
      times: { id: string; frames: number }[];
    };
    const data = { binIds: [times[0]!.id], typed: 2 };
    const headers = { 'x-arkiv': '1' };
    // The last frame is gone from here a moment before the job that bins them is over.
    await expect
      .poll(async () => (await page.request.post('/api/bin/empty', { headers, data })).ok(), {
        timeout: 30_000,
      })
      .toBe(true);
  });

  test('gives one frame a name by hand that keeps its number, and a selection names by a pattern', async ({
    page,
  }) => {
    const { name: before } = await columns(page);
    await open(page, 0);
    const field = page.getByRole('textbox', { name: 'Name', exact: true });
    await field.fill(before[1]!);
    await expect(
      dialog(page)
        .getByText(/is there already|already/)
        .first(),
    ).toBeVisible();
    await expect(page.getByRole('button', { name: 'Rename 1 frame' })).toBeDisabled();
    await field.fill('first light');
    await page.getByLabel(/^with its number/).check();
    await page.getByRole('button', { name: 'Rename 1 frame' }).click();
    await expect(dialog(page)).toBeHidden({ timeout: 30_000 });
    expect((await columns(page)).name[0]).toBe(`first light_${/(\d+)\D*$/.exec(before[0]!)![1]}`);
    await undo(page);
    await open(page, 0, 1);
    await page.getByRole('textbox', { name: 'Name pattern' }).fill('bow_{number:3}');
    await expect(dialog(page)).toContainText('bow_002');
    await page.keyboard.press('Escape');
    await expect(dialog(page)).toBeHidden();
    expect((await columns(page)).name).toEqual(before);
  });

  test('says where files lie in whole on this computer, and opens them in a program that is named there', async ({
    page,
  }) => {
    await page.goto('/studio#machine');
    const machine = page.getByRole('region', { name: 'This machine' });
    await machine.getByRole('button', { name: 'Name a program …' }).click();
    await machine.getByLabel('Name', { exact: true }).fill('Nothing at all');
    await machine.getByLabel(/^Program:/).fill('/nowhere/program');
    await machine.getByRole('button', { name: 'Keep it' }).click();
    await expect(machine.getByText('/nowhere/program')).toBeVisible();
    await page.goto(`/shoots/${shoot.id}/cull?view=sheet`);
    await cells(page).nth(2).click();
    await page.keyboard.press('Alt+w');
    const where = page.getByRole('dialog', { name: /^Where / });
    await expect(where.getByText(/originals\/.*\.(jpg|dng|heic)/i).first()).toBeVisible();
    await expect(where.getByRole('button', { name: 'Open its folder' }).first()).toBeVisible();
    await accessible(page);
    await where.getByRole('button', { name: 'Nothing at all' }).click();
    await expect(where.getByText(/could not be started: there is no such program/)).toBeVisible();
    await page.keyboard.press('Escape');
    await page.goto('/studio#machine');
    await machine.getByRole('button', { name: 'Forget' }).click();
    await expect(machine.getByText('/nowhere/program')).toBeHidden();
  });

  test('offers a shoot to a drive of one’s choice, and takes it off none that it needs', async ({
    page,
    request,
  }) => {
    await keepSome(request, shoot.id);
    await page.goto(`/shoots/${shoot.id}/files`);
    const part = page.getByRole('group', { name: 'Copy to another drive' });
    await part.getByLabel('Copy to a drive').selectOption({ index: 1 });
    await expect(part.getByRole('status')).toContainText(/holds all of it already|is read back/);
    await part.getByText('the keepers alone').click();
    await expect(part.getByRole('status')).toContainText(/holds all keepers already|is read back/);
    await page.getByRole('button', { name: /^Take off: Working/ }).click();
    const off = page.getByRole('group', { name: /^Take the shoot off/ });
    await expect(off.getByRole('status')).toContainText(
      /no file has 2 good copies on other drives|Each file is read again/,
    );
    await accessible(page);
    await off.getByRole('button', { name: 'Cancel' }).click();
    await expect(off).toBeHidden();
  });
});
