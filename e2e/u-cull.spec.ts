import { devices, expect, test, type Page, type Route } from './test';
import { accessible } from './accessible';
import { cells, columnsOf, enterUnmarked, position } from './cullPage';

// Ways to look, and what is decided in them, as hands do it.
test.describe('in Cull', () => {
  let shootId: string;
  test.beforeAll(async ({ request }) => {
    const shoots = (await (await request.get('/api/shoots')).json()) as { id: string; frames: number }[];
    shootId = shoots.find(({ frames }) => frames >= 20)!.id;
  });
  const picture = (page: Page) => page.getByTestId('stage').locator('img').first();
  const detail = (page: Page) => page.getByTestId('detail');
  const columns = (page: Page) => columnsOf(page, shootId);
  const verdicts = async (page: Page, n = 4) => (await columns(page)).verdict.slice(0, n);
  test.beforeEach(async ({ page }) => {
    await enterUnmarked(page, shootId);
    await page.keyboard.press('w');
    await page.keyboard.press('Home');
    await expect(position(page)).toHaveText(/^frame 1 of/);
  });

  test('its frames are asked for with the page itself, and only once', async ({ page }) => {
    const where = `/api/shoots/${shootId}/frames`;
    const response = await page.request.get(`/shoots/${shootId}/cull`);
    expect(response.headers().link).toBe(`<${where}>; rel=preload; as=fetch; crossorigin`);
    expect((await page.request.get('/shoots')).headers().link).toBeUndefined();
    // What the page asks for by itself is the answer that the header has asked for.
    let asked = 0;
    page.on('request', (request) => {
      if (new URL(request.url()).pathname === where) asked += 1;
    });
    // Where something happens between that answer and the beginning of the page's stream, all is asked for again.
    await expect(async () => {
      asked = 0;
      await page.goto(`/shoots/${shootId}/cull`);
      await expect(position(page)).toBeVisible();
      await page.keyboard.press('ArrowRight');
      await expect(position(page)).toHaveText(/^frame \d+ of/);
      expect(asked).toBe(1);
    }).toPass();
  });

  test('view, filter and frame stand in the address: Back, Forward, reload and a link come to them', async ({
    page,
  }) => {
    const asked = () => new URL(page.url()).searchParams;
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowRight');
    const third = (await columns(page)).id[2] as string;
    await expect.poll(() => asked().get('frame')).toBe(third);
    await page.keyboard.press('q');
    await expect.poll(() => asked().get('view')).toBe('sheet');
    await page.keyboard.press('o');
    await expect.poll(() => asked().get('filter')).toContain('left');
    await expect(page.getByRole('button', { name: /undecided/ }).first()).toBeVisible();
    // Going from frame to frame is no step of its own.
    await page.keyboard.press('ArrowRight');
    const fourth = (await columns(page)).id[3] as string;
    await expect.poll(() => asked().get('frame')).toBe(fourth);
    const link = page.url();
    await page.goBack();
    await expect.poll(() => asked().get('filter')).toBeNull();
    await expect(cells(page).first()).toBeVisible();
    await page.goBack();
    await expect(picture(page)).toBeVisible();
    await expect(position(page)).toHaveText(/^frame 3 of/);
    await page.goForward();
    await page.goForward();
    await expect.poll(() => asked().get('filter')).toContain('left');
    await expect(cells(page).first()).toBeVisible();
    await page.keyboard.press('Backspace');
    await page.keyboard.press('w');
    await page.keyboard.press('Home');
    await expect.poll(() => asked().get('view')).toBe('single');
    // As somebody else would come by the link, in a window of their own.
    const other = await page.context().newPage();
    await other.goto(link);
    await expect(cells(other).first()).toBeVisible();
    await expect(position(other)).toHaveText(/^frame 4 of/);
    await other.reload();
    await expect(position(other)).toHaveText(/^frame 4 of/);
    await expect.poll(() => new URL(other.url()).searchParams.get('filter')).toContain('left');
    await other.keyboard.press('Backspace');
    await other.close();
  });

  test('pictures that are gone past before they came are given up: the browser keeps none of them', async ({
    page,
  }) => {
    const way: Route[] = [];
    await page.route('**/api/previews/**', (route) => void way.push(route));
    await page.addInitScript(() => {
      const counted = { begun: 0, waiting: 0 };
      const { decode } = HTMLImageElement.prototype;
      HTMLImageElement.prototype.decode = function (this: HTMLImageElement) {
        const pixels = decode.call(this);
        counted.begun += 1;
        counted.waiting += 1;
        const ended = () => void (counted.waiting -= 1);
        pixels.then(ended, ended);
        return pixels;
      };
      Object.assign(window, { counted });
    });
    const counted = () =>
      page.evaluate(() => (window as unknown as { counted: { begun: number; waiting: number } }).counted);
    // From here on none comes, however long one waits.
    await page.reload();
    await expect(position(page)).toHaveText(/^frame 1 of/);
    for (let n = 2; n <= 18; n++) {
      await page.keyboard.press('ArrowRight');
      await expect(position(page)).toHaveText(new RegExp(`^frame ${n} of`));
    }
    expect((await counted()).begun).toBeGreaterThan(12);
    // What waits for its pixels keeps its element, gone past or not: three are under way at once.
    await expect.poll(async () => (await counted()).waiting).toBeLessThanOrEqual(3);
    await page.unroute('**/api/previews/**');
    await Promise.all(way.map((route) => route.abort().catch(() => undefined)));
  });

  test('a note is written at a key, points to a spot that is clicked, is found again, and is undone', async ({
    page,
  }) => {
    const notes = async () => (await columns(page)).note.slice(0, 2);
    await page.keyboard.press('Shift+N');
    const field = page.getByRole('textbox', { name: 'Note to whoever edits it' });
    await expect(field).toBeFocused();
    // Letters are the note’s, not marks.
    await page.keyboard.type('fade the exit sign');
    const box = (await page.getByTestId('stage').locator('img').boundingBox())!;
    await page.mouse.click(box.x + box.width * 0.25, box.y + box.height * 0.5);
    await expect(page.getByTestId('pin')).toBeVisible();
    // The hand that pointed goes on typing.
    await expect(field).toBeFocused();
    await page.keyboard.type(' out');
    await page.keyboard.press('Enter');
    await expect(field).toBeHidden();
    await expect(page.getByText('✎ fade the exit sign out')).toBeVisible();
    await expect
      .poll(notes)
      .toEqual([expect.stringMatching(/^\[25(\.\d)? % 50(\.\d)? %\] fade the exit sign out$/), null]);
    expect((await verdicts(page, 1))[0]).toBe('undecided');
    // The pin is where it points, at any zoom, and another frame has none.
    const pin = async () => {
      const [at, lies] = [
        (await page.getByTestId('pin').boundingBox())!,
        (await page.getByTestId('stage').locator('img').boundingBox())!,
      ];
      return [
        Math.round(((at.x + at.width / 2 - lies.x) / lies.width) * 100),
        Math.round(((at.y + at.height / 2 - lies.y) / lies.height) * 100),
      ];
    };
    expect(await pin()).toEqual([25, 50]);
    await page.keyboard.press('z');
    await expect(detail(page)).toHaveText(/100 %/);
    expect(await pin()).toEqual([25, 50]);
    await page.keyboard.press('z');
    await page.keyboard.press('ArrowRight');
    await expect(page.getByTestId('pin')).toBeHidden();
    // Found again by the drawer, and by its words.
    await page.keyboard.press('h');
    await page.getByRole('button', { name: /^with a note/ }).click();
    await expect(position(page)).toHaveText('frame 1 of 1');
    await accessible(page);
    await page.keyboard.press('Backspace');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Home');
    // Esc writes nothing; an emptied one is taken off, and undo gives it back.
    await page.keyboard.press('Shift+N');
    await page.keyboard.press('Control+a');
    await page.keyboard.type('x');
    await page.keyboard.press('Escape');
    await expect(page.getByText('✎ fade the exit sign out')).toBeVisible();
    await page.keyboard.press('Shift+N');
    await page.keyboard.press('Control+a');
    await page.keyboard.press('Delete');
    await page.keyboard.press('Enter');
    await expect.poll(notes).toEqual([null, null]);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await notes())[0]).toMatch(/exit sign out$/);
    await page.keyboard.press('Control+z');
    await expect.poll(notes).toEqual([null, null]);
  });

  test('everything the camera wrote is a key away, found by typing, and Esc goes back to the frame', async ({
    page,
  }) => {
    await page.keyboard.press('Shift+J');
    const dialog = page.getByRole('dialog', { name: 'What the camera wrote' });
    await expect(dialog.getByText('Exposure Time', { exact: true }).first()).toBeVisible();
    await page.keyboard.type('f number');
    await expect(dialog.getByText('F Number', { exact: true }).first()).toBeVisible();
    await expect(dialog.getByText('Exposure Time', { exact: true })).toHaveCount(0);
    await accessible(page);
    await page.keyboard.press('Escape');
    await expect(dialog).toBeHidden();
    await page.keyboard.press('ArrowRight');
    await expect(position(page)).toHaveText(/^frame 2 of/);
    // By mouse from the full facts.
    await page.keyboard.press('c');
    await page.getByRole('button', { name: 'all …' }).click();
    await expect(dialog).toBeVisible();
    await dialog.getByRole('button', { name: 'Close' }).click();
    await page.keyboard.press('ArrowLeft');
    await expect(position(page)).toHaveText(/^frame 1 of/);
    await page.keyboard.press('c');
    await page.keyboard.press('c');
  });

  test('100 % is shown at a key and at a click, says so, and the next frame keeps place and zoom', async ({
    page,
  }) => {
    await expect(detail(page)).toHaveText(/full detail at this size/);
    await page.keyboard.press('z');
    await expect(detail(page)).toHaveText(/^■ 100 % · full detail$/);
    // One screen pixel for each of the picture's.
    // A picture that has just given its place to a better one has no width any more.
    await expect
      .poll(() => picture(page).evaluate((img: HTMLImageElement) => img.clientWidth / img.naturalWidth))
      .toBe(1);
    const place = () => picture(page).evaluate((img: HTMLImageElement) => img.style.transform);
    const before = await place();
    await page.keyboard.press('ArrowRight');
    await expect(position(page)).toHaveText(/^frame 2 of/);
    expect(await place()).toBe(before);
    await expect(detail(page)).toHaveText(/^■ 100 % · full detail$/);
    await page.keyboard.press('-');
    await expect(detail(page)).toHaveText(/50 %|at this size/);
    await page.keyboard.press('z');
    await page.keyboard.press('Home');
    await expect(position(page)).toHaveText(/^frame 1 of/);
    // The mouse: a click looks closer at that spot, a drag moves, a click goes back.
    const stage = (await page.getByTestId('stage').boundingBox())!;
    const [x, y] = [stage.x + stage.width / 2, stage.y + stage.height / 2];
    if (/100 %/.test((await detail(page).textContent())!)) await page.keyboard.press('z');
    await page.mouse.click(x, y);
    await expect(detail(page)).toHaveText(/^■ 100 % · full detail$/);
    await page.keyboard.press('+');
    await expect(detail(page)).toHaveText(/200 %/);
    const still = await place();
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x - 80, y - 40, { steps: 4 });
    await page.mouse.up();
    expect(await place()).not.toBe(still);
    await page.mouse.click(x, y);
    await expect(detail(page)).toHaveText(/at this size/);
    await page.mouse.wheel(0, -300);
    await expect(detail(page)).toHaveText(/%/);
    await page.mouse.wheel(0, 900);
    await page.mouse.wheel(0, 900);
    await expect(detail(page)).toHaveText(/at this size/);
  });

  test('side by side frames are gone between, dropped, replaced, and one wins over the others', async ({
    page,
  }) => {
    await page.keyboard.press('q');
    await cells(page).nth(0).click();
    for (const i of [1, 2])
      await cells(page)
        .nth(i)
        .click({ modifiers: ['ControlOrMeta'] });
    await page.keyboard.press('e');
    const group = page.getByRole('group', { name: 'Side by side' });
    const panes = group.getByRole('group');
    await expect(panes).toHaveCount(3);
    const current = group.locator('[data-current]');
    await expect(current).toHaveCount(1);
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.press('ArrowLeft');
    await expect(position(page)).toHaveText(/^frame 1 of/);
    // A mark goes to the frame that the line is around, and nothing steps on.
    await page.keyboard.press('a');
    await page.keyboard.press('3');
    await expect(position(page)).toHaveText(/^frame 1 of/);
    await page.keyboard.press('a');
    // Zoom together, then apart.
    await page.keyboard.press('z');
    await expect(group.getByTitle(/^100 %/)).toHaveCount(3);
    await page.keyboard.press('Shift+Z');
    await page.keyboard.press('z');
    await expect(group.getByTitle(/^100 %/)).toHaveCount(2);
    await page.keyboard.press('Shift+Z');
    await expect(group.getByTitle(/^100 %/)).toHaveCount(0);
    // Another frame in its place, then without it.
    await page.keyboard.press('Control+ArrowDown');
    await expect(position(page)).toHaveText(/^frame 4 of/);
    await expect(panes).toHaveCount(3);
    await page.keyboard.press('Delete');
    await expect(panes).toHaveCount(2);
    await panes.nth(1).click({ position: { x: 30, y: 30 } });
    await page.keyboard.press('g');
    await expect.poll(async () => verdicts(page)).toEqual(['undecided', 'reject', 'keep', 'undecided']);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => verdicts(page)).toEqual(Array(4).fill('undecided'));
    await page.keyboard.press('Escape');
    await expect(group).toBeHidden();
  });

  test('zoomed together side by side, frames of one subject follow it, and where that is unsure it says so', async ({
    page,
  }) => {
    const beside = async (...which: number[]) => {
      await page.keyboard.press('q');
      await page.keyboard.press('Home');
      await cells(page).nth(which[0]!).click();
      for (const i of which.slice(1))
        await cells(page)
          .nth(i)
          .click({ modifiers: ['ControlOrMeta'] });
      await page.keyboard.press('e');
      return page.getByRole('group', { name: 'Side by side' });
    };
    const takes = await columns(page);
    const group = await beside(0, 1);
    // From the middle it can be dragged either way.
    const box = (await group.getByTestId('stage').first().boundingBox())!;
    await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
    await expect(group.getByTitle(/^100 %/)).toHaveCount(2);
    await page.keyboard.press('+');
    await expect(group.getByTitle(/^200 %/)).toHaveCount(2);
    await expect(group.getByText('≠ place')).toHaveCount(0);
    // Both are dragged by one hand, wherever their subject lies.
    const lies = async (i: number) =>
      group
        .getByTestId('stage')
        .nth(i)
        .locator('img')
        .evaluate((img: HTMLImageElement) => new DOMMatrix(getComputedStyle(img).transform).e);
    // The whole picture may come while they are dragged, and lies otherwise: then once more.
    await expect(async () => {
      const before = [await lies(0), await lies(1)];
      await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
      await page.mouse.down();
      await page.mouse.move(box.x + box.width / 2 - 70, box.y + box.height / 2, { steps: 5 });
      await page.mouse.up();
      const after = [await lies(0), await lies(1)];
      expect(Math.abs(after[0]! - before[0]! + 70)).toBeLessThan(3);
      expect(Math.abs(after[1]! - before[1]! + 70)).toBeLessThan(8);
    }).toPass();
    await page.keyboard.press('z');
    await page.keyboard.press('Escape');
    // Of the other end of the evening: nothing of it lies over the first.
    const far = takes.id.length > 20 ? 12 : takes.id.length - 1;
    await beside(0, far);
    await expect(group.getByText('≠ place')).toHaveCount(1);
    await page.keyboard.press('Escape');
  });

  test('the run-through goes by itself, stops, turns, and takes marks', async ({ page }) => {
    await page.keyboard.press('r');
    await expect(page.getByText(/^Run-through on, \S+ s a frame$/)).toBeVisible();
    // As fast as it goes.
    for (let i = 0; i < 4; i++) await page.keyboard.press('+');
    await expect(page.getByText('Run-through on, 0.5 s a frame')).toBeVisible();
    await expect(position(page)).toHaveText(/^frame ([4-9]|\d\d) of/);
    await page.keyboard.press('p');
    await expect(page.getByText('Run-through stopped')).toBeVisible();
    const at = Number(/\d+/.exec((await position(page).textContent())!)![0]);
    await page.keyboard.press('f');
    await expect.poll(async () => (await columns(page)).verdict[at - 1]).toBe('keep');
    await expect(position(page)).toHaveText(new RegExp(`^frame ${at} of`));
    await page.keyboard.press('Shift+R');
    await page.keyboard.press('p');
    await expect(position(page)).toHaveText(/^frame [12] of/);
    await page.keyboard.press('Escape');
    await expect(page.getByText(/^Run-through/)).toBeHidden();
  });

  test('the picture is left alone at a key, a number is typed to go to, and the undecided are found', async ({
    page,
  }) => {
    await page.keyboard.press('Escape');
    await page.keyboard.press('i');
    await expect(page.getByRole('slider', { name: 'Time of the shoot' })).toBeHidden();
    await expect(page.getByRole('navigation', { name: 'Steps' })).toBeHidden();
    const window = (await page.getByTestId('stage').boundingBox())!;
    expect(window.height).toBeGreaterThanOrEqual(799);
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Escape');
    await expect(position(page)).toHaveText(/^frame 2 of/);
    const { name } = await columns(page);
    await page.keyboard.press('n');
    await page.keyboard.type(/\d+$/.exec(String(name[6]))![0]);
    await page.keyboard.press('Enter');
    await expect(position(page)).toHaveText(/^frame 7 of/);
    // The keys are the screen's again.
    await page.keyboard.press('f');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('d');
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.press('u');
    await expect(position(page)).toHaveText(/^frame 9 of/);
    await page.keyboard.press('Shift+U');
    await expect(position(page)).toHaveText(/^frame 6 of/);
    await page.keyboard.press('k');
    await expect(position(page)).toHaveText(/^frame 1 of 1$/);
    await page.keyboard.press('k');
    await page.keyboard.press('o');
    await expect(page.getByRole('region', { name: 'What hides frames' })).toContainText('undecided');
    await page.keyboard.press('Backspace');
  });

  test('the sheet is drawn over to select, sized by Ctrl and the wheel, ordered and put under headings', async ({
    page,
  }) => {
    await page.keyboard.press('q');
    const [first, third] = [
      (await cells(page).nth(0).boundingBox())!,
      (await cells(page).nth(2).boundingBox())!,
    ];
    await page.mouse.move(first.x + 30, first.y + 30);
    await page.mouse.down();
    await page.mouse.move(third.x + 40, third.y + 60, { steps: 6 });
    await page.mouse.up();
    await expect(page.getByText('3 selected')).toBeVisible();
    await page.keyboard.press('5');
    await expect.poll(async () => (await columns(page)).stars.slice(0, 4)).toEqual([5, 5, 5, 0]);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    const before = first.width;
    await page.keyboard.down('Control');
    await page.mouse.wheel(0, -120);
    await page.keyboard.up('Control');
    await expect.poll(async () => (await cells(page).nth(0).boundingBox())!.width).toBeGreaterThan(before);
    await page.keyboard.press('-');
    await page.keyboard.press('h');
    await page.getByLabel('Headings').selectOption('stars');
    await expect(page.getByText('5★ · 3')).toBeVisible();
    await expect(page.getByText(/^no stars · \d+$/)).toBeVisible();
    // By sharpness: what was not measured yet is measured now, and comes into order.
    await page.getByLabel('Headings').selectOption('none');
    await page.getByLabel('Order', { exact: true }).selectOption('sharpness');
    await expect
      .poll(async () => (await columns(page)).measures.every((its) => its !== null), { timeout: 60_000 })
      .toBe(true);
    const { id, measures } = await columns(page);
    // The first number of what is measured; `-` where nothing tells.
    const sharp = measures.map((its) => Number(String(its).split(' ')[0]!.replace('-', '-1')));
    const sharpest = [...id.keys()].sort((a, b) => sharp[b]! - sharp[a]!)[0]!;
    await expect(page.getByText(/not measured yet/)).toBeHidden();
    await page.keyboard.press('Home');
    await expect.poll(() => new URL(page.url()).searchParams.get('frame')).toBe(id[sharpest]);
    await page.getByLabel('Order', { exact: true }).selectOption('name back');
    const { name } = await columns(page);
    const last = [...name].map(String).sort().at(-1)!;
    await page.keyboard.press('Home');
    await expect(page.getByRole('option').first()).toHaveAccessibleName(
      new RegExp(`Frame ${/\d+$/.exec(last)![0]},`),
    );
    await page.getByLabel('Order', { exact: true }).selectOption('time');
    await page.getByLabel('Headings').selectOption('hour');
    // Each choice says how many frames it shows, and a chip says what hides the others.
    await page.getByText('ISO', { exact: true }).click();
    const choice = page.locator('details').filter({ hasText: 'ISO' }).getByRole('button').first();
    const frames = Number(await choice.locator('span').last().textContent());
    await choice.click();
    await expect(position(page)).toHaveText(new RegExp(`of ${frames}$`));
    await expect(page.getByRole('button', { name: /^ISO \d/ })).toBeVisible();
    await page.keyboard.press('Backspace');
    await page.keyboard.press('h');
  });

  test('tones, what is clipped and what is sharp are shown at a key each', async ({ page }) => {
    await page.keyboard.press('Shift+H');
    const tones = page.getByRole('region', { name: 'Tones' });
    await expect(tones).toContainText(/dark .*%.*blown .*%/);
    for (const [key, over] of [
      ['Shift+C', 'clipping'],
      ['Shift+F', 'focus'],
    ] as const) {
      await page.keyboard.press(key);
      await expect(page.locator(`canvas[data-over=${over}]`)).toBeVisible();
      // A step shows the next frame's, at its own place.
      await page.keyboard.press('ArrowRight');
      await expect(page.locator(`canvas[data-over=${over}]`)).toBeVisible();
      await page.keyboard.press(key);
      await expect(page.locator('canvas[data-over]')).toHaveCount(0);
    }
    await page.keyboard.press('Shift+H');
    await expect(tones).toBeHidden();
  });

  test('a filter and a layout are kept by name, and a filter goes along where that is wanted', async ({
    page,
  }) => {
    await page.keyboard.press('h');
    const drawer = page.getByRole('complementary', { name: 'Filter' });
    await page.keyboard.press('q');
    await page.keyboard.press('+');
    await drawer.getByText('Layouts').click();
    await drawer.getByLabel('Name for layouts').fill('Large sheet');
    await drawer.getByRole('button', { name: 'Keep', exact: true }).first().click();
    await expect(drawer.getByRole('button', { name: /^Large sheet/ })).toBeVisible();
    await page.keyboard.press('Escape');
    await page.keyboard.press('w');
    await expect(cells(page)).toHaveCount(0);
    await page.keyboard.press('Shift+Digit1');
    await expect(cells(page).first()).toBeVisible();
    await expect(page.getByText('Layout: Large sheet')).toBeVisible();
    await drawer.getByRole('button', { name: /^undecided/ }).click();
    await drawer.getByText('Kept filters').click();
    await drawer.getByLabel('Name for kept filters').fill('To do');
    await drawer.getByRole('button', { name: 'Keep', exact: true }).nth(1).click();
    await drawer.getByLabel('the same filter in every shoot').check();
    const others = (await (await page.request.get('/api/shoots')).json()) as { id: string; frames: number }[];
    const other = others.find(({ id, frames }) => id !== shootId && frames > 0);
    if (other) {
      await page.goto(`/shoots/${other.id}/cull`);
      await expect(page.getByRole('region', { name: 'What hides frames' })).toContainText('undecided');
      await page.goto(`/shoots/${shootId}/cull`);
    }
    await expect(page.getByRole('region', { name: 'What hides frames' })).toContainText('undecided');
    if (await drawer.isHidden()) await page.keyboard.press('h');
    await drawer.getByLabel('the same filter in every shoot').uncheck();
    await page.keyboard.press('Backspace');
    await drawer.getByRole('button', { name: /^To do/ }).click();
    await expect(page.getByRole('region', { name: 'What hides frames' })).toContainText('undecided');
    await page.keyboard.press('Backspace');
    for (const name of ['To do', 'Large sheet'])
      await drawer.getByRole('button', { name: `Forget ${name}` }).click();
    await expect(drawer.getByRole('button', { name: /^Large sheet/ })).toHaveCount(0);
    await page.keyboard.press('h');
  });

  test('keep, reject and “keep this, reject the rest” write what the studio’s rules read', async ({
    page,
  }) => {
    const rules = (keeper: object, reject: object) =>
      page.request.patch('/api/settings', {
        data: { rules: { keeper, reject } },
        headers: { 'x-arkiv': '1' },
      });
    await rules({ field: 'stars', atLeast: 4 }, { field: 'stars', is: 1 });
    try {
      // Come to anew, the screen stands when it knows the rules.
      await page.reload();
      await expect(position(page)).toHaveText(/^frame 1 of/);
      await page.keyboard.press('f');
      await page.keyboard.press('ArrowRight');
      await page.keyboard.press('d');
      await expect.poll(async () => (await columns(page)).stars.slice(0, 3)).toEqual([5, 1, 0]);
      expect(await verdicts(page, 2)).toEqual(['undecided', 'undecided']);
    } finally {
      await rules({ field: 'verdict', is: 'keep' }, { field: 'verdict', is: 'reject' });
    }
  });

  test('steps on after the marks that it is wanted after, and after no others', async ({ page }) => {
    await page.keyboard.press('h');
    const after = (name: string) => page.getByRole('checkbox', { name });
    await expect(after('keep or reject')).not.toBeChecked();
    await after('keep or reject').check();
    await expect(after('stars')).not.toBeChecked();
    await page.keyboard.press('Escape');
    await expect(page.getByText('step on after marking')).toBeVisible();
    await page.keyboard.press('3');
    await expect(position(page)).toHaveText(/^frame 1 of/);
    await page.keyboard.press('f');
    await expect(position(page)).toHaveText(/^frame 2 of/);
    // A frame that is kept already is gone on from as well.
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.press('f');
    await expect(position(page)).toHaveText(/^frame 2 of/);
    await page.reload();
    await expect(position(page)).toHaveText(/^frame 2 of/);
    await page.keyboard.press('4');
    await expect.poll(async () => (await columns(page)).stars.slice(0, 2)).toEqual([3, 4]);
    await expect(position(page)).toHaveText(/^frame 2 of/);
    await page.keyboard.press('a');
    await page.keyboard.press('f');
    await expect.poll(() => verdicts(page, 2)).toEqual(['keep', 'keep']);
    await expect(position(page)).toHaveText(/^frame 2 of/);
  });

  test('frames go into piles at a key, by their digit, by a name or by a click, and are seen over all shoots', async ({
    page,
  }) => {
    const line = page.getByLabel('Into the pile: its digit or its name');
    const piles = async () =>
      (await columns(page)).piles.map((its) => String(its).split('+').filter(Boolean).length);
    // The first one: there is none yet, so the key asks for it.
    await page.keyboard.press('v');
    await line.fill('Album picks');
    await line.press('Enter');
    await expect(page.getByText('in Album picks')).toBeVisible();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('v');
    await expect.poll(async () => (await piles()).slice(0, 3)).toEqual([1, 1, 0]);
    await page.keyboard.press('v');
    await expect.poll(async () => (await piles()).slice(0, 3)).toEqual([1, 0, 0]);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await piles()).slice(0, 3)).toEqual([1, 1, 0]);
    // A second one from the drawer, by hand; then by digit and by click.
    await page.keyboard.press('h');
    await page.getByRole('button', { name: 'Put into a pile …' }).click();
    await line.fill('For the wall');
    await line.press('Enter');
    await expect(page.getByText('in Album picks, For the wall')).toBeVisible();
    await page.keyboard.press('Escape');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Shift+V');
    await page.keyboard.press('2');
    await expect(page.getByText('in For the wall')).toBeVisible();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Shift+V');
    await page.getByRole('button', { name: '1 Album picks' }).click();
    await expect(line).toBeHidden();
    await expect.poll(async () => (await piles()).slice(0, 4)).toEqual([1, 2, 1, 1]);
    // Only the pile, and all again.
    await page.keyboard.press('t');
    await expect(position(page)).toHaveText(/of 3$/);
    // All again, and off to the pile before the address has followed: Back leads to what was seen last.
    await page.keyboard.press('t');
    await page.keyboard.press('Shift+T');
    await expect(page.getByRole('heading', { name: 'Pile: Album picks' })).toBeVisible();
    await expect(cells(page)).toHaveCount(3);
    await page.getByRole('button', { name: 'Empty …' }).click();
    await expect(page.getByText('Takes 3 frames out of the pile. No file is touched')).toBeVisible();
    await page.getByRole('button', { name: 'Take them out' }).click();
    await expect(page.getByText('Nothing is in it.')).toBeVisible();
    await page.goBack();
    await expect(position(page)).toBeVisible();
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await piles()).slice(0, 4)).toEqual([1, 2, 1, 1]);
  });

  test('a pass goes through what it begins with, counts what was seen, goes on after a reload, and is taken back', async ({
    page,
  }) => {
    const progress = page.getByText(/ seen · /);
    await page.keyboard.press('f');
    await expect.poll(() => verdicts(page, 1)).toEqual(['keep']);
    const all = (await columns(page)).id.length;
    await page.keyboard.press('m');
    const dialog = page.getByRole('dialog', { name: 'Passes' });
    await expect(dialog.getByRole('button', { name: `undecided · ${all - 1}` })).toBeFocused();
    await page.keyboard.press('Enter');
    // The kept one is none of it; one that is kept in it stays.
    await expect(position(page)).toHaveText(`frame 1 of ${all - 1}`);
    await expect(progress).toContainText(`1 of ${all - 1} seen`);
    await page.keyboard.press('f');
    await page.keyboard.press('ArrowRight');
    await expect(progress).toContainText(`2 of ${all - 1} seen`);
    await page.keyboard.press('d');
    await expect(progress).toContainText('1 kept · 1 rejected');
    await expect(position(page)).toHaveText(`frame 2 of ${all - 1}`);
    // Back at the first, the next that was not seen is the third.
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.press('u');
    await expect(position(page)).toHaveText(`frame 3 of ${all - 1}`);
    await expect(progress).toContainText(`3 of ${all - 1} seen`);
    await expect
      .poll(async () => {
        const passes = await (await page.request.get(`/api/shoots/${shootId}/passes`)).json();
        return (passes as { seenCount: number; rejected: number }[])[0];
      })
      .toMatchObject({ seenCount: 3, rejected: 1 });
    await page.reload();
    await expect(position(page)).toHaveText(`frame 3 of ${all - 1}`);
    await expect(progress).toContainText(`3 of ${all - 1} seen`);
    await page.getByRole('button', { name: 'Stop' }).click();
    await expect(position(page)).toHaveText(`frame 4 of ${all}`);
    await page.keyboard.press('m');
    await dialog.getByRole('button', { name: 'What came of it' }).click();
    await expect(dialog.getByRole('img', { name: 'Decisions over time' })).toBeVisible();
    await dialog.getByRole('button', { name: 'Take back …' }).click();
    await dialog.getByRole('button', { name: 'Take the pass back' }).click();
    await expect(dialog.getByText('2 marks taken back.')).toBeVisible();
    expect(await verdicts(page, 3)).toEqual(['keep', 'undecided', 'undecided']);
    await dialog.getByRole('button', { name: 'Go on' }).click();
    await expect(position(page)).toHaveText(`frame 3 of ${all - 1}`);
    await page.keyboard.press('m');
    await expect(progress).toBeHidden();
    // What took the pass back is a decision like others.
    await page.keyboard.press('Control+z');
    await expect.poll(() => verdicts(page, 3)).toEqual(['keep', 'keep', 'reject']);
  });

  test('a pass goes over several shoots by keys alone, shoot by shoot, and two people’s are compared', async ({
    page,
  }) => {
    const send = async (where: string, data: object) =>
      (await page.request.post(`/api${where}`, { data, headers: { 'x-arkiv': '1' } })).json();
    const ended = (jobId: string) =>
      expect
        .poll(async () => (await (await page.request.get(`/api/jobs/${jobId}`)).json()).job.state)
        .toBe('done');
    const { id: all, serial } = await columns(page);
    // Of one body: what two shot at once stands by takes, and not by the second.
    const ids = (all as string[]).filter((_, i) => serial[i] === serial[0]);
    const title = 'Late set';
    const split = await send('/moves', {
      ...{ kind: 'split', shootId, frameIds: ids.slice(-3), title, rename: false },
    });
    await ended(split.jobId);
    const rest = all.length - 3;

    await page.goto('/shoots');
    await page.getByLabel('Title, client or place').fill(title);
    await page.getByRole('button', { name: 'Begin a pass …' }).click();
    const over = page.getByRole('dialog', { name: `A pass over 1 shoot with “${title}”` });
    await expect(over.getByRole('button', { name: 'undecided · 3' })).toBeFocused();
    await accessible(page);
    await page.keyboard.press('Escape');
    await page.getByLabel('Title, client or place').fill('');
    // Over these two shoots, whatever else the archive holds.
    const frames = [ids.at(-1), ids[0], ids[1], ids.at(-2)];
    const pass = await send('/passes', {
      ...{ id: '01K00000000000000000000PA1', name: 'all frames · Ada', over: { frames } },
    });
    await page.goto(`/shoots/${split.shootId}/cull?view=single&frame=${pass.at}&pass=${pass.id}`);
    const line = page.getByText(/shoot \d of 2$/);
    const progress = page.getByText(/ seen · /);
    await expect(line).toHaveText(/shoot 1 of 2$/);
    await expect(position(page)).toHaveText('frame 2 of 2');
    await page.keyboard.press('f');
    await expect(progress).toContainText('1 of 4 seen · 3 left · 1 kept');
    await page.keyboard.press('ArrowLeft');
    await expect(progress).toContainText('2 of 4 seen');
    await page.keyboard.press('End');
    await page.keyboard.press('ArrowRight');
    await expect(page.getByText(/The pass goes on in “.+”, 2 frames not seen: Y/)).toBeVisible();
    await page.keyboard.press('y');
    await expect(line).toHaveText(/shoot 2 of 2$/);
    await expect(position(page)).toHaveText('frame 1 of 2');
    // What was kept in the other shoot still counts, and what was seen there.
    await expect(progress).toContainText('3 of 4 seen');
    await expect(progress).toContainText('1 kept');
    await page.keyboard.press('f');
    await page.keyboard.press('ArrowRight');
    await expect(progress).toContainText('4 of 4 seen');
    await page.keyboard.press('y');
    await expect(page.getByText('No other shoot of this pass has frames that were not seen')).toBeVisible();
    await page.keyboard.press('m');
    await expect(progress).toBeHidden();

    // Another pair of eyes, on what stands there now.
    await page.keyboard.press('m');
    await page.getByLabel('Who goes through').fill('Bo');
    await page.getByRole('button', { name: `all frames · ${rest}` }).click();
    await expect(position(page)).toHaveText(`frame 1 of ${rest}`);
    await expect(progress).toContainText(`1 of ${rest} seen`);
    await page.keyboard.press('d');
    await page.keyboard.press('ArrowRight');
    await expect(progress).toContainText(`2 of ${rest} seen`);
    await page.keyboard.press('f');
    await expect(progress).toContainText('1 kept · 1 rejected');
    await page.keyboard.press('m');
    await expect(progress).toBeHidden();
    await page.keyboard.press('m');
    const compare = page.getByRole('button', { name: 'Compare', exact: true });
    // The newest stands first, once the list knows of it.
    await expect(page.getByText('all frames · Bo')).toBeVisible();
    await compare.first().click();
    await expect(page.getByText('Choose the pass that “all frames · Bo” is compared with.')).toBeVisible();
    await compare.first().click();
    const compared = page.getByRole('region', { name: 'Two passes compared' });
    await expect(compared).toContainText('1only “all frames · Ada” kept');
    await expect(compared).toContainText('1only “all frames · Bo” kept');
    await expect(compared).toContainText('2 frames more, which only one of them has seen.');
    await accessible(page);
    await compared.getByRole('button', { name: 'Look at these' }).nth(2).click();
    await expect(position(page)).toHaveText('frame 1 of 1');
    await page.keyboard.press('m');
    await ended((await send(`/moves/${split.jobId}/undo`, {})).jobId);
  });

  test('rejects are set aside into their own folder, said before, and brought back', async ({ page }) => {
    await page.keyboard.press('d');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('d');
    await expect.poll(() => verdicts(page, 2)).toEqual(['reject', 'reject']);
    await page.goto(`/shoots/${shootId}/files`);
    await page.getByRole('button', { name: 'Rejects' }).click();
    await expect(page.getByText(/ on each of .+ files of 2 frames with their sidecars/)).toBeVisible();
    await page.getByRole('button', { name: 'Set 2 frames aside' }).click();
    await expect(page.getByText('No reject lies among the originals.')).toBeVisible();
    await expect(page.getByText(/^2 frames set aside/)).toBeVisible();
    await page.getByRole('button', { name: 'Bring 2 frames back' }).click();
    await expect(page.getByRole('button', { name: 'Set 2 frames aside' })).toBeEnabled();
    await expect(page.getByText(/frames set aside/)).toBeHidden();
  });

  test('a key that is changed in Studio is the one that Cull hears and lists', async ({ page }) => {
    await page.goto('/studio#keys');
    await page.getByRole('button', { name: 'keep: F, change' }).click();
    await page.keyboard.press('d');
    await expect(page.getByText('It is taken from: reject.')).toBeVisible();
    await page.getByRole('button', { name: 'Take it from there' }).click();
    await expect(page.getByRole('button', { name: 'keep: D, change' })).toBeVisible();
    await expect(page.getByRole('button', { name: 'reject: D, change' })).toHaveCount(0);
    await page.goto(`/shoots/${shootId}/cull`);
    await expect(position(page)).toBeVisible();
    await page.keyboard.press('Home');
    await page.keyboard.press('d');
    await expect.poll(async () => verdicts(page, 1)).toEqual(['keep']);
    await page.keyboard.press('f');
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog')).toContainText(/D · Pad \+\s*keep|Pad \+ · D\s*keep/);
    await page.keyboard.press('Escape');
    // As a file, and back; then as they come.
    await page.goto('/studio#keys');
    const saved = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save as a file' }).click();
    const file = await (await saved).path();
    await page.getByLabel('Set of keys').selectOption('both');
    await expect(page.getByText('All keys are as they come.')).toBeVisible();
    await page.getByLabel('File of keys').setInputFiles(file);
    await expect(page.getByRole('button', { name: 'keep: D, change' })).toBeVisible();
    await page.getByLabel('Set of keys').selectOption('both');
    await expect(page.getByText('All keys are as they come.')).toBeVisible();
  });

  test('on a tablet fingers mark, step, look closer and select', async ({ browser, baseURL }) => {
    // Chromium's own tablet, whatever the profile names its browser.
    const { defaultBrowserType: _, ...tablet } = devices['Galaxy Tab S4 landscape']!;
    const context = await browser.newContext({ ...tablet, baseURL });
    const page = await context.newPage();
    try {
      await page.goto(`/shoots/${shootId}/cull`);
      await expect(position(page)).toBeVisible();
      const bar = page.getByRole('toolbar', { name: 'Marks and steps' });
      if (await bar.getByRole('button', { name: 'Single' }).isVisible())
        await bar.getByRole('button', { name: 'Single' }).tap();
      while (!/^frame 1 of/.test((await position(page).textContent())!))
        await bar.getByRole('button', { name: 'previous frame' }).tap();
      await bar.getByRole('button', { name: 'Keep' }).tap();
      await expect.poll(async () => verdicts(page, 1)).toEqual(['keep']);
      await bar.getByRole('button', { name: '★' }).tap();
      await page.getByRole('toolbar', { name: 'Stars' }).getByRole('button', { name: '4★' }).tap();
      await expect.poll(async () => (await columns(page)).stars[0]).toBe(4);
      // What is wanted now and then is one tap further.
      await bar.getByRole('button', { name: 'More' }).tap();
      await page.getByRole('toolbar', { name: 'More' }).getByRole('button', { name: 'Note' }).tap();
      await page.getByRole('textbox', { name: 'Note to whoever edits it' }).fill('by finger');
      await page.getByRole('button', { name: /^Write/ }).tap();
      await expect.poll(async () => (await columns(page)).note[0]).toBe('by finger');
      await bar.getByRole('button', { name: 'Undo' }).tap();
      await expect.poll(async () => (await columns(page)).note[0]).toBeNull();
      // A swipe steps, two taps look closer.
      const box = (await page.getByTestId('stage').boundingBox())!;
      const cdp = await context.newCDPSession(page);
      const touch = (
        type: 'touchStart' | 'touchMove' | 'touchEnd',
        points: { x: number; y: number }[],
        timestamp?: number,
      ) => cdp.send('Input.dispatchTouchEvent', { type, touchPoints: points, timestamp });
      const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
      await touch('touchStart', [{ x: x + 120, y }]);
      for (const dx of [60, 0, -60, -120]) await touch('touchMove', [{ x: x + dx, y }]);
      await touch('touchEnd', []);
      await expect(position(page)).toHaveText(/^frame 2 of/);
      // Both within a fifth of a second by the hand's clock, however slow the machine is.
      const tapped = Date.now() / 1000;
      await touch('touchStart', [{ x, y }], tapped);
      await touch('touchEnd', [], tapped + 0.05);
      await touch('touchStart', [{ x, y }], tapped + 0.15);
      await touch('touchEnd', [], tapped + 0.2);
      await expect(detail(page)).toHaveText(/100 %/);
      // Two fingers go together: further away.
      await touch('touchStart', [
        { x: x - 200, y },
        { x: x + 200, y },
      ]);
      for (const d of [150, 100, 50, 20])
        await touch('touchMove', [
          { x: x - d, y },
          { x: x + d, y },
        ]);
      await touch('touchEnd', []);
      await expect(detail(page)).toHaveText(/at this size/);
      // A long press selects on the sheet.
      await bar.getByRole('button', { name: 'Sheet' }).tap();
      const cell = (await cells(page).nth(3).boundingBox())!;
      await touch('touchStart', [{ x: cell.x + 40, y: cell.y + 40 }]);
      await expect(page.getByText('2 selected')).toBeVisible();
      await touch('touchEnd', []);
      await expect(page.getByText('2 selected')).toBeVisible();
      await bar.getByRole('button', { name: 'Undo' }).tap();
      await bar.getByRole('button', { name: 'Undo' }).tap();
      await expect.poll(async () => verdicts(page, 1)).toEqual(['undecided']);
    } finally {
      await context.close();
    }
  });
});
