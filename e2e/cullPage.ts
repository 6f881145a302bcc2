import { expect, type Page } from './test';

interface Columns {
  columns: Record<
    | 'id'
    | 'stars'
    | 'verdict'
    | 'label'
    | 'name'
    | 'lies'
    | 'piles'
    | 'note'
    | 'measures'
    | 'body'
    | 'correctionMillis'
    | 'take'
    | 'close'
    | 'serial'
    | 'picture'
    | 'keywords'
    | 'caption'
    | 'persons'
    | 'texts',
    (string | number | null)[]
  >;
}

/** What the server has of a shoot's frames, each fact as its values. */
export const columnsOf = async (page: Page, shootId: string): Promise<Columns['columns']> =>
  ((await (await page.request.get(`/api/shoots/${shootId}/frames`, { maxRetries: 3 })).json()) as Columns)
    .columns;

/** Where one stands in Cull: “frame 3 of 57”. */
export const position = (page: Page) => page.getByText(/^frame \d+ of \d+$/).first();
/** Cells of the contact sheet; what a select offers is none. */
export const cells = (page: Page) => page.locator('[role="option"]');

/** Waits until each picture of a shoot was compared with the one of its body before it: takes are what they will be. */
export async function compared(page: Page, shootId: string): Promise<void> {
  const waiting = async () => {
    const { close, serial, picture } = await columnsOf(page, shootId);
    const begun = new Set<unknown>();
    return close.filter((value, i) => {
      if (picture[i] === null) return false;
      const isFirst = !begun.has(serial[i]);
      begun.add(serial[i]);
      return !isFirst && value === null;
    }).length;
  };
  if ((await waiting()) === 0) return;
  // In the background, at the pace of previews: minutes where a machine is busy otherwise.
  await expect.poll(waiting, { timeout: 240_000 }).toBe(0);
  // The window hears of it a little later than who asks.
  await page.reload();
  await expect(position(page)).toBeVisible();
}

/** A shoot in Cull, all of its frames shown and unmarked, on the contact sheet, at the first one. */
export async function enterUnmarked(page: Page, shootId: string): Promise<void> {
  await page.goto(`/shoots/${shootId}/cull`);
  await expect(position(page)).toBeVisible();
  await page.keyboard.press('Backspace');
  await page.keyboard.press('q');
  // What the page of the test before had still to send may come after what is said here: then it is said once more.
  await expect(async () => {
    await page.keyboard.press('Control+a');
    for (const key of ['s', '0', 'l', '0']) await page.keyboard.press(key);
    await expect
      .poll(
        async () => {
          const { verdict, stars, label } = await columnsOf(page, shootId);
          return [...verdict, ...stars, ...label].filter((m) => m !== 'undecided' && m !== 0 && m !== null);
        },
        { timeout: 5000 },
      )
      .toEqual([]);
  }).toPass({ timeout: 240_000 });
  await page.keyboard.press('Home');
  await expect(position(page)).toHaveText(/^frame 1 of/);
}
