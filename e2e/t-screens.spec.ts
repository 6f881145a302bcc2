import { expect, test, type APIRequestContext, type Page } from './test';
import { accessible } from './accessible';

// Every screen, come to as hands come to it; plays after shoots were taken in.

let shootId: string;
test.beforeAll(async ({ request }) => {
  const shoots = (await (await request.get('/api/shoots')).json()) as { id: string; frames: number }[];
  shootId = shoots.find(({ frames }) => frames >= 20)!.id;
});
const insert = (request: APIRequestContext, slot: string, card: string) =>
  request.post(`/api/stand-ins/slots/${slot}/insert`, { data: { card }, headers: { 'x-arkiv': '1' } });
const screens = (): [string, RegExp][] => [
  ['/', /^Desk$/],
  ['/shoots', /^Shoots$/],
  ['/find', /^Find$/],
  ['/arrival', /^Latest arrival/],
  ['/studio', /^Studio$/],
  ['/bin', /^Bin$/],
  ['/duplicates', /^Duplicates$/],
  [`/shoots/${shootId}/cull`, /^Cull$/],
  [`/shoots/${shootId}/handoff`, /^Hand-off$/],
  [`/shoots/${shootId}/deliver`, /^Deliver$/],
  [`/shoots/${shootId}/files`, /^Files$/],
  [`/shoots/${shootId}/history`, /^History$/],
  ['/uploads', /^Upload$/],
  ['/space', /^Space$/],
  ['/archives', /^Archives/],
  ['/guide/cull', /^Cull$/],
  ['/intake/slot-1', /^catalogue$/],
];
const heading = (page: Page, name: RegExp) => page.getByRole('heading', { level: 1, name });

/** Controls of which a part lies where nobody can scroll to, and what is wider than its screen. */
const cutOff = (page: Page) =>
  page.evaluate(() => {
    const wrong: string[] = [];
    const main = document.querySelector('main')!;
    if (main.scrollWidth > main.clientWidth + 1)
      wrong.push(`main is ${main.scrollWidth} of ${main.clientWidth} px`);
    for (const control of document.querySelectorAll<HTMLElement>('a, button, input, select, [role=slider]')) {
      const box = control.getBoundingClientRect();
      if (box.width === 0 || getComputedStyle(control).opacity === '0') continue;
      if (control.closest('[role=listbox], [aria-hidden=true]')) continue;
      const words = (control.getAttribute('aria-label') ?? control.textContent ?? '').slice(0, 40);
      if (box.left < -1 || box.right > innerWidth + 1)
        wrong.push(`${words}: ${box.left}…${box.right} of ${innerWidth}`);
      // What clips without scrolling cuts off for good.
      for (let at = control.parentElement; at; at = at.parentElement) {
        const { overflowX } = getComputedStyle(at);
        const { left, right } = at.getBoundingClientRect();
        if (overflowX === 'hidden' && (box.left < left - 1 || box.right > right + 1))
          wrong.push(`${words}: clipped`);
      }
    }
    return wrong;
  });

/** 640 × 400 is a window of 1280 × 800 at 200 % zoom; a small notebook; a tablet held upright. */
const SIZES = [
  [640, 400],
  [1024, 700],
  [820, 1180],
] as const;

test('no control is cut off at 200 % zoom, on a small screen and on a tablet', async ({ page, request }) => {
  await insert(request, 'slot-1', 'catalogue');
  const atEachSize = async (what: string) => {
    for (const [width, height] of SIZES) {
      await page.setViewportSize({ width, height });
      await expect.poll(() => cutOff(page), { message: `${what} at ${width} × ${height}` }).toEqual([]);
    }
  };
  for (const [path, name] of screens()) {
    await page.goto(path);
    await expect(heading(page, name)).toBeVisible();
    await expect(page.getByText(/^Loading /)).toHaveCount(0);
    await atEachSize(path);
  }
  // The filter too.
  await page.goto(`/shoots/${shootId}/cull`);
  // Its keys are there with its frames.
  await expect(page.getByText(/^frame \d+ of \d+$/).first()).toBeVisible();
  await page.keyboard.press('h');
  await expect(page.getByRole('complementary', { name: 'Filter' })).toBeVisible();
  await atEachSize('the filter');
});

