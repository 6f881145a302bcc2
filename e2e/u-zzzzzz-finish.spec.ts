import { accessible } from './accessible';
import { expect, test, type Locator, type Page } from './test';

// How frames look is changed beside the picture: by mouse, by keys, on one and on several.
test.describe('a frame is finished', () => {
  let shootId: string;
  let frames: string[];
  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as { id: string; frames: number }[];
    shootId = shoots.find(({ frames: n }) => n >= 20)!.id;
    const answer = await request.get(`/api/shoots/${shootId}/frames`);
    const { columns } = (await answer.json()) as { columns: Record<string, (string | number | null)[]> };
    const all = columns.id!.map((id, i) => ({
      id: id as string,
      can: columns.role![i] !== 'clip' && !columns.edited?.[i],
    }));
    frames = all.filter(({ can }) => can).map(({ id }) => id);
  });

  const finishes = async (page: Page, ...ids: string[]): Promise<string[]> => {
    const answer = await page.request.post('/api/marks/now', {
      data: { frameIds: ids },
      headers: { 'x-arkiv': '1' },
    });
    const { frames: now } = (await answer.json()) as { frames: { id: string; finish: string }[] };
    return ids.map((id) => now.find((frame) => frame.id === id)!.finish);
  };
  /** Frames that follow one another in Cull, takes as they stand, each of which can be finished. */
  const inARow = async (page: Page, count: number): Promise<string[]> => {
    await page.goto(`/shoots/${shootId}/cull?view=single&frame=${frames[0]}`);
    await expect(page.getByText(/^frame \d+ of \d+$/).first()).toBeVisible();
    let row = [frames[0]!];
    while (row.length < count) {
      const was = page.url();
      await page.keyboard.press('ArrowRight');
      await expect.poll(() => page.url()).not.toBe(was);
      const id = new URL(page.url()).searchParams.get('frame')!;
      row = frames.includes(id) ? [...row, id] : [];
    }
    return row;
  };
  const open = async (page: Page, id: string) => {
    await page.goto(`/shoots/${shootId}/cull?view=single&frame=${id}`);
    await expect(page.getByText(/^frame \d+ of \d+$/).first()).toBeVisible();
    await page.keyboard.press('Alt+g');
    await expect(page.getByRole('complementary', { name: 'Finish' })).toBeVisible();
  };
  const draw = async (slider: Locator, share: number) => {
    const box = (await slider.boundingBox())!;
    await slider.page().mouse.click(box.x + box.width * share, box.y + box.height / 2);
  };
  /** Mean red, green and blue of the middle half of what an element draws. */
  const middle = (of: Locator): Promise<number[]> =>
    of.evaluate((element: HTMLCanvasElement | HTMLImageElement) => {
      const [width, height] =
        element instanceof HTMLImageElement
          ? [element.naturalWidth, element.naturalHeight]
          : [element.width, element.height];
      const canvas = new OffscreenCanvas(1, 1);
      const g = canvas.getContext('2d')!;
      g.imageSmoothingQuality = 'high';
      const small = new OffscreenCanvas(40, 40);
      const s = small.getContext('2d')!;
      s.drawImage(element, width * 0.4, height * 0.4, width * 0.2, height * 0.2, 0, 0, 40, 40);
      const { data } = s.getImageData(0, 0, 40, 40);
      const sums = [0, 0, 0];
      for (let i = 0; i < data.length; i += 4) for (let c = 0; c < 3; c++) sums[c]! += data[i + c]! / 1600;
      return sums;
    });

  test('by a slider and by a number; the keys stay Cull’s, and all of it is undone', async ({ page }) => {
    const [first, second] = (await inARow(page, 2)) as [string, string];
    await open(page, first);
    const over = page.getByTestId('finish-over');
    await expect(over).toHaveCSS('visibility', 'visible');
    const before = await middle(over);
    await draw(page.getByRole('slider', { name: 'exposure' }), 0.75);
    await expect.poll(async () => (await finishes(page, first))[0]).toMatch(/^exposure=\d\.\d+$/);
    await expect.poll(async () => (await middle(over))[1]! - before[1]!).toBeGreaterThan(4);
    await accessible(page);
    // The hand has left the slider: the arrow is a step again, and marks nothing here.
    await page.keyboard.press('ArrowRight');
    await expect(page).toHaveURL(new RegExp(second));
    expect(await finishes(page, second)).toEqual(['']);
    await page.keyboard.press('ArrowLeft');
    await expect(page).toHaveURL(new RegExp(first));
    const number = page.getByRole('textbox', { name: 'warmth, as a number' });
    await number.fill('-40');
    await number.press('Enter');
    await expect.poll(() => finishes(page, first)).toEqual([expect.stringContaining('temperature=-40')]);
    // What the server makes for other screens looks as what was seen while a hand changed it.
    const live = await middle(over);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('complementary', { name: 'Finish' })).toBeHidden();
    const made = page.getByTestId('stage').locator('img[data-quality=screen]');
    await expect(made).toBeVisible();
    const served = await middle(made);
    for (const c of [0, 1, 2]) expect(Math.abs(served[c]! - live[c]!)).toBeLessThan(4);
    await expect(page.getByText('finished here')).toBeVisible();
    // Before and after.
    await page.keyboard.press('Alt+e');
    await expect(page.getByText('as the camera took it')).toBeVisible();
    await page.keyboard.press('Alt+e');
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await expect.poll(() => finishes(page, first)).toEqual(['']);
  });

  test('cropped by hand and by keys, and laid level by a line', async ({ page }) => {
    const id = frames[0]!;
    await open(page, id);
    await page.keyboard.press('Alt+c');
    const over = page.getByTestId('crop-over');
    await page.getByRole('combobox', { name: 'Shape of the crop' }).selectOption('5:4');
    await expect.poll(() => finishes(page, id)).toEqual(['crop=5:4:0.5:0.5:1']);
    for (let i = 0; i < 5; i++) await page.keyboard.press('-');
    await page.keyboard.press('ArrowRight');
    await expect
      .poll(() => finishes(page, id))
      .toEqual([expect.stringMatching(/^crop=5:4:0\.51:0\.5:0\.9\d*$/)]);
    const box = (await over.boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x - 300, y, { steps: 5 });
    await page.mouse.up();
    // It stops at the picture's edge.
    await expect.poll(async () => Number((await finishes(page, id))[0]!.split(':')[2])).toBeLessThan(0.5);
    await accessible(page);
    await page.getByRole('button', { name: 'Draw a level' }).click();
    await page.mouse.move(x - 150, y - 6);
    await page.mouse.down();
    await page.mouse.move(x + 150, y + 6, { steps: 5 });
    await page.mouse.up();
    await expect.poll(() => finishes(page, id)).toEqual([expect.stringMatching(/^angle=-2\.\d+,crop=/)]);
    await page.keyboard.press('Enter');
    await expect(over).toBeHidden();
    await page.keyboard.press('Alt+x');
    await expect.poll(() => finishes(page, id)).toEqual(['']);
  });

  test('as another one was, by a name, and beside each other all at once', async ({ page }) => {
    const [a, b, c] = (await inARow(page, 3)) as [string, string, string];
    await open(page, a);
    await page.getByRole('combobox', { name: 'Black and white' }).selectOption('red');
    await draw(page.getByRole('slider', { name: 'contrast' }), 0.75);
    await expect.poll(() => finishes(page, a)).toEqual([expect.stringMatching(/^contrast=\d+,mono=red$/)]);
    const [given] = await finishes(page, a);
    await page.getByText('Finishes', { exact: true }).click();
    await page.getByRole('textbox', { name: 'Name for finishes' }).fill('Newsprint');
    await page.getByRole('button', { name: 'Keep', exact: true }).click();
    await expect(page.getByRole('button', { name: /^Newsprint/ })).toBeVisible();
    await page.keyboard.press('Escape');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Alt+p');
    await expect.poll(() => finishes(page, b)).toEqual([given]);
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Alt+n');
    await page.keyboard.press('1');
    await expect.poll(() => finishes(page, c)).toEqual([given]);
    await expect(page.getByText('Finished as “Newsprint”: 1 frame')).toBeVisible();
    // Side by side: this one, or all that stand there.
    await page.goto(`/shoots/${shootId}/cull?view=sheet&frame=${a}`);
    await expect(page.getByText(/^(frame|take) \d+ of \d+$/).first()).toBeVisible();
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('Shift+ArrowRight');
    await page.keyboard.press('e');
    await page.keyboard.press('Alt+g');
    await expect(page.getByTestId('finish-over')).toHaveCount(3);
    await page.getByRole('checkbox', { name: 'all that stand side by side' }).check();
    await page.getByRole('combobox', { name: 'Black and white' }).selectOption('');
    await expect
      .poll(async () => (await finishes(page, a, b, c)).map((text) => text.includes('mono')))
      .toEqual([false, false, false]);
    await accessible(page);
    await page.keyboard.press('Alt+x');
    await expect.poll(() => finishes(page, a, b, c)).toEqual(['', '', '']);
  });
});
