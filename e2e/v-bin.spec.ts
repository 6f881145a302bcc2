import { expect, test } from './test';
import { accessible } from './accessible';
import { columnsOf, enterUnmarked } from './cullPage';

// What becomes of rejects, from Cull to the bin and out of it.
test.describe('rejects', () => {
  let shootId: string;
  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as { id: string; frames: number }[];
    shootId = shoots.find(({ frames }) => frames >= 20)!.id;
  });

  test('are binned by keys, come back by mouse, and are deleted only where their number is typed', async ({
    page,
  }) => {
    const here = async () => (await columnsOf(page, shootId)).id;
    await enterUnmarked(page, shootId);
    const before = await here();
    const [first, second, third] = before as string[];
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('d');
    await expect
      .poll(async () => (await columnsOf(page, shootId)).verdict.slice(0, 3))
      .toEqual(Array(3).fill('reject'));
    await page.getByRole('link', { name: 'Files' }).click();
    const fold = page.getByRole('button', { name: 'Rejects' });
    if ((await fold.getAttribute('aria-expanded')) !== 'true') {
      await fold.focus();
      await page.keyboard.press('Enter');
    }
    await page.getByRole('radio', { name: /^Set aside/ }).focus();
    await page.keyboard.press('ArrowDown');
    await expect(page.getByRole('radio', { name: /^Put into the bin/ })).toBeChecked();
    await expect(
      page.getByText(/^3 frames, \d+ files with their sidecars\. .* on each of .* It can be undone/),
    ).toBeVisible();
    const put = page.getByRole('button', { name: 'Put 3 frames into the bin' });
    await put.focus();
    await page.keyboard.press('Enter');
    await expect(page.getByText('No reject is in the shoot.')).toBeVisible();
    expect(await here()).toEqual(before.slice(3));
    await expect(page.getByRole('article', { name: /^Binned frames of/ }).first()).toBeVisible();

    await page.getByRole('link', { name: 'Bin', exact: true }).click();
    await expect(page.getByRole('heading', { name: 'Bin', exact: true })).toBeVisible();
    await accessible(page);
    const time = page.getByRole('article', { name: /^3 frames of/ });
    await time.getByRole('button', { name: 'Look' }).click();
    await time.getByRole('checkbox').first().click();
    await time.getByRole('button', { name: 'Bring 1 frame back' }).click();
    await expect(page.getByRole('article', { name: /^2 frames of/ })).toBeVisible();
    expect(await here()).toEqual([first, ...before.slice(3)]);

    await page.getByRole('button', { name: 'Empty the bin …' }).click();
    const question = page.getByRole('form', { name: 'Delete 2 frames' });
    const sure = question.getByRole('button', { name: 'Delete 2 frames' });
    const field = question.getByRole('textbox', { name: 'Type 2 to delete' });
    await field.click();
    await page.keyboard.type('3');
    await expect(sure).toBeDisabled();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('article', { name: /^2 frames of/ })).toBeVisible();
    await page.keyboard.press('Backspace');
    await page.keyboard.type('2');
    await accessible(page);
    await page.keyboard.press('Enter');
    await expect(page.getByText('Nothing is in it.', { exact: false })).toBeVisible();
    const left = await here();
    expect([left.includes(second!), left.includes(third!)]).toEqual([false, false]);

    // What was forgotten comes back from the same screen, with its verdict.
    await page.goBack();
    await page.getByRole('button', { name: 'Rejects' }).waitFor();
    await page.getByRole('radio', { name: /^Forget/ }).check();
    await page.getByRole('button', { name: 'Forget 1 frame' }).click();
    await expect(page.getByText('No reject is in the shoot.')).toBeVisible();
    await page
      .getByRole('article', { name: /^Forgot frames of/ })
      .getByRole('button', { name: 'Undo' })
      .click();
    await expect.poll(here).toEqual([first, ...before.slice(3)]);
    expect((await columnsOf(page, shootId)).verdict[0]).toBe('reject');

    // All of it stands in the paper trail, the newest first, and is found by its words.
    await page.getByRole('link', { name: 'Paper trail' }).click();
    const lines = page.getByRole('list', { name: 'Paper trail' }).getByRole('listitem');
    await expect(lines.nth(0)).toContainText('Brought back');
    await expect(lines.nth(1)).toContainText('Forgotten, files left');
    await expect(lines.nth(2)).toContainText('Deleted');
    await accessible(page);
    await page.getByLabel('Words in paths, titles, drives').click();
    await page.keyboard.type('no such file');
    await expect(page.getByText('Nothing of the kind happened.')).toBeVisible();
    await page.reload();
    await expect(page.getByText('Nothing of the kind happened.')).toBeVisible();
    await page.getByRole('link', { name: 'Of all files' }).click();
    await expect(lines.first()).toBeVisible();
  });

  test('are among what could go, with what they take: looked at, then put into the bin at a press', async ({
    page,
  }) => {
    const before = (await columnsOf(page, shootId)).id.length;
    await page.goto('/');
    await page.getByRole('link', { name: 'Space' }).click();
    await expect(page.getByRole('heading', { name: 'Space', exact: true })).toBeVisible();
    await expect(
      page.getByText(/^[\d.,]+ [kMG]B of \d+ shoots? on \d+ drives?, each copy counted\.$/),
    ).toBeVisible();
    await expect(page.getByRole('img', { name: /^Bytes by year of the shoots.* 2026: / })).toBeVisible();
    await expect(page.getByRole('img', { name: /^Bytes by drive/ })).toBeVisible();
    const rejects = page.getByRole('group', { name: 'Rejects' });
    await rejects.getByLabel('Shoots').selectOption('36');
    await expect(rejects).toContainText('No shoot that is at least 3 years old has rejects');
    await rejects.getByLabel('Shoots').selectOption('0');
    await expect(rejects).toContainText(/^Rejects of shoots.*1 frame of 1 shoot, /);
    await rejects.getByRole('button', { name: 'Choose among 1 shoot' }).click();
    await rejects.getByRole('checkbox').uncheck();
    await expect(rejects.getByRole('button', { name: 'Put 0 frames into the bin' })).toBeDisabled();
    await rejects.getByRole('checkbox').check();
    await accessible(page);
    await rejects.getByRole('link', { name: 'Look at them' }).click();
    await expect(page.getByRole('listbox', { name: 'Contact sheet' }).getByRole('option')).toHaveCount(1);
    await page.goBack();
    // The age that was chosen is kept.
    await rejects.getByRole('button', { name: 'Put 1 frame into the bin' }).click();
    await expect(rejects).toContainText('No shoot has rejects in the archive.');
    expect((await columnsOf(page, shootId)).id).toHaveLength(before - 1);
    await expect(page.getByText(/^1 frame, .* until the bin is emptied\./)).toBeVisible();
    await expect(page.getByRole('group', { name: 'More copies than wanted' })).toContainText(
      'No file has more than the 2 copies on as many disks that the studio wants.',
    );
  });
});
