// A key in a shoot: how much script it costs in the browser, as Chromium counts it, and how long it takes until the shoot is there
// at all.
import { createRequire } from 'node:module';
import path from 'node:path';
import { CHROMIUM, ROOT } from '../../bootstrap.mjs';

const VIEW = { width: 1280, height: 800 };
/** Presses of each kind, so that the ninety-fifth of a hundred is one that was seen. */
const PRESSED = 40;
/** Milliseconds after a press in which what it set going is counted: a picture of the screen and its effects. */
const QUIET = 120;
const KINDS = {
  step: ['ArrowRight'],
  mark: ['f', 'd', '3', 's'],
  sheet: ['ArrowRight', 'ArrowDown'],
  sheetMark: ['f', 'd', '3', 's'],
};

/**
 * Milliseconds from the address to the first frame, and of script for each kind of key, the 95th of a hundred: of the processor's time
 * that the page's thread had, so that what else runs on the machine does not count as script.
 */
export async function keysIn(server, shootId, frames) {
  const { chromium } = createRequire(path.join(ROOT, 'e2e/package.json'))('@playwright/test');
  const browser = await chromium.launch({
    executablePath: CHROMIUM,
    args: ['--no-sandbox', '--disable-background-networking', '--disable-component-update', '--no-first-run'],
  });
  try {
    const page = await browser.newPage({ viewport: VIEW, locale: 'en-GB' });
    const begun = Date.now();
    await page.goto(`${server.base}/shoots/${shootId}/cull`);
    const many = new Intl.NumberFormat('en-GB').format(frames);
    await page.getByText(`of ${many}`).first().waitFor();
    const opened = Date.now() - begun;
    const cdp = await page.context().newCDPSession(page);
    await cdp.send('Performance.enable', { timeDomain: 'threadTicks' });
    const script = async () => {
      const { metrics } = await cdp.send('Performance.getMetrics');
      return metrics.find(({ name }) => name === 'ScriptDuration').value * 1000;
    };
    const quiet = () => page.waitForTimeout(QUIET);
    await page.waitForTimeout(3000);
    const costs = {};
    for (const [kind, keys] of Object.entries(KINDS)) {
      await page.keyboard.press(kind.startsWith('sheet') ? 'q' : 'w');
      await page.waitForTimeout(1000);
      const took = [];
      for (let i = 0; i < PRESSED; i++) {
        const before = await script();
        await page.keyboard.press(keys[i % keys.length]);
        await quiet();
        took.push((await script()) - before);
      }
      costs[kind] = took.sort((a, b) => a - b)[Math.floor(took.length * 0.95)];
    }
    return { opened, costs };
  } finally {
    await browser.close();
  }
}
