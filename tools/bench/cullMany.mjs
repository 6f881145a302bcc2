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
const LIMITS = {
  open: 1000,
  script: 6,
  filter: 40,
  scrub: 20,
  release: 100,
  memory: 900,
  flat: 1.1,
  mark: 1,
  cold: 100,
  scroll: 150,
  slider: 300,
};

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
    add('takes.slider', 'ms', await slider(page), LIMITS.slider);
    await page.keyboard.press('w');
    await page.keyboard.press('Home');
    await page.waitForTimeout(1500);
    const held = await scrub(page);
    results.push({
      ...figure('cull.scrub', 'frames a second', held.painted, LIMITS.scrub, { frames: count }),
      ratio: Number((LIMITS.scrub / held.painted).toPrecision(3)),
    });
    add('cull.release', 'ms', held.release, LIMITS.release);
    add('cull.mark', 'pictures of the screen', await marks(page), LIMITS.mark);
    add('cull.next-cold', 'ms', await cold(page), LIMITS.cold);
    add('cull.scroll', 'ms of an empty row', await scroll(page), LIMITS.scroll);
    await page.keyboard.press('w');
    const memory = await through(page);
    add('cull.memory', 'MB', memory.most, LIMITS.memory);
    add('cull.memory.flat', 'times', memory.end / memory.half, LIMITS.flat);
    add('cull.memory.needed', 'MB', memory.endNeeded, LIMITS.memory);
    add('cull.memory.needed.flat', 'times', memory.endNeeded / memory.halfNeeded, LIMITS.flat);
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
  // The processor's time that the page's thread had: what else runs on the machine is no script.
  await cdp.send('Performance.enable', { timeDomain: 'threadTicks' });
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

/** A move of the slider that groups loosely or strictly: from the change until the number of takes is another one on the screen. */
async function slider(page) {
  await page.keyboard.press('h');
  await page.getByRole('slider', { name: 'How strictly frames are grouped' }).waitFor();
  await page.waitForTimeout(1000);
  const took = await page.evaluate(async () => {
    const input = document.querySelector('input[aria-label="How strictly frames are grouped"]');
    const said = () => input.closest('section').querySelector('[role=status]').textContent;
    const set = Object.getOwnPropertyDescriptor(window.HTMLInputElement.prototype, 'value').set;
    const frame = () => new Promise((resolve) => window.requestAnimationFrame(resolve));
    const times = [];
    for (let i = 0; i < 24; i++) {
      const before = said();
      const begun = performance.now();
      set.call(input, String(i % 2 === 0 ? -1 : 1));
      input.dispatchEvent(new window.Event('input', { bubbles: true }));
      while (said() === before && performance.now() - begun < 3000) await frame();
      // The frame in which it is painted.
      await frame();
      times.push(performance.now() - begun);
    }
    return times;
  });
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

/** Pictures of the screen from a key to its mark: one, if what the first shows after the key has it. */
async function marks(page) {
  await page.evaluate(() => {
    window.counts = [];
    const said = () => document.querySelector('[data-testid=marks]')?.textContent ?? '';
    window.addEventListener(
      'keydown',
      () => {
        const before = said();
        let pictures = 0;
        const look = () => {
          pictures += 1;
          if (said() !== before || pictures > 60) window.counts.push(pictures);
          else window.requestAnimationFrame(look);
        };
        window.requestAnimationFrame(look);
      },
      { capture: true },
    );
  });
  await page.keyboard.press('0');
  for (let i = 0; i < 40; i++) {
    await page.keyboard.press(String(1 + (i % 5)));
    await page.waitForTimeout(60);
  }
  await page.keyboard.press('0');
  // The first may have changed nothing.
  return p95((await page.evaluate(() => window.counts)).slice(1));
}

/** From a jump to a frame that was never seen to anything that shows which it is: its thumbnail at least. */
async function cold(page) {
  const took = [];
  for (let i = 0; i < 20; i++) {
    // Frames that pictures were made for, far from each other and from where the arrow was held.
    const number = 400 + i * 90;
    await page.keyboard.press('n');
    await page.keyboard.type(String(number));
    const begun = Date.now();
    await page.keyboard.press('Enter');
    await page.waitForFunction(() => {
      const image = document.querySelector('[data-testid=stage] img');
      const at = document.querySelector('main')?.textContent ?? '';
      return image?.complete && image.naturalWidth > 0 && at.includes(image.alt.replace('Frame ', ''));
    });
    took.push(Date.now() - begun);
    await page.waitForTimeout(200);
  }
  return p95(took);
}

/** The sheet rushes by at 3,000 pixels a second: the longest time in which any place of it that a row stands at is empty. */
async function scroll(page) {
  await page.keyboard.press('q');
  await page.keyboard.press('Home');
  await page.waitForTimeout(1000);
  return page.evaluate(
    () =>
      new Promise((resolve) => {
        const sheet = document.querySelector('[role=listbox]');
        const box = [sheet, ...sheet.querySelectorAll('*'), sheet.parentElement].find(
          (element) => element.scrollHeight > element.clientHeight + 1000,
        );
        const begun = performance.now();
        let [longest, since] = [0, null];
        const look = (now) => {
          box.scrollTop = ((now - begun) / 1000) * 3000;
          const room = box.getBoundingClientRect();
          const rows = [...sheet.querySelectorAll('[role=option]')].map((cell) =>
            cell.getBoundingClientRect(),
          );
          // The largest stretch of the room that no row covers; a heading and the space between rows are smaller than a row.
          const edges = [...new Set(rows.map(({ top }) => Math.round(top)))].sort((a, b) => a - b);
          const height = rows[0]?.height ?? Infinity;
          let [at, hole] = [room.top, rows.length === 0 ? Infinity : 0];
          for (const top of edges) {
            if (top + height < room.top) continue;
            if (top > room.bottom) break;
            hole = Math.max(hole, top - at);
            at = top + height;
          }
          hole = Math.max(hole, room.bottom - at);
          if (hole < height) since = null;
          else {
            since ??= now;
            longest = Math.max(longest, now - since + 1000 / 60);
          }
          if (now - begun < 6000) window.requestAnimationFrame(look);
          else resolve(longest);
        };
        window.requestAnimationFrame(look);
      }),
  );
}

/** Goes through frames as fast as keys come, and asks what the page's processes take. */
async function through(page) {
  const megabytes = () => {
    const rows = execFileSync('ps', ['-eo', 'rss=,args='], { encoding: 'utf8' }).split('\n');
    const of = rows.filter((row) => row.includes('--type=renderer') && row.includes('chrom'));
    return Math.max(0, ...of.map((row) => Number(row.trim().split(/\s+/)[0]) / 1024));
  };
  const devtools = await page.context().newCDPSession(page);
  /** What the page itself needs: without what is garbage, and without decoded pictures that the browser lets go of where room is short. */
  const needed = async () => {
    for (let i = 0; i < 3; i++) await devtools.send('HeapProfiler.collectGarbage');
    await devtools.send('Memory.simulatePressureNotification', { level: 'critical' });
    await page.waitForTimeout(2000);
    return megabytes();
  };
  await page.keyboard.press('Home');
  let [most, half, halfNeeded] = [0, 0, 0];
  for (let i = 1; i <= THROUGH; i++) {
    await page.keyboard.press('ArrowRight');
    if (i % 50 === 0) most = Math.max(most, megabytes());
    if (i === THROUGH / 2) [half, halfNeeded] = [megabytes(), await needed()];
  }
  const end = megabytes();
  const endNeeded = await needed();
  await devtools.detach();
  return { most, half, end, halfNeeded, endNeeded };
}
