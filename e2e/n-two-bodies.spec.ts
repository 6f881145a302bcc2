import { expect, test } from './test';
import { accessible } from './accessible';

// Plays after the whole job: the first body's card is archived as “Press night”.

test('the second body’s card goes into the same shoot, its clock is put right, and it is pulled out half-way', async ({
  page,
  request,
}) => {
  const change = (where: string, data: object) =>
    request.put(`/api/stand-ins/${where}`, { data, headers: { 'x-arkiv': '1' } });
  await request.post('/api/stand-ins/slots/slot-2/insert', {
    data: { card: 'press-night-b' },
    headers: { 'x-arkiv': '1' },
  });

  await test.step('the card is compared with the shoot of the same night', async () => {
    await page.goto('/intake/slot-2');
    const into = page.getByLabel('Add to');
    await expect(into).toHaveValue('');
    // The nearest day stands first after “a new shoot”.
    await expect(into.getByRole('option').nth(1)).toContainText('Press night · 16 Oct 2026');
    await into.selectOption({ index: 1 });
    await expect(page.getByText(/its numbers carry on at 58/)).toBeVisible();
    await expect(
      page.getByText('→ 2026/2026-10-16_press-night/originals/press-night_20261016_0058.jpg'),
    ).toBeVisible();
    await accessible(page);
  });

  await test.step('the same moment in two frames gives the shift', async () => {
    await page.getByRole('button', { name: 'Match clocks …' }).click();
    const dialog = page.getByRole('dialog', { name: 'Match clocks by the same moment' });
    await expect(dialog.getByRole('option').first()).toBeVisible();
    const [own, theirs] = [
      dialog.getByRole('listbox', { name: /^This card/ }),
      dialog.getByRole('listbox', { name: /^In “Press night”/ }),
    ];
    await own.getByRole('option').first().click();
    await theirs.getByRole('option').first().click();
    await expect(dialog.getByRole('status')).toContainText(
      /^\+0:02:5\d.* is added to the times of this body/,
    );
    await accessible(page);
    await dialog.getByRole('button', { name: /^Use \+0:02:5/ }).click();
    const clock = page.getByLabel('Clock of Ockham Three');
    await expect(clock).toHaveValue(/^\+0:02:5/);
    // It was known exactly all along: typed, it is taken as well.
    await clock.fill('3:99');
    await expect(page.getByText('Hours, minutes, seconds: +0:03:27')).toBeVisible();
    await clock.fill('+0:03:27');
    await clock.blur();
    await expect(clock).toHaveValue('+0:03:27');
  });

  await test.step('frames are left out by hand, by key, and taken again', async () => {
    const sheet = page.getByRole('listbox', { name: /^Frames on the card/ });
    const ticks = sheet.locator('[data-choice]');
    await ticks.first().click();
    await expect(page.getByText('43 frames of 44 taken in, 1 stay on the card')).toBeVisible();
    await ticks.nth(2).click({ modifiers: ['Shift'] });
    await expect(page.getByText(/41 frames of 44 taken in/)).toBeVisible();
    await page.keyboard.press('Space');
    await expect(page.getByText(/42 frames of 44 taken in/)).toBeVisible();
    await page.getByRole('button', { name: 'None', exact: true }).click();
    await expect(page.getByText(/^0 frames of 44/)).toBeVisible();
    await page.getByRole('button', { name: 'All', exact: true }).click();
    await ticks.first().click();
    await accessible(page);
    // A click on a picture shows it large; its keys choose and step there.
    await sheet.getByRole('option').nth(1).click();
    const large = page.getByRole('dialog', { name: /^Frame OCK_\d+, large$/ });
    await expect(large.getByText('taken in', { exact: true })).toBeVisible();
    await page.keyboard.press('Space');
    await expect(large.getByText('left on the card')).toBeVisible();
    await accessible(page);
    await page.keyboard.press('Space');
    await page.keyboard.press('ArrowRight');
    await expect(large.getByText(/frame 3 of 44/)).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(large).toBeHidden();
    await expect(page.getByText('43 frames of 44 taken in, 1 stay on the card')).toBeVisible();
  });

  await test.step('the card is pulled out half-way, and comes back', async () => {
    await page.waitForFunction(() => [...document.images].every((image) => image.complete));
    await change('slots/slot-2', { pullAfterBytes: 900_000 });
    await page.getByRole('button', { name: /^Copy 44 files, .* to 2 drives and verify$/ }).click();
    await expect(page.getByRole('alert')).toContainText('Insert it again');
    await request.post('/api/stand-ins/slots/slot-2/insert', {
      data: { card: 'press-night-b' },
      headers: { 'x-arkiv': '1' },
    });
    await expect(page.getByRole('heading', { name: 'Press night is taken in' })).toBeVisible({
      timeout: 60_000,
    });
    await expect(page.getByText('left out')).toBeVisible();
    // One file stayed on the card: it is not safe to clear, and the reason says which.
    await expect(page.getByText(/OCK_9971\.JPG was not taken in/)).toBeVisible();
    await accessible(page);
  });

  await test.step('both bodies are culled as one shoot, in true order', async () => {
    await page.getByRole('link', { name: 'Cull 100 frames' }).click();
    await expect(page.getByText('1 of 100')).toBeVisible();
    await page.keyboard.press('q');
    await expect(page.getByRole('option').first()).toBeVisible();
    const names = page.getByRole('listbox', { name: 'Contact sheet' }).getByRole('option');
    // Half a minute into the evening the second body looks at the empty stage; uncorrected it would come first of all.
    await expect(names.nth(0)).toHaveAccessibleName(/^Frame 0001/);
    await expect(names.nth(3)).toHaveAccessibleName(/^Frame 0058/);
  });
});
