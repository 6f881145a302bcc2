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

/** Watches which cells are seen; `window.seenAreThere()` ends when each of their pictures is there. Asking for places would cost layout. */
const WATCH = `
  const seen = new Set();
  const watch = new IntersectionObserver((all) => {
    for (const { target, isIntersecting } of all) seen[isIntersecting ? 'add' : 'delete'](target);
  });
  for (const cell of document.querySelectorAll('.cell')) watch.observe(cell);
  const isThere = (cell) => {
    const image = cell.querySelector('img');
    return image.complete && image.naturalWidth > 0;
  };
  window.seenAreThere = async () => {
    // What is seen by now is told to a new watch after its first frame.
    seen.clear();
    for (const cell of document.querySelectorAll('.cell')) watch.unobserve(cell), watch.observe(cell);
    while (seen.size === 0 || ![...seen].every(isThere)) await new Promise((resolve) => setTimeout(resolve, 20));
    return performance.now();
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
      await page.goto(address, { waitUntil: 'commit' });
      await page.locator('.sheet').waitFor({ state: 'attached' });
      await page.evaluate(WATCH);
      times.first.push(await page.evaluate('seenAreThere()'));
      await page.waitForLoadState('load');
      times.scroll.push(
        await page.evaluate(`(async () => {
          const began = performance.now();
          scrollTo(0, document.documentElement.scrollHeight / 2);
          return (await window.seenAreThere()) - began;
        })()`),
      );
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
