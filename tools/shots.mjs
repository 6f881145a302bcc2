// `npm run shots`: drives the demo through its screens and keeps one picture of each in docs/screenshots.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, rmSync, symlinkSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { createRequire } from 'node:module';
import { CHROMIUM, ensureBuilt, ensureInstalled, ROOT } from './bootstrap.mjs';

await ensureInstalled();
await ensureBuilt();
const { chromium } = createRequire(path.join(ROOT, 'e2e/package.json'))('@playwright/test');
const { makeCard } = await import('./demo/make-card.mjs');
const { firstDays, takeIn } = await import('./demo/first-days.mjs');
const { EARLIER } = await import('./demo/earlier.mjs');
const out = path.join(ROOT, 'docs/screenshots');
mkdirSync(out, { recursive: true });
const data = mkdtempSync(path.join(os.tmpdir(), 'arkiv-shots-'));
const cards = path.join(data, 'stand-ins/cards');
mkdirSync(cards, { recursive: true });
const earlier = EARLIER.map(({ card }) => card);
for (const card of ['press-night-a', 'press-night-b', 'catalogue', 'regatta-1', 'regatta-2', ...earlier]) {
  const kept = path.join(ROOT, 'data/stand-ins/cards', card);
  if (existsSync(kept)) symlinkSync(kept, path.join(cards, card));
  else await makeCard(path.join(cards, card), { card, log: console.log });
}

