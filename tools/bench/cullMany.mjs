// Cull in a shoot of ten thousand frames: opening, keys, filters, a held arrow, memory. In milliseconds of script as
// Chromium counts them, and as it paints; limits are those that a hand feels, not another program's times.
import { execFileSync } from 'node:child_process';
import { cpSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { CHROMIUM, ROOT } from '../bootstrap.mjs';
import { freshFolder, startServer } from './lib.mjs';
import { keysIn } from './scale/keys.mjs';
import { archiveOf } from './scale/make.mjs';
import { picturesOf } from './scale/pictures.mjs';

const PORT = 4818;
/** A made archive of so many has a shoot of ten thousand. */
const FRAMES = 200_000;
const BIG = '00S' + '0'.repeat(23);
/** Frames that are gone through at full speed; flat over the second half. */
const THROUGH = 2000;
const LIMITS = { open: 1000, script: 6, filter: 40, scrub: 20, release: 100, memory: 900, flat: 1.1 };

const p95 = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length * 0.95)];
const figure = (name, unit, value, floor, more = {}) => {
  const whole = {
    name,
    value: Number(value.toPrecision(3)),
    unit,
    floor,
    ratio: Number((value / floor).toPrecision(3)),
  };
  process.stderr.write(`  ${name} ${whole.value} ${unit}\n`);
  return { ...whole, ...more };
};

export async function cullMany({ log }) {
  const made = await archiveOf(FRAMES, log);
  const data = freshFolder('cull-data');
  rmSync(data, { recursive: true });
  cpSync(made.data, data, { recursive: true, mode: 2 });
  const server = await startServer(data, PORT);
  const { chromium } = createRequire(path.join(ROOT, 'e2e/package.json'))('@playwright/test');
  const browser = await chromium.launch({
    executablePath: CHROMIUM,
    args: ['--no-sandbox', '--disable-background-networking', '--disable-component-update', '--no-first-run'],
  });
  try {
    const { count, columns } = await server.frames(BIG);
    await picturesOf(data, columns.picture.slice(0, THROUGH + 400));
    const results = [];
    const add = (...one) => results.push(figure(...one, { frames: count }));
    const { costs } = await keysIn(server, BIG, count);
    add('cull.script.step', 'ms of script', costs.step, LIMITS.script);
    add('cull.script.mark', 'ms of script', costs.mark, LIMITS.script);
    add('cull.script.sheet', 'ms of script', costs.sheet, LIMITS.script);
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, locale: 'en-GB' });
    const many = new Intl.NumberFormat('en-GB').format(count);
    const where = `${server.base}/shoots/${BIG}/cull`;
    await page.goto(where);
    await page.getByText(`of ${many}`).first().waitFor();
    await page.keyboard.press('q');
    await page.waitForTimeout(500);
    const opened = [];
    for (let i = 0; i < 5; i++) {
      const begun = Date.now();
      await page.goto(where);
      await page.getByRole('option').first().waitFor();
      opened.push(Date.now() - begun);
    }
    add('cull.open10k', 'ms', opened.sort((a, b) => a - b)[2], LIMITS.open);
    add('cull.filter', 'ms of script', await filters(page), LIMITS.filter);
    await page.keyboard.press('w');
    await page.keyboard.press('Home');
    await page.waitForTimeout(1500);
    const held = await scrub(page);
    results.push({
      ...figure('cull.scrub', 'frames a second', held.painted, LIMITS.scrub, { frames: count }),
      ratio: Number((LIMITS.scrub / held.painted).toPrecision(3)),
    });
    add('cull.release', 'ms', held.release, LIMITS.release);
    const memory = await through(page);
    add('cull.memory', 'MB', memory.most, LIMITS.memory);
    add('cull.memory.flat', 'times', memory.end / memory.half, LIMITS.flat);
    return results;
  } finally {
    await browser.close();
    await server.stop();
    rmSync(data, { recursive: true, force: true });
  }
}

/** Script of a change of filter or order. */
async function filters(page) {
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Performance.enable');
  const script = async () =>
    (await cdp.send('Performance.getMetrics')).metrics.find(({ name }) => name === 'ScriptDuration').value *
    1000;
  await page.keyboard.press('h');
  await page.waitForTimeout(1000);
  const took = [];
  const changes = [
    () => page.keyboard.press('k'),
    () => page.keyboard.press('k'),
    () => page.keyboard.press('o'),
    () => page.keyboard.press('o'),
    () => page.getByLabel('Order', { exact: true }).selectOption('stars'),
    () => page.getByLabel('Headings').selectOption('body'),
    () => page.getByLabel('Order', { exact: true }).selectOption('time'),
    () => page.getByLabel('Headings').selectOption('hour'),
  ];
  for (let round = 0; round < 5; round++)
    for (const change of changes) {
      const before = await script();
      await change();
      await page.waitForTimeout(250);
      took.push((await script()) - before);
    }
  await page.keyboard.press('h');
  return p95(took);
}

/** A held arrow over three hundred frames: pictures painted a second, and how long after it the right one stands. */
async function scrub(page) {
  await page.evaluate(() => {
    window.painted = new Set();
    window.going = true;
    const look = () => {
      const image = document.querySelector('[data-testid=stage] img');
      if (image?.complete && image.naturalWidth > 0) window.painted.add(image.alt);
      if (window.going) window.requestAnimationFrame(look);
    };
    window.requestAnimationFrame(look);
  });
  const begun = Date.now();
  await page.keyboard.down('ArrowRight');
  // A held key comes some thirty times a second.
  for (let i = 1; i < 300; i++) {
    await page.keyboard.down('ArrowRight');
    await page.waitForTimeout(Math.max(0, begun + i * 33 - Date.now()));
  }
  await page.keyboard.up('ArrowRight');
  const released = Date.now();
  await page.waitForFunction(() => {
    const image = document.querySelector('[data-testid=stage] img');
    const at = document.querySelector('main')?.textContent ?? '';
    return image?.complete && at.includes(image.alt.replace('Frame ', ''));
  });
  const release = Date.now() - released;
  const painted = await page.evaluate(() => {
    window.going = false;
    return window.painted.size;
  });
  return { painted: painted / ((released - begun) / 1000), release };
}

/** Goes through frames as fast as keys come, and asks what the page's processes take. */
async function through(page) {
  const megabytes = () => {
    const rows = execFileSync('ps', ['-eo', 'rss=,args='], { encoding: 'utf8' }).split('\n');
    const of = rows.filter((row) => row.includes('--type=renderer') && row.includes('chrom'));
    return Math.max(0, ...of.map((row) => Number(row.trim().split(/\s+/)[0]) / 1024));
  };
  await page.keyboard.press('Home');
  let [most, half] = [0, 0];
  for (let i = 1; i <= THROUGH; i++) {
    await page.keyboard.press('ArrowRight');
    if (i % 50 === 0) most = Math.max(most, megabytes());
    if (i === THROUGH / 2) half = megabytes();
  }
  return { most, half, end: megabytes() };
}
