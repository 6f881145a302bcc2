// Key press to painted picture in Cull against a bare page that swaps the same pictures, decoded ahead. When a picture
// was painted is read off the browser's own frames: the first one whose middle has the picture's colour.
import { createRequire } from 'node:module';
import path from 'node:path';
import sharp from 'sharp';
import { CHROMIUM, ROOT } from '../bootstrap.mjs';
import {
  alternate,
  bytesOf,
  compare,
  freshFolder,
  jobDone,
  median,
  prepareIntake,
  startServer,
} from './lib.mjs';
import { signalColour, signalPictures } from './material.mjs';

const VIEW = { width: 1280, height: 800 };
/** Milliseconds between key presses: a quick but human pace. */
const PACE = 220;
/** Milliseconds after which a picture is said never to be painted: so long that only one that never comes takes it. */
const LATEST = 10_000;

export async function cull({ files = 25, rounds = 5, log }) {
  const { chromium } = createRequire(path.join(ROOT, 'e2e/package.json'))('@playwright/test');
  const card = freshFolder('card');
  log(`making ${files} pictures of 24 megapixels …`);
  await signalPictures(card, files);
  const server = await startServer(freshFolder('data'), 4813);
  const browser = await chromium.launch({
    executablePath: CHROMIUM,
    args: ['--no-sandbox', '--disable-background-networking', '--disable-component-update', '--no-first-run'],
  });
  try {
    const request = await prepareIntake(server, card, [freshFolder('ours-a'), freshFolder('ours-b')]);
    const { jobId, shootId } = await server.post('/intakes', request);
    await jobDone(server, jobId);
    const { columns } = await server.frames(shootId);
    const urls = columns.picture.map((sum) => `${server.base}/api/previews/v4/${sum}/screen`);
    for (const url of urls) await bytesOf(url);
    const open = async (where) => {
      const page = await browser.newPage({ viewport: VIEW });
      await page.route('**/bare-page', (route) =>
        route.fulfill({ contentType: 'text/html', body: barePage(urls) }),
      );
      await page.goto(`${server.base}${where}`);
      return page;
    };
    const ours = async () => {
      const page = await open(`/shoots/${shootId}/cull`);
      await page.locator('[data-quality=screen]').waitFor();
      await page.keyboard.press('Home');
      return measure(page, files);
    };
    const floor = async () => {
      const page = await open('/bare-page');
      await page.waitForFunction(() => window.ready);
      return measure(page, files);
    };
    const times = await alternate(rounds, ours, floor);
    const page = await open(`/shoots/${shootId}/cull`);
    await page.locator('[data-quality=screen]').waitFor();
    const full = await closer(page, files);
    return [
      compare('cull.next', 'ms', times.ours, times.floor, { presses: (files - 1) * rounds }),
      {
        name: 'cull.full',
        value: full,
        unit: 'ms',
        floor: FULL,
        ratio: Number((full / FULL).toPrecision(3)),
        presses: files,
      },
    ];
  } finally {
    await browser.close();
    await server.stop();
  }
}

/** Milliseconds until 100 % of 24 megapixels is painted: as long as a hand waits without noticing. */
const FULL = 150;
/** Milliseconds at a frame before it is looked at closely: an eye needs longer to decide that. */
const LOOK = 1500;

