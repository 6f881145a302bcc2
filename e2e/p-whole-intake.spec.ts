import { expect, test, type APIRequestContext, type Page } from './test';
import { accessible } from './accessible';

// Plays after the two bodies: of the second body's card all frames but the first are archived.

const insert = async (request: APIRequestContext, slot: string, card: string) => {
  const sent = { data: { card }, headers: { 'x-arkiv': '1' } };
  await request.post(`/api/stand-ins/slots/${slot}/insert`, sent);
};
const done = (page: Page) => page.getByRole('region', { name: 'Done here' });

test('a card becomes two shoots, named by a plan that is saved and stamped by a template', async ({
  page,
  request,
}) => {
  await insert(request, 'slot-1', 'regatta-2');
  await page.goto('/intake/slot-1');

  await test.step('split by hand on the time strip', async () => {
    await page.getByRole('textbox', { name: 'Shoot' }).fill('Pond regatta');
    await page.getByRole('button', { name: 'by hand' }).click();
    const strip = page.getByRole('slider', { name: 'Time of the frames' });
    const box = (await strip.boundingBox())!;
    await page.mouse.click(box.x + box.width / 2, box.y + 40);
    await strip.focus();
    await page.keyboard.press('ArrowRight');
    await page.getByRole('button', { name: 'Split before this frame' }).click();
    await expect(page.getByText('2 shoots', { exact: true })).toBeVisible();
    await page.getByLabel(/^Shoot 2 · 4 Oct 2026/).fill('Prize giving');
    await expect(page.getByText(/^Shoot 1 · 4 Oct 2026/).first()).toBeVisible();
    await accessible(page);
  });

  await test.step('names and folders from chips, with what they come to', async () => {
    await page.getByRole('button', { name: 'Names and folders …' }).click();
    const dialog = page.getByRole('dialog', { name: 'Names and folders' });
    const pattern = dialog.getByLabel('Name pattern', { exact: true });
    await pattern.fill('{original}');
    await pattern.press('End');
    await dialog
      .getByRole('group', { name: 'Fields for Name pattern' })
      .getByRole('button', { name: 'body' })
      .click();
    await expect(pattern).toHaveValue('{original}{body}');
    await pattern.fill('{shoot}');
    await expect(dialog.getByRole('alert')).toContainText('would both become');
    await expect(dialog.getByRole('button', { name: 'Use for this card' })).toBeDisabled();
    await pattern.fill('{shoot}_{seq:3}');
    await dialog.getByLabel('Numbers run').selectOption('day');
    await dialog.getByLabel(/^Folders inside the originals/).fill('{body}');
    await expect(dialog.getByText(/originals\/ockham-.*\/pond-regatta_001\.jpg/).first()).toBeVisible();
    await accessible(page);
    await dialog.getByLabel('Name of the plan').fill('By body');
    await dialog.getByRole('button', { name: 'Save and use' }).click();
    await expect(dialog).toHaveCount(0);
    await expect(page.getByText('pond-regatta_001', { exact: true })).toBeVisible();
  });

  await test.step('a template, shown for a real frame', async () => {
    await page.getByRole('button', { name: 'Template …' }).click();
    const dialog = page.getByRole('dialog', { name: 'Metadata template' });
    await dialog.getByLabel('Copyright notice').fill('© {capture:yyyy} R. Ashdown');
    await expect(dialog.getByText('→ © 2026 R. Ashdown')).toBeVisible();
    await dialog.getByLabel('City').fill('{town}');
    await expect(dialog.getByText(/“town”, which does not exist/)).toBeVisible();
    await expect(dialog.getByRole('button', { name: 'Use for this card' })).toBeDisabled();
    await dialog.getByLabel('City').fill('Millbrook');
    await dialog.getByLabel(/^Keywords/).fill('yachts, {shoot}');
    await accessible(page);
    await dialog.getByLabel('Name of the template').fill('House');
    await dialog.getByRole('button', { name: 'Save and use' }).click();
    await expect(page.getByLabel('Apply template')).toHaveValue(/.+/);
  });

  await page.getByRole('button', { name: /^Copy \d+ files, .* to 2 drives and verify$/ }).click();
  await expect(page.getByRole('heading', { name: 'Pond regatta is taken in' })).toBeVisible({
    timeout: 60_000,
  });
  await expect(page.getByText(/From the same card: Prize giving/)).toBeVisible();
  await page.getByRole('link', { name: /^Shoots/ }).click();
  await expect(page.getByRole('link', { name: /Prize giving/ })).toBeVisible();

  await test.step('the card is seen whole, across both shoots, and a frame is opened where it lies', async () => {
    await page.getByRole('link', { name: /^Desk/ }).click();
    await page.getByRole('link', { name: 'Latest arrival' }).click();
    await expect(page.getByText(/^41 frames taken in/)).toBeVisible({ timeout: 60_000 });
    const sheet = page.getByRole('listbox', { name: 'Frames of the latest arrival' });
    await expect(sheet.getByText(/Pond regatta/).first()).toBeVisible();
    await accessible(page);
    await sheet.focus();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Enter');
    await expect(page.getByTestId('stage').locator('img')).toHaveAttribute('alt', 'Frame 002');
  });

  await test.step('a frame is found by the name that its camera gave', async () => {
    const shoot = /shoots\/(\w+)\/cull/.exec(page.url())![1]!;
    const answer = (await (await request.get(`/api/shoots/${shoot}/frames`)).json()) as {
      columns: { original: string[]; name: string[] };
    };
    const { columns } = answer;
    const [original, name] = [columns.original[6]!, columns.name[6]!];
    expect(name).not.toContain(original);
    await page.keyboard.press('/');
    await page.getByLabel('Words and facts, as in Find').fill(original.toLowerCase());
    await expect(page.getByText('frame 1 of 1', { exact: true })).toBeVisible();
    await expect(page.getByTestId('stage').locator('img')).toHaveAttribute(
      'alt',
      `Frame ${/\d+$/.exec(name)![0]}`,
    );
    await page.getByLabel('Words and facts, as in Find').fill('nothing like it');
    await expect(page.getByRole('button', { name: /^Show all \d+$/ }).first()).toBeVisible();
    await page.keyboard.press('Escape');
    await page
      .getByRole('button', { name: /^Show all \d+$/ })
      .first()
      .click();
    await expect(page.getByText(/^frame \d+ of \d+$/).last()).toBeVisible();
  });
});