const PORT = 4792;
const server = spawn(process.execPath, ['apps/server/dist/main.js'], {
  cwd: ROOT,
  stdio: ['ignore', 'ignore', 'inherit'],
  env: {
    ...process.env,
    ARKIV_DATA: data,
    ARKIV_PORT: String(PORT),
    ARKIV_STAND_INS: '1',
    ARKIV_WEB: path.join(ROOT, 'apps/web/dist'),
  },
});
const base = `http://127.0.0.1:${PORT}`;
const browser = await chromium.launch({
  executablePath: CHROMIUM,
  args: ['--no-sandbox', '--disable-background-networking'],
});
try {
  for (let i = 0; i < 100 && !(await fetch(`${base}/api/health`).catch(() => null)); i++)
    await new Promise((r) => setTimeout(r, 100));
  const page = await browser.newPage({
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'Europe/Berlin',
  });
  const shot = async (name) => {
    // Pictures further down are fetched when they are come to.
    const isLoaded = () =>
      [...document.images].every(
        (image) => image.complete || image.getBoundingClientRect().top > window.innerHeight,
      );
    await page.waitForFunction(isLoaded, null, { timeout: 120_000 });
    await page.waitForTimeout(900);
    await page.screenshot({ path: path.join(out, `${name}.png`) });
    console.log(name);
  };
  const press = async (...keys) => {
    for (const key of keys) await page.keyboard.press(key);
  };
  const go = (name) => page.getByRole('link', { name }).click();

  await firstDays(base);
  await page.goto(base);
  await page.getByText('press-night-b').first().waitFor();
  // A card says how many frames it has once it was read.
  await page.getByText('reading the card').first().waitFor({ state: 'hidden', timeout: 120_000 });
  await shot('desk');
  await page.goto(`${base}/studio`);
  await page.getByText('In “Autumn catalogue”').first().waitFor();
  await shot('studio');
  await page.goto(`${base}/vocabulary`);
  await page.getByRole('tree').focus();
  await press('Home', 'ArrowRight', 'ArrowDown', 'ArrowDown');
  await page.getByRole('button', { name: 'Rename' }).click();
  await page.getByLabel('New word').fill('deep bowl');
  await page.getByText(/frames in \d+ shoots? follow/).waitFor();
  await shot('vocabulary');
  await page.goto(`${base}/find`);
  await page.getByRole('combobox', { name: 'What is looked for' }).fill('bowl ≥4★ ');
  await page.getByText('Glaze tests').first().waitFor();
  await page.getByRole('combobox', { name: 'What is looked for' }).blur();
  await press('ArrowRight', 'ArrowDown');
  await shot('find');
  const [catalogue] = await (await fetch(`${base}/api/shoots`)).json();
  await page.goto(`${base}/shoots/${catalogue.id}/describe`);
  await page.getByRole('option').nth(3).click();
  await page
    .getByRole('option')
    .nth(8)
    .click({ modifiers: ['Shift'] });
  await page
    .getByPlaceholder(/different in/)
    .first()
    .waitFor();
  await shot('describe');
  await page.goto(`${base}/intake/slot-1`);
  await page.getByRole('textbox', { name: 'Shoot' }).fill('Press night');
  await page.getByLabel('Client').fill('Lantern Row Puppets');
  await page.getByLabel('Place').fill('Mill Stage');
  await page.getByText('Where each file goes').waitFor();
  await page.getByRole('button', { name: 'by hand' }).click();
  const strip = page.getByRole('slider', { name: 'Time of the frames' });
  const { x, y, width } = await strip.boundingBox();
  await page.mouse.click(x + width * 0.83, y + 30);
  await page.getByRole('button', { name: 'Split before this frame' }).click();
  await page.getByLabel(/^Shoot 2/).fill('Curtain call');
  await shot('intake');
  await page.getByRole('button', { name: 'don’t split', exact: true }).click();
  await page.getByRole('button', { name: /and verify$/ }).click();
  await page.getByText('Safe to clear').waitFor({ timeout: 120_000 });
  await shot('receipt');
  await go(/^Cull 57/);
  await page.locator('[data-quality=screen]').waitFor();
  await press(
    'Home',
    'd',
    'ArrowRight',
    'f',
    '3',
    'ArrowRight',
    'd',
    'ArrowRight',
    'ArrowRight',
    'f',
    '4',
    'l',
    '3',
    'ArrowRight',
    'd',
    'ArrowRight',
    'd',
  );
  await press(
    'ArrowRight',
    'f',
    '5',
    'ArrowRight',
    'd',
    'ArrowRight',
    'ArrowRight',
    'd',
    'ArrowRight',
    'd',
    'ArrowRight',
    'ArrowRight',
    'f',
    '4',
    'l',
    '1',
    'ArrowLeft',
    'ArrowLeft',
  );
  await press('Home', 'ArrowRight', 'ArrowRight', 'ArrowRight', 'ArrowRight');
  await page.locator('[data-quality=screen]').waitFor();
  // What is said of the frames of a take comes when their previews were measured.
  await page.getByText('1st').first().waitFor({ timeout: 120_000 });
  await shot('cull-single');
  await press('Alt+g', 'Alt+c');
  await page.getByRole('combobox', { name: 'Shape of the crop' }).selectOption('5:4');
  await press('-', '-', '-', '-', 'ArrowRight', 'ArrowRight', ...Array(9).fill('Shift+ArrowLeft'));
  await page.getByRole('textbox', { name: 'exposure, as a number' }).fill('0.4');
  await press('Enter');
  await page.getByRole('textbox', { name: 'warmth, as a number' }).fill('-30');
  await press('Enter');
  await page.waitForTimeout(800);
  await shot('finish');
  await press('Alt+x', 'Escape', 'Escape');
  await press('e', 'z');
  await page.getByTitle('100 % · full detail').nth(1).waitFor();
  await shot('cull-side');
  await press('z', 'Escape');
  await press('q');
  await shot('cull-sheet');
  await go(/Hand-off/);
  await page.getByRole('button', { name: /^Copy \d/ }).click();
  await page.getByText(/all \d+ verified/).waitFor();
  await shot('handoff');
  await go(/^Deliver/);
  await page.getByRole('button', { name: /^Make \d+ files? and the zip/ }).click();
  await page.getByText(/Download zip/).waitFor();
  await shot('deliver');
  const ask = (where, body) =>
    fetch(`${base}/api${where}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'x-arkiv': '1' },
      body: JSON.stringify(body),
    });
  await ask('/stand-ins/slots/slot-1/insert', { card: 'regatta-1' });
  await takeIn(base, 'slot-1', {
    title: 'Pond regatta',
    date: '2026-10-04',
    client: 'Fernhill Model Sailing Club',
    place: 'Fernhill Pond',
  });
  await ask('/stand-ins/slots/slot-1/insert', { card: 'regatta-2' });
  await go(/^Shoots/);
  await page.getByText('Fernhill Pond').waitFor();
  await shot('shoots');
  await go(/^Albums/);
  await page.getByText('Portfolio').click();
  await page.locator('[role=option]').first().waitFor();
  await shot('albums');
  await go(/^Shoots/);
  await page.getByRole('link', { name: /\d Pond regatta/ }).click();
  await page.locator('[data-quality=screen]').waitFor();
  await press('q');
  await page.getByRole('option').first().waitFor();
  await go('Files');
  await page.getByRole('button', { name: 'Split', exact: true }).click();
  await page.getByRole('button', { name: 'by hand' }).click();
  const course = page.getByRole('slider', { name: 'Time of the frames' });
  await course.scrollIntoViewIfNeeded();
  const axis = await course.boundingBox();
  await page.mouse.click(axis.x + axis.width * 0.55, axis.y + 30);
  await page.getByRole('button', { name: 'Split before this frame' }).click();
  await page.getByLabel(/^Shoot 2/).fill('Prize giving');
  await page.mouse.wheel(0, -2000);
  await shot('files');
  const asked = async (where) => (await fetch(`${base}/api${where}`)).json();
  const potter = (await asked('/shoots')).find(({ title }) => title === 'Autumn catalogue');
  const [{ links }] = await asked(`/shoots/${potter.id}/galleries`);
  await page.goto(links[0].address);
  await page.getByLabel('Your name').fill('Wilma');
  await page.getByLabel('Pass code').fill(links[0].code);
  await press('Enter');
  await page
    .getByRole('button', { name: /^Favourite/ })
    .first()
    .waitFor();
  await page.waitForLoadState('networkidle').catch(() => undefined);
  await shot('gallery');
  await page.goto(`${base}/welcome`);
  await page.getByLabel('Studio', { exact: true }).fill('Ockham & Daughters');
  await page.getByLabel('Creator').fill('Ines Ockham');
  await page.getByLabel('Folder for the main copies').fill('/home/ines/Pictures/Arkiv');
  await page.getByLabel('Folder or drive for the backup copies').fill('/media/ines/Blue drive/Arkiv');
  await page.getByRole('heading', { name: 'Welcome to Arkiv' }).click();
  await shot('welcome');
  await page.goto(`${base}/look`);
  await page.getByText('Loading, empty, trouble').waitFor();
  await page.setViewportSize({ width: 1280, height: 2100 });
  await shot('look');
} finally {
  await browser.close();
  server.kill('SIGTERM');
  await new Promise((resolve) => server.once('exit', resolve));
  rmSync(data, { recursive: true, force: true });
}
