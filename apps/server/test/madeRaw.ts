import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { ROOT } from './testArkiv';

/** sRGB colours whose brightness and hue an eye would notice: greys, skin, foliage, sky, and the three primaries halved. */
export const RAW_PATCHES = [
  [255, 255, 255],
  [119, 119, 119],
  [32, 32, 32],
  [198, 146, 124],
  [87, 108, 67],
  [98, 122, 157],
  [128, 40, 40],
  [40, 128, 40],
] as const;

/**
 * A DNG whose sensor saw upright patches side by side, with no picture inside but a thumbnail of 160 pixels, as some
 * cameras write them. Made in a process of its own: the demo's makers are modules of the other kind.
 */
export function makeRaw(file: string, { width = 1600, height = 800, orientation = 1 } = {}): void {
  const script = `
    import { writeFileSync } from 'node:fs';
    import { createRequire } from 'node:module';
    import { writeDng } from ${JSON.stringify(path.join(ROOT, 'tools/demo/tiff.mjs'))};
    const sharp = createRequire(${JSON.stringify(path.join(ROOT, 'package.json'))})('sharp');
    const [width, height, orientation, patches] = ${JSON.stringify([width, height, orientation, RAW_PATCHES])};
    const linear = (v) => (v / 255 <= 0.04045 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4);
    const samples = new Uint16Array(width * height);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        samples[y * width + x] =
          512 + Math.round(linear(patches[Math.floor((x * patches.length) / width)][(y % 2) + (x % 2)]) * (16383 - 512));
    const thumb = await sharp({ create: { width: 160, height: 80, channels: 3, background: '#ff00ff' } }).jpeg().toBuffer();
    const shot = {
      ...{ local: '2026-10-16T20:00:00', offset: '+02:00', millis: 0, exposure: [1, 100], aperture: 4, iso: 100, focal: 50 },
      ...{ orientation, body: { make: 'Ockham', model: 'Five', serial: 'OK5-004217', lens: '35-90mm' } },
    };
    const dng = writeDng(Buffer.from(samples.buffer), null, { bytes: thumb, width: 160, height: 80 }, shot, width, height);
    writeFileSync(${JSON.stringify(file)}, dng);`;
  execFileSync(process.execPath, ['--input-type=module', '-e', script]);
}
