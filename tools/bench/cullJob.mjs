// The culling of one evening as a script does it by keys alone, and marks that are set while a card is copied.
import { createRequire } from 'node:module';
import path from 'node:path';
import { CHROMIUM, ROOT } from '../bootstrap.mjs';
import { makeCard } from '../demo/make-card.mjs';
import { freshFolder, jobDone, prepareIntake, startServer } from './lib.mjs';
import { heavyCard, signalPictures } from './material.mjs';

const PORT = 4819;
const VIEW = { width: 1280, height: 800 };
/** Milliseconds from a key to its mark in the journal: a studio's power cut takes no more than what was pressed since. */
const DURABLE = 50;
/** Key presses a frame: one decides, and a keeper is looked at closely before, and left again. */
const STANDARD = 1.3;
/** Of how many frames one is kept: what an evening for the press brings. */
const KEPT_OF = 8;

const figure = (name, unit, value, floor, more = {}) => {
  process.stderr.write(`  ${name} ${Number(value.toPrecision(3))} ${unit}\n`);
  const ratio = Number((value / floor).toPrecision(3));
  return { name, value: Number(value.toPrecision(3)), unit, floor, ratio, ...more };
};

export async function cullJob({ log }) {
  const { chromium } = createRequire(path.join(ROOT, 'e2e/package.json'))('@playwright/test');
  const server = await startServer(freshFolder('data'), PORT);
  const browser = await chromium.launch({
    executablePath: CHROMIUM,
    args: ['--no-sandbox', '--disable-background-networking', '--disable-component-update', '--no-first-run'],
  });
  try {
    const page = await browser.newPage({ viewport: VIEW, locale: 'en-GB' });
    const drives = [freshFolder('ours-a'), freshFolder('ours-b')];
    const evening = await standard(server, page, drives, log);
    return [evening.figure, await durable(server, page, evening.targets, log)];
  } finally {
    await browser.close();
    await server.stop();
  }
}

/** Every frame of two bodies' evening is seen and decided by keys, each keeper at 100 % before it is kept. */
async function standard(server, page, drives, log) {
  log('making the cards of two bodies …');
  const cards = [];
  for (const card of ['press-night-a', 'press-night-b']) {
    const folder = path.join(freshFolder(`made-${card}`), 'card');
    await makeCard(folder, { card });
    cards.push(folder);
  }
  const first = await prepareIntake(server, cards[0], drives);
  const { jobId, shootId } = await server.post('/intakes', first);
  await jobDone(server, jobId);
  const { readerId, fingerprint } = await prepareIntake(server, cards[1], []);
  const second = { ...first, readerId, fingerprint, shootId };
  await jobDone(server, (await server.post('/intakes', second)).jobId);
  const { count, columns } = await server.frames(shootId);
  let presses = 0;
  const press = async (key) => {
    presses += 1;
    await page.keyboard.press(key);
  };
  const position = page.getByText(new RegExp(`^frame \\d+ of ${count}$`));
  const at = async (n) => {
    await page.getByText(`frame ${n} of ${count}`, { exact: true }).waitFor();
    // Seen is what is painted, not what is asked for.
    await page.waitForFunction(() => {
      const image = document.querySelector('[data-testid=stage] img');
      return image?.complete && image.naturalWidth > 0;
    });
  };
  await page.goto(`${server.base}/shoots/${shootId}/cull?view=single&frame=${columns.id[0]}`);
  await position.waitFor();
  await press('a');
  for (let n = 1; n <= count; n++) {
    await at(n);
    if (n % KEPT_OF !== 0) await press('d');
    else {
      await press('z');
      await page
        .getByTestId('detail')
        .filter({ hasText: /100 % · .*full detail/ })
        .waitFor();
      await press('f');
      if (n < count) await at(n + 1);
      await press('z');
    }
  }
  const decided = (await settled(server, shootId)).verdict;
  const wanted = columns.id.map((_, i) => ((i + 1) % KEPT_OF === 0 ? 'keep' : 'reject'));
  if (JSON.stringify(decided) !== JSON.stringify(wanted))
    throw new Error('not every frame is decided as it was meant');
  const found = figure('cull.standard', 'key presses a frame', presses / count, STANDARD, {
    frames: count,
    presses,
  });
  return { figure: found, targets: first.targets };
}

/** The marks once none is undecided any more. */
async function settled(server, shootId) {
  for (let i = 0; i < 200; i++) {
    const { columns } = await server.frames(shootId);
    if (!columns.verdict.includes('undecided')) return columns;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('marks did not reach the server');
}

/** From key to journal, the 95th of a hundred, while a card of large files is copied to two drives. */
async function durable(server, page, targets, log) {
  const small = freshFolder('card-small');
  await signalPictures(small, 8);
  const { jobId, shootId } = await server.post('/intakes', {
    ...(await prepareIntake(server, small, [])),
    targets,
  });
  await jobDone(server, jobId);
  log('making a card of large files …');
  const heavy = freshFolder('card-heavy');
  await heavyCard(heavy, 120);
  await page.goto(`${server.base}/shoots/${shootId}/cull?view=single`);
  await page.getByText('frame 1 of 8', { exact: true }).waitFor();
  await page.waitForTimeout(2000);
  await page.evaluate(() => {
    window.pressed = [];
    window.answered = [];
    window.addEventListener('keydown', (event) => window.pressed.push(event.timeStamp), { capture: true });
    new window.PerformanceObserver((list) => {
      for (const entry of list.getEntries())
        if (new URL(entry.name).pathname === '/api/marks') window.answered.push(entry.responseEnd);
    }).observe({ type: 'resource' });
  });
  const request = { ...(await prepareIntake(server, heavy, [])), targets, title: 'Heavy' };
  const copying = await server.post('/intakes', request);
  const state = async () => (await server.get(`/jobs/${copying.jobId}`)).job.state;
  while ((await state()) === 'queued') await page.waitForTimeout(50);
  let n = 0;
  for (; n < 100 && (await state()) === 'running'; n++) {
    await page.keyboard.press(String(1 + (n % 5)));
    // One answer for each key: several together would be one batch.
    await page.waitForFunction((wanted) => window.answered.length >= wanted, n + 1);
  }
  const times = await page.evaluate(() => window.pressed.map((at, i) => window.answered[i] - at));
  await jobDone(server, copying.jobId);
  const known = times.filter((time) => Number.isFinite(time)).sort((a, b) => a - b);
  return figure('cull.durable', 'ms', known[Math.floor(known.length * 0.95)], DURABLE, { presses: n });
}
