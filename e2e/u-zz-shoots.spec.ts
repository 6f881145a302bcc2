import { expect, test, type Page } from './test';
import { accessible } from './accessible';
import { cells } from './cullPage';

// Shoots as they are looked through: years folded, passed over, by client and place, and the days of a year.
test.describe('shoots', () => {
  let shoot: { id: string; title: string; frames: number; client: string };

  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as (typeof shoot)[];
    shoot = shoots.find(({ frames }) => frames >= 20)!;
  });

  const line = (page: Page) => page.locator(`a[data-shoot][href^="/shoots/${shoot.id}/cull"]`);
  const frames = async (page: Page): Promise<string[]> => {
    const answer = await page.request.get(`/api/shoots/${shoot.id}/skim`);
    return ((await answer.json()) as { id: string }[]).map(({ id }) => id);
  };

  test('are passed over by pointer and by arrows, and open at the frame that is shown', async ({ page }) => {
    await page.goto('/shoots');
    const ids = await frames(page);
    const strip = line(page).getByTestId('strip');
    const box = (await strip.boundingBox())!;
    await page.mouse.move(box.x + 2, box.y + 20);
    await expect(line(page).getByRole('status')).toContainText('opens it');
    await page.mouse.move(box.x + box.width - 2, box.y + 20);
    await expect(line(page)).toHaveAttribute('href', new RegExp(`frame=${ids.at(-1)}$`));
    await strip.click({ position: { x: 2, y: 20 } });
    await expect(page).toHaveURL(new RegExp(`/shoots/${shoot.id}/cull\\?.*frame=${ids[0]}`));
    await page.goBack();
    // By keys alone, from where the hand is.
    await page.mouse.move(0, 0);
    await line(page).focus();
    await page.keyboard.press('ArrowRight');
    await expect(line(page)).toHaveAttribute('href', new RegExp(`frame=${ids[0]}$`));
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowRight');
    await expect(line(page)).toHaveAttribute('href', new RegExp(`frame=${ids[2]}$`));
    await page.keyboard.press('ArrowLeft');
    await accessible(page);
    await page.keyboard.press('Enter');
    await expect(page).toHaveURL(new RegExp(`frame=${ids[1]}`));
  });

  test('fold their years away, and come back as they were left', async ({ page }) => {
    await page.goto('/shoots');
    const year = page.getByRole('heading', { level: 2 }).getByRole('button').first();
    await expect(year).toHaveAttribute('aria-expanded', 'true');
    const shown = page.locator('a[data-shoot]');
    await expect(line(page)).toBeVisible();
    const before = await shown.count();
    await year.click();
    await expect(year).toHaveAttribute('aria-expanded', 'false');
    await expect.poll(() => shown.count()).toBeLessThan(before);
    await page.reload();
    await expect(year).toHaveAttribute('aria-expanded', 'false');
    await year.click();
    await expect.poll(() => shown.count()).toBe(before);
  });

  test('stand by client and by place, each with all its shoots', async ({ page }) => {
    await page.goto('/shoots');
    await page.getByRole('button', { name: 'By client' }).click();
    await expect(page).toHaveURL(/by=client/);
    await page.getByLabel('Name').fill(shoot.client);
    const group = page.getByRole('button', { name: shoot.client || 'No client is named', exact: true });
    await group.click();
    await expect(line(page)).toBeVisible();
    await accessible(page);
    await page.getByRole('button', { name: 'By place' }).click();
    await expect(page.getByRole('button', { name: 'By place' })).toHaveAttribute('aria-pressed', 'true');
    await page.goBack();
    await expect(page.getByRole('button', { name: 'By client' })).toHaveAttribute('aria-pressed', 'true');
  });

  test('are a picture of a year: a day is gone to by keys, and shows its frames', async ({ page }) => {
    await page.goto('/shoots?by=calendar');
    const days = page.getByRole('group', { name: /^The days of/ }).getByRole('button');
    await expect(days).toHaveCount(365);
    await accessible(page);
    const year = (await page.getByRole('heading', { level: 2 }).textContent())!;
    const answer = await page.request.get(`/api/find/days?year=${year}`);
    const known = ((await answer.json()) as { days: Record<string, number> }).days;
    const [first, count] = Object.entries(known)[0]!;
    const day = page.locator(`[data-day="${first}"]`);
    await expect(day).toHaveAccessibleName(new RegExp(`: ${count} frames?$`));
    await day.focus();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowLeft');
    await expect(day).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('region', { name: 'What was looked for' })).toContainText(
      `${count} frame${count === 1 ? '' : 's'}`,
    );
    await page.goBack();
    await expect(days).toHaveCount(365);
  });

  test('show themselves by the frames that are chosen in Cull', async ({ page }) => {
    await page.goto(`/shoots/${shoot.id}/cull?view=sheet`);
    await cells(page).nth(3).click();
    await page.keyboard.press('Alt+l');
    await expect(page.getByText(`1 frame stands for “${shoot.title}”`)).toBeVisible();
    const chosen = async () => {
      const answer = await page.request.get(`/api/shoots/${shoot.id}`);
      return ((await answer.json()) as { chosenLeads: string[] }).chosenLeads.length;
    };
    expect(await chosen()).toBe(1);
    await page.keyboard.press('Alt+l');
    await expect(page.getByText(/Arkiv chooses again/)).toBeVisible();
    expect(await chosen()).toBe(0);
  });
});
