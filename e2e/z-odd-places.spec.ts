import { appendFileSync, copyFileSync, mkdirSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { expect, test, type Page } from './test';
import { accessible } from './accessible';

const card = path.resolve(
  import.meta.dirname,
  '../node_modules/.arkiv/test-cards/press-night-a-600/DCIM/101OCKHM',
);

async function addFolder(page: Page, folder: string, name: string): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'Take in from a folder …' }).click();
  await page.getByLabel('Full path of an existing folder').fill(folder);
  await page.getByRole('textbox', { name: /^Name/ }).fill(name);
  await page.getByRole('button', { name: 'Add', exact: true }).click();
}

test.describe('places where little is as usual', () => {
  let folder: string;
  test.beforeEach(() => {
    folder = mkdtempSync(path.join(os.tmpdir(), 'arkiv-e2e-folder-'));
  });
  test.afterEach(() => rmSync(folder, { recursive: true, force: true }));

  test('a folder that does not exist is named, with what to do next', async ({ page }) => {
    await addFolder(page, '/no/such/folder', 'Nothing');
    await expect(page.getByRole('alert')).toContainText(
      '“/no/such/folder” cannot be a drive: it is no existing folder.',
    );
    await expect(page.getByRole('alert')).toContainText('Choose an existing folder');
    await accessible(page);
  });

  test('an empty folder says so, and nothing can be started', async ({ page }) => {
    mkdirSync(path.join(folder, 'DCIM'));
    await addFolder(page, folder, 'Empty stick');
    await page.getByRole('link', { name: `Look at it: ${path.basename(folder)}` }).click();
    await expect(page.getByText('There are no files on this card: nothing can be taken in')).toBeVisible();
    await expect(page.getByRole('button', { name: /verify$/ })).toHaveCount(0);
    await accessible(page);
    await page.getByRole('link', { name: 'To the Desk', exact: true }).click();
    await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible();
  });

  test('one single frame is taken in and culled, by keys alone', async ({ page }) => {
    const [first] = readdirSync(card).filter((f) => f.endsWith('.JPG'));
    copyFileSync(path.join(card, first!), path.join(folder, first!));
    // One byte more: otherwise it would be recognised as archived already.
    appendFileSync(path.join(folder, first!), 'x');
    await addFolder(page, folder, 'One frame');
    await page.getByRole('link', { name: new RegExp(`^Take in .*: ${path.basename(folder)}$`) }).focus();
    await page.keyboard.press('Enter');
    await expect(page.getByText('1 frame · 1 file')).toBeVisible();
    // The title has the focus; Enter starts the copying.
    await page.keyboard.type('Single');
    await expect(
      page.getByRole('button', { name: /^Copy 1 file, .* to 2 drives and verify$/ }),
    ).toBeEnabled();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { name: 'Single is taken in' })).toBeVisible();
    await page.getByRole('link', { name: 'Cull 1 frame' }).focus();
    await page.keyboard.press('Enter');
    await expect(page.getByText('frame 1 of 1')).toBeVisible();
    for (const key of ['ArrowRight', 'ArrowDown', 'ArrowLeft', 'End', 'f', 'Numpad5'])
      await page.keyboard.press(key);
    await expect(page.getByTestId('marks')).toHaveText(/keep\s*5★/);
    await expect(page.getByRole('link', { name: /^Cull/ })).toContainText('0 left');
    await page.keyboard.press('q');
    await expect(page.getByRole('option')).toHaveCount(1);
    for (let i = 0; i < 8; i++) await page.keyboard.press('Control+z');
    await expect(page.getByTestId('marks')).toHaveText('undecided');
    await expect(page.getByText('Nothing to undo')).toBeVisible();
    await accessible(page);
  });

  test('a picture that is archived already is recognised under another name, and not taken in twice', async ({
    page,
  }) => {
    const [first] = readdirSync(card).filter((f) => f.endsWith('.JPG'));
    for (const title of ['Once', 'Twice']) {
      copyFileSync(path.join(card, first!), path.join(folder, 'renamed.jpg'));
      await addFolder(page, folder, title);
      await page
        .getByRole('link', { name: new RegExp(`^(Take in|Look at it).*: ${path.basename(folder)}`) })
        .last()
        .click();
      await page.getByRole('textbox', { name: 'Shoot' }).fill(title);
      await page.getByRole('button', { name: /(and verify|with the archive)$/ }).click();
      await expect(page.getByText('What became of each file')).toBeVisible();
    }
    await expect(page.getByRole('heading', { name: 'Nothing new on this card' })).toBeVisible();
    await expect(page.getByText('Its one file had been archived before')).toBeVisible();
    await expect(page.getByText('already archived')).toBeVisible();
    await page.goto('/shoots');
    await expect(page.getByRole('link', { name: /Twice/ })).toHaveCount(0);
  });

  test('hand-off and delivery without a keeper lead back to culling', async ({ page }) => {
    await page.goto('/shoots');
    await page.getByRole('link', { name: /Single/ }).click();
    await page.getByRole('link', { name: /^Hand-off/ }).click();
    await expect(page.getByText('No frame is a keeper by the studio’s rule (keep).')).toBeVisible();
    await page.getByRole('link', { name: /^Deliver/ }).click();
    await expect(page.getByText('There are no keepers yet.')).toBeVisible();
    await accessible(page);
    await page.getByRole('link', { name: 'Cull first' }).click();
    await expect(page.getByText('frame 1 of 1')).toBeVisible();
  });

  test('an address that leads nowhere leads back to the Desk', async ({ page }) => {
    await page.goto('/no/such/screen');
    await page.getByRole('link', { name: 'Go to the Desk' }).click();
    await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible();
    await page.goto('/shoots/none/cull');
    await expect(page.getByRole('alert')).toContainText('There is no shoot “none”.');
  });

  test('marks wait in the browser while the server is away, and go out when it is back', async ({
    page,
    context,
  }) => {
    await page.goto('/shoots');
    await page.getByRole('link', { name: /Single/ }).click();
    await expect(page.getByText('frame 1 of 1')).toBeVisible();
    await context.route('**/api/marks', (route) => route.abort());
    await page.keyboard.press('d');
    await expect(page.getByTestId('marks')).toHaveText('reject');
    await expect(page.getByText('1 mark waits in this browser')).toBeVisible();
    // The window is closed and opened again: the mark is still there, and still waits.
    await page.reload();
    await expect(page.getByTestId('marks')).toHaveText('reject');
    await context.unroute('**/api/marks');
    await expect(page.getByText('1 mark waits in this browser')).toBeHidden();
    await page.reload();
    await expect(page.getByTestId('marks')).toHaveText('reject');
  });
});
