// Renders the plates in tools/demo/plates from the scene code: `node tools/demo/render-plates.mjs [--only leap] [--quick]`.
// Run by hand when the scene changes; the plates are kept in the repository, so nothing else needs a renderer.
import { createServer } from 'node:http';
import { readFile, mkdir } from 'node:fs/promises';
import { createRequire } from 'node:module';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { chromium } from '@playwright/test';
import { PLATES, PLATE_HEIGHT, PLATE_WIDTH } from './plates.mjs';

const here = path.dirname(fileURLToPath(import.meta.url));
const threeBuild = path.dirname(createRequire(import.meta.url).resolve('three'));
const args = process.argv.slice(2);
const quick = args.includes('--quick');
const only = args.includes('--only') ? args[args.indexOf('--only') + 1] : '';
const out = args.includes('--out') ? args[args.indexOf('--out') + 1] : path.join(here, 'plates');

const server = createServer(async (request, response) => {
  const name = path.basename(new URL(request.url, 'http://x').pathname) || 'index.html';
  for (const folder of [
    path.join(here, 'scene'),
    threeBuild,
    path.join(threeBuild, '../examples/jsm/objects'),
  ]) {
    try {
      const body = await readFile(path.join(folder, name));
      response.setHeader('content-type', name.endsWith('.html') ? 'text/html' : 'text/javascript');
      return response.end(body);
    } catch {
      // not in this folder: the next one
    }
  }
  response.writeHead(404).end();
});
await new Promise((resolve) => server.listen(0, '127.0.0.1', resolve));
await mkdir(out, { recursive: true });
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--use-angle=swiftshader',
    '--enable-unsafe-swiftshader',
    '--ignore-gpu-blocklist',
    '--disable-background-networking',
  ],
});
try {
  const page = await browser.newPage();
  page.on('console', (m) => m.type() === 'error' && console.error(m.text()));
  page.on('pageerror', (e) => console.error(String(e)));
  await page.goto(`http://127.0.0.1:${server.address().port}/index.html`);
  await page.waitForFunction(() => window.ready === true);
  for (const plate of PLATES.filter((p) => p.name.includes(only))) {
    const started = Date.now();
    const job = {
      ...plate,
      width: quick ? 900 : PLATE_WIDTH,
      height: quick ? 600 : PLATE_HEIGHT,
      samples: quick ? 8 : (plate.samples ?? 16),
    };
    const url = await page.evaluate((p) => window.renderPlate(p), job);
    const png = Buffer.from(url.slice(url.indexOf(',') + 1), 'base64');
    await sharp(png)
      .jpeg({ quality: 86, mozjpeg: true })
      .toFile(path.join(out, `${plate.name}.jpg`));
    console.log(`${plate.name}: ${((Date.now() - started) / 1000).toFixed(1)} s`);
  }
} finally {
  await browser.close();
  server.close();
}