test('a shoot’s files are verified again, renamed, merged, and all of it is undone', async ({ page }) => {
  await page.goto('/shoots');
  await page
    .getByRole('link', { name: /Prize giving/ })
    .getByText('Prize giving')
    .click();
  await page.getByRole('link', { name: 'Files', exact: true }).click();
  await expect(page).toHaveURL(/\/files$/);
  const before = page.url();
  await page.getByRole('button', { name: 'Verify all again' }).click();
  await expect(done(page).getByText('Verified again Prize giving')).toBeVisible({ timeout: 30_000 });
  await accessible(page);

  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  const renamed = page.getByLabel('Name pattern', { exact: true });
  await renamed.fill('{shoot}-{seq:2}');
  await expect(page.getByText(/^first prize-giving-01\./)).toBeVisible();
  await page.getByRole('button', { name: /^Rename \d+ frames$/ }).click();
  const move = done(page).getByRole('article', { name: 'Renamed frames of Prize giving' });
  await expect(move).toHaveCount(1, { timeout: 30_000 });
  await move.getByRole('button', { name: 'Undo' }).click();
  await expect(move).toHaveCount(2, { timeout: 30_000 });
  // The pattern came back with the names.
  await expect(renamed).not.toHaveValue('{shoot}-{seq:2}');

  await page.getByRole('button', { name: 'Merge', exact: true }).click();
  const into = page.getByLabel('Add all frames to');
  const options = await into.getByRole('option').allTextContents();
  await into.selectOption({ label: options.find((text) => text.startsWith('Pond regatta'))! });
  await page.getByRole('button', { name: 'Where each file goes' }).click();
  await expect(page.getByRole('list', { name: 'Where each file goes' })).toContainText('pond-regatta_');
  await page.getByRole('button', { name: 'Merge into “Pond regatta”' }).click();
  await expect(page.getByText(/^41 frames of Pond regatta/)).toBeVisible({ timeout: 30_000 });
  // Whoever comes by an old address is told where its frames are.
  const merged = page.url();
  await page.goto(before.replace(/files$/, 'handoff'));
  await expect(page.getByText(/^Prize giving has no frames any more/)).toBeVisible();
  await accessible(page);
  await page.getByRole('note').getByRole('link', { name: 'Pond regatta' }).click();
  await expect(page).toHaveURL(merged.replace(/files$/, 'handoff'));
  await expect(page.getByRole('note')).toHaveCount(0);
  await page.goto(merged);
  await page.getByRole('link', { name: /^Shoots/ }).click();
  await expect(page.getByRole('link', { name: /Prize giving/ })).toHaveCount(0);
  await page.goBack();
  await done(page).getByRole('article').first().getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/^41 frames of Pond regatta/)).toHaveCount(0, { timeout: 30_000 });
  await page.getByRole('link', { name: /^Shoots/ }).click();
  await expect(page.getByRole('link', { name: /Prize giving/ })).toBeVisible();
});

test('a card that is archived but for one frame: that one is copied, then the card is cleared by proof', async ({
  page,
  request,
}) => {
  await insert(request, 'slot-2', 'press-night-b');
  await page.goto('/');
  await expect(page.getByText(/^43 frames of it look archived/)).toBeVisible();
  await page.getByRole('link', { name: /^Take in .*: press-night-b$/ }).click();
  await expect(page.getByText(/^43 look archived/)).toBeVisible();
  await page.getByRole('textbox', { name: 'Shoot' }).fill('The last frame');
  await accessible(page);
  await page.getByRole('button', { name: /^Copy \d files?, .* to 2 drives and verify$/ }).click();
  await expect(page.getByRole('heading', { name: 'The last frame is taken in' })).toBeVisible({
    timeout: 60_000,
  });
  await expect(page.getByRole('link', { name: 'Cull 1 frame' })).toBeVisible();
  await expect(page.getByText('Safe to clear')).toBeVisible();

  await page.getByRole('button', { name: 'Clear …: press-night-b' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Delete all 45 files from “press-night-b”?');
  await accessible(page);
  await dialog.getByRole('button', { name: 'Verify again and delete' }).click();
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'Eject: press-night-b' })).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText('empty', { exact: true })).toBeVisible();
  await expect(page.getByRole('link', { name: /^Take in .*: press-night-b$/ })).toHaveCount(0);
  await page.getByRole('button', { name: /^Jobs/ }).click();
  await expect(page.getByRole('dialog', { name: 'Jobs' }).getByText('Cleared press-night-b')).toBeVisible();
});