test('each screen is the same after a reload, and after a way to the Desk and back', async ({
  page,
  request,
}) => {
  await insert(request, 'slot-1', 'catalogue');
  for (const [path, name] of screens().slice(1)) {
    await page.goto(path);
    await expect(heading(page, name)).toBeVisible();
    await page.reload();
    await expect(heading(page, name)).toBeVisible();
    await page.getByRole('link', { name: 'Desk' }).first().click();
    await expect(heading(page, /^Desk$/)).toBeVisible();
    await page.goBack();
    await expect(heading(page, name)).toBeVisible();
    expect(new URL(page.url()).pathname).toBe(path);
  }
});

test('a screen that is come to has its title, the focus on its heading, and is announced', async ({
  page,
}) => {
  await page.goto('/');
  await expect(page).toHaveTitle('Desk · Arkiv');
  for (const [words, title, name] of [
    ['Shoots', 'Shoots · Arkiv', /^Shoots$/],
    ['Studio', 'Studio · Arkiv', /^Studio$/],
  ] as const) {
    await page.getByRole('link', { name: new RegExp(`^${words}`) }).click();
    await expect(page).toHaveTitle(title);
    await expect(heading(page, name)).toBeFocused();
    await expect(page.getByRole('status', { name: 'Screen' })).toHaveText(words);
  }
  await page.goto(`/shoots/${shootId}/files`);
  await expect(page).toHaveTitle(/^Files · .+ · Arkiv$/);
  await page.getByRole('link', { name: /^Cull/ }).click();
  await expect(page).toHaveTitle(/^Cull · .+ · Arkiv$/);
});

test('Cull is entered by each link that leads there, and its keys work at once', async ({ page }) => {
  const position = page.getByText(/^frame \d+ of \d+$/).first();
  const keysWork = async () => {
    await expect(position).toBeVisible();
    await page.keyboard.press('w');
    await page.keyboard.press('Home');
    await expect(position).toHaveText(/^frame 1 of/);
    await page.keyboard.press('ArrowRight');
    await expect(position).toHaveText(/^frame 2 of/);
    await page.keyboard.press('5');
    await expect(page.getByTestId('marks')).toContainText('5★');
    await page.keyboard.press('Control+z');
    await expect(page.getByTestId('marks')).not.toContainText('5★');
  };
  await page.goto('/');
  await page.locator(`a[href="/shoots/${shootId}/cull"]`).first().click();
  await keysWork();
  await page.goto('/shoots');
  await page.locator(`a[href="/shoots/${shootId}/cull"]`).first().click();
  await keysWork();
  await page.goto(`/shoots/${shootId}/files`);
  await page.getByRole('link', { name: /^Cull/ }).click();
  await keysWork();
  await page.goto('/arrival');
  const arrived = page.getByRole('option').first();
  const number = /\d+/.exec(
    (await arrived.getAttribute('aria-label'))!.split(',')[0]!.split('_').at(-1)!,
  )![0];
  await arrived.dblclick();
  await expect(page.getByTestId('stage').locator('img')).toHaveAttribute('alt', `Frame ${number}`);
  await page.goBack();
  await expect(heading(page, /^Latest arrival/)).toBeVisible();
  await expect(page.getByRole('option').first()).toBeVisible();
  await page.keyboard.press('Home');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('stage').locator('img')).toHaveAttribute('alt', `Frame ${number}`);
});

test('another card in the slot shows itself, and the first one comes back to what was written for it', async ({
  page,
  request,
}) => {
  await insert(request, 'slot-1', 'catalogue');
  await page.goto('/intake/slot-1');
  const title = page.getByRole('textbox', { name: 'Shoot' });
  await expect(title).toHaveValue('catalogue');
  await title.fill('Spring list');
  await page.getByRole('combobox', { name: 'Client' }).fill('Kiln & Co');
  await page.getByRole('option').nth(1).locator('[data-choice]').click();
  await expect(page.getByText(/^\d+ frames of \d+ taken in, 1 stay on the card$/)).toBeVisible();
  await page.getByRole('button', { name: 'by hand' }).click();
  await page.reload();
  const asLeft = async () => {
    await expect(title).toHaveValue('Spring list');
    await expect(page.getByRole('combobox', { name: 'Client' })).toHaveValue('Kiln & Co');
    await expect(page.getByText(/taken in, 1 stay on the card$/)).toBeVisible();
    await expect(page.getByRole('button', { name: 'by hand' })).toHaveAttribute('aria-pressed', 'true');
  };
  await asLeft();
  await insert(request, 'slot-1', 'regatta-2');
  await expect(heading(page, /^regatta-2$/)).toBeVisible();
  await expect(title).toHaveValue('regatta-2');
  await accessible(page);
  await insert(request, 'slot-1', 'catalogue');
  await expect(heading(page, /^catalogue$/)).toBeVisible();
  await asLeft();
  await page.getByRole('link', { name: 'Desk' }).first().click();
  await page.goBack();
  await asLeft();
});

