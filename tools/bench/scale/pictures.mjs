// Pictures for frames of a made archive, which has none.
import { constants, copyFileSync, mkdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { ROOT } from '../../bootstrap.mjs';
import { freshFolder } from '../lib.mjs';

const SHAPES = { 'thumb.webp': 512, 'screen.jpg': 2560, 'embedded.jpg': 2560 };

/** Previews of made pictures, kept as the server keeps them, so that a key shows what it shows in a real shoot. */
export async function picturesOf(data, pictures) {
  const require = createRequire(path.join(ROOT, 'apps/server/package.json'));
  const sharp = require('sharp');
  const { MAKER_VERSION } = require('@arkiv/core');
  const made = freshFolder('scale-pictures');
  for (const [name, side] of Object.entries(SHAPES))
    await sharp({
      create: { width: side, height: Math.round((side * 2) / 3), channels: 3, background: '#567' },
    })
      .composite([{ input: Buffer.from(WAVES), tile: true, blend: 'overlay' }])
      .toFile(path.join(made, name));
  for (const key of pictures) {
    const folder = path.join(data, 'previews', `v${MAKER_VERSION}`, key.slice(0, 2));
    mkdirSync(folder, { recursive: true });
    for (const name of Object.keys(SHAPES))
      copyFileSync(path.join(made, name), path.join(folder, `${key}.${name}`), constants.COPYFILE_FICLONE);
  }
}

const WAVES = `<svg xmlns="http://www.w3.org/2000/svg" width="64" height="48">
  <path d="M0 12q16-12 32 0t32 0v24q-16 12-32 0t-32 0z" fill="#c96"/></svg>`;
