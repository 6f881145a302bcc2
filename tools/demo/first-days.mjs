// What the demo's studio did before today: one shoot is taken in and half culled; two cards wait in the reader. All of
// it through the server's own interface, so that every copy is read back and every receipt is real.
import { ulid } from 'ulid';
import { client } from '../client.mjs';
import { destinations } from './destinations.mjs';
import { earlierYears } from './earlier.mjs';
import { firstEdits } from './edits.mjs';
import { gallery } from './gallery.mjs';
import { firstWords } from './words.mjs';

const PAUSE = 150;
/** Milliseconds that taking in the demo's hundred frames may take on a slow machine. */
const PATIENCE = 300_000;

/** Takes a card in from a slot and waits until each copy is proven. Returns the shoot's id. */
export async function takeIn(base, slot, about) {
  const { get, post } = client(base);
  const card = await get(`/readers/${slot}/card`);
  const volumes = await get('/volumes');
  const settings = await get('/settings');
  const { jobId, shootId } = await post('/intakes', {
    readerId: slot,
    fingerprint: card.fingerprint,
    pattern: settings.pattern,
    folders: settings.folders,
    seqStart: 1,
    zoneMinutes: 120,
    targets: volumes.filter((volume) => volume.role !== 'edit').map((volume) => volume.id),
    ...about,
  });
  for (const begun = Date.now(); Date.now() - begun < PATIENCE;) {
    const { job } = await get(`/jobs/${jobId}`);
    if (job.state === 'done') return shootId;
    if (job.state !== 'running' && job.state !== 'queued') throw new Error(`${job.title}: ${job.reason}`);
    await new Promise((resolve) => setTimeout(resolve, PAUSE));
  }
  throw new Error(`Taking in ${about.title} took longer than five minutes.`);
}

/** Decides on the first part of a shoot as a photographer would: the best of each take kept, its others rejected. */
export async function cullHalf(base, shootId) {
  const { frames, post } = client(base);
  const { columns, count } = await frames(shootId);
  const [window, at] = [ulid(), Date.now()];
  // Each frame is a decision of its own, and is taken back alone.
  const groups = columns.id.map(() => ulid());
  const operations = [];
  const mark = (i, field, from, to) =>
    operations.push({
      id: ulid(),
      subject: columns.id[i],
      kind: field,
      from,
      to,
      at,
      group: groups[i],
      window,
    });
  let kept = 0;
  for (let i = 0; i < Math.floor(count / 2); i++) {
    const pause = i === 0 || columns.instant[i] - columns.instant[i - 1] > 5000;
    if (pause) {
      mark(i, 'verdict', 'undecided', 'keep');
      mark(i, 'stars', 0, 3 + (kept % 3));
      if (kept % 4 === 0) mark(i, 'label', null, 'M');
      kept += 1;
    } else if (i % 4 !== 2) mark(i, 'verdict', 'undecided', 'reject');
  }
  await post('/marks', { operations });
}

/** Puts an empty archive into the state of the demo's first morning. */
export async function firstDays(base) {
  const { get, post, patch } = client(base);
  if ((await get('/shoots')).length > 0) return;
  const words = (name = '', meaning = '') => ({ name, meaning });
  await patch('/settings', {
    studio: 'Ockham & Daughters',
    creator: 'Ines Ockham',
    welcomed: true,
    finishes: [
      { name: 'Shelf light', values: 'exposure=0.35,temperature=-18,highlights=-20,shadows=15' },
      { name: 'Newsprint', values: 'contrast=25,mono=yellow' },
    ],
    labelWords: {
      A: words('Press', 'goes to the newspaper first'),
      B: words(),
      M: words('Print', 'large, for the wall'),
      S: words(),
      P: words(),
    },
  });
  await earlierYears(base, takeIn);
  await post('/stand-ins/slots/slot-1/insert', { card: 'catalogue' });
  const shootId = await takeIn(base, 'slot-1', {
    title: 'Autumn catalogue',
    date: '2026-09-24',
    client: 'Hollow Lane Pottery',
    place: 'The kiln house',
  });
  await cullHalf(base, shootId);
  await firstWords(base, shootId);
  await firstEdits(base, shootId);
  await destinations(base);
  await gallery(base, shootId);
  await post('/stand-ins/slots/slot-1/insert', { card: 'press-night-a' });
  await post('/stand-ins/slots/slot-2/insert', { card: 'press-night-b' });
}
