// A gallery of 800 pictures on an emulated telephone, behind a line of 1.6 Mbit/s with 150 ms to and fro: what a client on the way waits
// for. In milliseconds from the first request, with nothing kept in the browser; the limit is what was promised, not another program.
import { createRequire } from 'node:module';
import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { CHROMIUM, ROOT } from '../bootstrap.mjs';
import { freshFolder, jobDone, median, prepareIntake, startServer } from './lib.mjs';

const { ulid } = createRequire(path.join(ROOT, 'apps/server/package.json'))('ulid');
const PORT = 4816;
const FRAMES = 800;
const LINE = { offline: false, latency: 150, downloadThroughput: 1.6e6 / 8, uploadThroughput: 750e3 / 8 };
/** A telephone of the middle of the range has a quarter of this machine's speed. */
const SLOWER = 4;
const LIMITS = { first: 2000, scroll: 1000, frame: 100 };

/**
 * Runs in the page before anything of its own. `firstAreThere`: when each picture of the first screen was there and drawn. Nothing looks again
 * and again: on a slow telephone that would be a good part of what is measured.
 */
const WATCH = `
  const drawn = () => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(() => resolve(performance.now()))));
  const there = (image) => image.complete || new Promise((resolve) => image.addEventListener('load', resolve));
  const allThere = (cells) => Promise.all(cells.map((cell) => there(cell.querySelector('img')))).then(drawn);
  window.firstAreThere = new Promise((resolve) =>
    document.addEventListener('DOMContentLoaded', () => {
      const watch = new IntersectionObserver((all) => {
        watch.disconnect();
        resolve(allThere(all.filter(({ isIntersecting }) => isIntersecting).map(({ target }) => target)));
      });
      // A screen of a telephone has eight.
      for (const cell of [...document.querySelectorAll('.cell')].slice(0, 40)) watch.observe(cell);
    }),
  );
  window.jump = async () => {
    const began = performance.now();
    scrollTo(0, document.documentElement.scrollHeight / 2);
    await drawn();
    // Cells stand in the order of their places: the first that ends below the upper edge is looked for by halves.
    const cells = [...document.querySelectorAll('.cell')];
    let [low, high] = [0, cells.length - 1];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (cells[middle].getBoundingClientRect().bottom > 0) high = middle;
      else low = middle + 1;
    }
    const seen = cells.slice(low, low + 40).filter((cell) => cell.getBoundingClientRect().top < innerHeight);
    return (await allThere(seen)) - began;
  };
`;

export async function gallery({ rounds = 5, log }) {
  log(`Making a card of ${FRAMES} frames …`);
  const card = freshFolder('gallery-card');
  const make = ['tools/demo/make-card.mjs', '--out', card, '--frames', String(FRAMES), '--side', '1500'];
  execFileSync(process.execPath, make, { cwd: ROOT, stdio: 'ignore' });
  const server = await startServer(freshFolder('gallery-data'), PORT);
  const { chromium, devices } = createRequire(path.join(ROOT, 'e2e/package.json'))('@playwright/test');
  const browser = await chromium.launch({
    executablePath: CHROMIUM,
    args: ['--no-sandbox', '--disable-background-networking', '--disable-component-update', '--no-first-run'],
  });
  try {
    const { address, code } = await made(server, card, log);
    const times = { first: [], scroll: [], frame: [] };
    for (let i = 0; i < rounds; i++) {
      const context = await browser.newContext({ ...devices['Pixel 7'] });
      const page = await context.newPage();
      await page.goto(address);
      await page.getByLabel('Your name').fill('Client');
      await page.getByLabel('Pass code').fill(code);
      await page.getByLabel('Pass code').press('Enter');
      await page.locator('.sheet').waitFor();
      // Who has come in once opens the link again: nothing is in the browser's cache.
      await page.goto('about:blank');
      const devtools = await context.newCDPSession(page);
      await devtools.send('Network.enable');
      await devtools.send('Network.clearBrowserCache');
      await devtools.send('Network.emulateNetworkConditions', LINE);
      await devtools.send('Emulation.setCPUThrottlingRate', { rate: SLOWER });
      await page.addInitScript(WATCH);
      await page.goto(address, { waitUntil: 'commit' });
      times.first.push(await page.evaluate('window.firstAreThere'));
      await page.waitForLoadState('load');
      times.scroll.push(await page.evaluate('window.jump()'));
      times.frame.push(await page.evaluate(`(${longestFrame})()`));
      await context.close();
    }
    return [
      figure('gallery.first', 'ms', times.first, LIMITS.first),
      figure('gallery.scroll', 'ms after a jump to the middle', times.scroll, LIMITS.scroll),
      figure('gallery.scroll.frame', 'ms, the longest frame of a drawn scroll', times.frame, LIMITS.frame),
    ];
  } finally {
    await browser.close();
    await server.stop();
  }
}

/** Scrolls as a thumb does, three screens a second for two seconds; the longest that a frame took. */
async function longestFrame() {
  let [longest, last] = [0, performance.now()];
  const until = last + 2000;
  while (last < until) {
    window.scrollBy(0, (3 * window.innerHeight) / 60);
    await new Promise((resolve) => window.requestAnimationFrame(resolve));
    const now = performance.now();
    longest = Math.max(longest, now - last);
    last = now;
  }
  return longest;
}

function figure(name, unit, values, floor) {
  const round = (n) => Number(n.toPrecision(3));
  const value = round(median(values));
  const spread = [round(Math.min(...values)), round(Math.max(...values))];
  return { name, value, unit, floor, ratio: round(value / floor), limit: 1, spread, frames: FRAMES };
}

/** A gallery of all frames of the card. */
async function made(server, card, log) {
  const request = await prepareIntake(server, card, [freshFolder('gallery-drive')]);
  await server.patch('/settings', { requiredCopies: 1 });
  const { jobId, shootId } = await server.post('/intakes', request);
  await jobDone(server, jobId);
  const { columns } = await server.frames(shootId);
  const [group, at] = [ulid(), Date.now()];
  for (let from = 0; from < columns.id.length; from += 500)
    await server.post('/marks', {
      operations: columns.id.slice(from, from + 500).map((subject) => ({
        ...{
          id: ulid(),
          subject,
          kind: 'verdict',
          from: 'undecided',
          to: 'keep',
          at,
          group,
          window: 'bench',
        },
      })),
    });
  log('Making the gallery …');
  const { jobId: making } = await server.post(`/shoots/${shootId}/galleries`, {
    ...{ title: 'Bench', most: 40, withCode: true },
    rights: { choose: true, remark: true, download: false },
  });
  await jobDone(server, making);
  const [{ links }] = await server.get(`/shoots/${shootId}/galleries`);
  return links[0];
}