/** Milliseconds from a key to full detail at 100 %, painted; the 95th of a hundred. */
async function closer(page, files) {
  await page.keyboard.press('Home');
  const times = [];
  for (let i = 0; i < files - 1; i++) {
    await page.waitForTimeout(LOOK);
    times.push(
      await page.evaluate(
        () =>
          new Promise((resolve) => {
            const stage = document.querySelector('[data-testid=stage]');
            const look = () => {
              if (stage.querySelector('[data-quality=full]'))
                // Painted: the frame after the one in which it was put there.
                window.requestAnimationFrame(() =>
                  window.requestAnimationFrame(() => resolve(performance.now() - window.pressed)),
                );
              else window.requestAnimationFrame(look);
            };
            window.addEventListener('keydown', (event) => (window.pressed = event.timeStamp), {
              once: true,
              capture: true,
            });
            window.addEventListener('keydown', () => look(), { once: true });
            const press = { key: 'z', code: 'KeyZ', bubbles: true };
            document.body.dispatchEvent(new window.KeyboardEvent('keydown', press));
          }),
      ),
    );
    await page.keyboard.press('z');
    await page.keyboard.press('ArrowRight');
  }
  return Number(times.sort((a, b) => a - b)[Math.floor(times.length * 0.95)].toPrecision(3));
}

/** The floor: nothing but the picture, three decoded ahead, swapped at the key. */
const barePage = (urls) => `<!doctype html><title>bare</title>
<style>html,body{margin:0;height:100%;background:#262626;overflow:hidden}img{width:100%;height:100%;object-fit:contain}</style>
<body><script>
const urls = ${JSON.stringify(urls)};
const held = new Map();
const hold = (i) => {
  if (i < 0 || i >= urls.length) return;
  if (!held.has(i)) { const image = new Image(); image.src = urls[i]; held.set(i, image); }
  return held.get(i).decode();
};
let at = 0;
const show = () => { document.body.replaceChildren(held.get(at)); for (let k = 1; k <= 3; k++) hold(at + k); };
Promise.all([0, 1, 2, 3].map(hold)).then(() => { show(); window.ready = true; });
addEventListener("keydown", (event) => { if (event.key === 'ArrowRight' && at < urls.length - 1) { at++; hold(at); show(); } });
</script>`;

/** Median milliseconds from a key's event to the first painted frame with the next picture. */
async function measure(page, files) {
  await page.waitForTimeout(1500);
  const session = await page.context().newCDPSession(page);
  const painted = [];
  session.on('Page.screencastFrame', ({ data, metadata, sessionId }) => {
    painted.push({ at: metadata.timestamp * 1000, data });
    void session.send('Page.screencastFrameAck', { sessionId });
  });
  await page.evaluate(() => {
    window.presses = [];
    window.addEventListener(
      'keydown',
      (event) => window.presses.push(performance.timeOrigin + event.timeStamp),
      true,
    );
  });
  await session.send('Page.startScreencast', { format: 'png', everyNthFrame: 1 });
  for (let i = 1; i < files; i++) {
    await page.keyboard.press('ArrowRight');
    await page.waitForTimeout(PACE);
  }
  // A busy machine paints the last one when it can; how late that was is counted as of any other.
  const last = signalColour(files - 1);
  for (let waited = 0; waited < LATEST; waited += PACE) {
    if (painted.length > 0 && near(await middle(painted.at(-1).data), last)) break;
    await page.waitForTimeout(PACE);
  }
  await session.send('Page.stopScreencast');
  const presses = await page.evaluate(() => window.presses);
  await page.close();
  const frames = await Promise.all(painted.map(async ({ at, data }) => ({ at, colour: await middle(data) })));
  return median(
    presses.map((pressed, i) => {
      const wanted = signalColour(i + 1);
      const frame = frames.find(({ at, colour }) => at >= pressed && near(colour, wanted));
      if (!frame) throw new Error(`picture ${i + 2} was never painted`);
      return frame.at - pressed;
    }),
  );
}

async function middle(data) {
  const { data: pixels, info } = await sharp(Buffer.from(data, 'base64'))
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  // A little left of the middle, so that it is on the patch with and without a column beside the picture.
  const at = (Math.floor(info.height / 2) * info.width + Math.floor(info.width * 0.46)) * 3;
  return [...pixels.subarray(at, at + 3)];
}

/** Within a third of a step between two signal colours. */
const near = (a, b) => a.every((value, i) => Math.abs(value - b[i]) <= 16);
