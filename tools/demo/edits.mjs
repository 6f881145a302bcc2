// What the demo's editor has sent back: a picture cut to its subject, one in black and white, and one that nobody can tell by its name.
import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { client } from '../client.mjs';

/** Saves finished pictures of a shoot's first keepers into its folder for edits, as somebody's program would. */
export async function firstEdits(base, shootId) {
  const { get, frames } = client(base);
  const { columns } = await frames(shootId);
  const { folders, edits } = await get(`/shoots/${shootId}`);
  const keepers = columns.id.flatMap((_, i) => (columns.verdict[i] === 'keep' ? [i] : []));
  const works = [
    [keepers[0], '-final', (picture, { width, height }) => picture.extract(middle(width, height, 4 / 5))],
    [keepers[1], '-bw', (picture) => picture.greyscale().linear(1.15, -12)],
    [keepers[2], null, (picture) => picture.greyscale().resize(900)],
  ].filter(([i]) => i !== undefined);
  for (const [i, ending, work] of works) {
    const { files } = await get(`/opening/frames/${columns.id[i]}`);
    const file = files.find(({ name, whole }) => whole !== null && /\.jpe?g$/i.test(name));
    if (!file) continue;
    const folder = path.join(file.whole.slice(0, -file.path.length), folders[0], edits);
    mkdirSync(folder, { recursive: true });
    const picture = sharp(file.whole);
    const bytes = await work(picture, await picture.metadata())
      .jpeg({ quality: 92 })
      .toBuffer();
    writeFileSync(
      path.join(folder, `${ending === null ? 'for the kiln wall' : columns.name[i] + ending}.jpg`),
      bytes,
    );
  }
}

/** The largest part in the middle that is so wide for its height. */
function middle(width, height, aspect) {
  const wide = Math.min(width, Math.round(height * aspect));
  return { left: (width - wide) >> 1, top: 0, width: wide, height };
}