test('a frame that is looked at and stepped to by keys is where the card is split by hand', async ({
  page,
  request,
}) => {
  await insert(request, 'slot-1', 'regatta-2');
  await page.goto('/intake/slot-1');
  await expect(heading(page, /^regatta-2$/)).toBeVisible();
  await page.getByRole('button', { name: 'by hand' }).click();
  await page.getByRole('option').nth(4).click();
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Split before this frame' }).click();
  await expect(page.getByText('2 shoots', { exact: true })).toBeVisible();
  // It is still taken in, and the key takes the split back.
  await expect(page.getByText(/stay on the card/)).toHaveCount(0);
  await page.keyboard.press('Shift+T');
  await expect(page.getByText('one shoot: nothing to split here')).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+T');
  await expect(page.getByText('2 shoots', { exact: true })).toBeVisible();
});

test('what is on its way is shown as such, and never as none', async ({ page }) => {
  let answer: () => void = () => undefined;
  const held = new Promise<void>((resolve) => (answer = resolve));
  await page.route(
    /\/api\/(shoots\/\w+\/(frames|handoffs|deliveries)|shoots(\?.*)?|volumes|copies\/.*)$/,
    async (route) => {
      await held;
      await route.continue();
    },
  );
  await page.goto(`/shoots/${shootId}/cull`);
  await expect(page.getByText('Loading the frames …')).toBeVisible();
  await expect(page.getByRole('link', { name: /^Cull/ })).not.toContainText('left');
  await expect(page.getByRole('link', { name: /^Hand-off/ })).not.toContainText(/\d/);
  await page.getByRole('link', { name: /^Hand-off/ }).click();
  await expect(page.getByText('Loading the keepers …')).toBeVisible();
  await expect(page.getByText('Nothing yet.')).toHaveCount(0);
  await page.getByRole('link', { name: 'Desk' }).first().click();
  await expect(page.getByText('Loading the shoots …')).toBeVisible();
  await expect(page.getByText('No shoot is archived yet')).toHaveCount(0);
  answer();
  await expect(page.getByText(/^Loading /)).toHaveCount(0);
  await page.goBack();
  await page.goBack();
  await expect(page.getByRole('link', { name: /^Cull/ })).toContainText('left');
});

test('the guide opens at ? on the page of the screen, and leads back; in Cull it is a press from the keys', async ({
  page,
}) => {
  await page.goto('/bin');
  await expect(heading(page, /^Bin$/)).toBeVisible();
  await page.keyboard.press('?');
  await expect(heading(page, /^Drives, and when one fails$/)).toBeVisible();
  await accessible(page);
  await page.getByRole('link', { name: 'All pages of the guide' }).click();
  await page.getByRole('link', { name: 'When the computer is gone' }).click();
  await expect(heading(page, /^When the computer is gone$/)).toBeVisible();
  await page.goBack();
  await page.goBack();
  await page.keyboard.press('?');
  await expect(heading(page, /^Bin$/)).toBeVisible();
  // Whoever writes means the sign.
  await page.getByRole('searchbox').click();
  await page.keyboard.type('heron?');
  await expect(page.getByRole('searchbox')).toHaveValue('heron?');
  await expect(page).toHaveURL(/\/bin$/);
  await page.goto(`/shoots/${shootId}/cull`);
  await expect(heading(page, /^Cull$/)).toBeVisible();
  await page.keyboard.press('?');
  await page.getByRole('dialog').getByRole('link', { name: 'Guide' }).click();
  await expect(page.getByRole('article')).toContainText('The right hand goes');
  await page.getByRole('link', { name: 'Guide to this screen' }).click();
  await expect(heading(page, /^The guide$/)).toBeVisible();
});
