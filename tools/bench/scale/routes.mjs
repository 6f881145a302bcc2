// Every question that a screen asks of the server by GET. What is asked comes from the program's own contract: a question that stands in
// neither list below breaks the measurement off, so that none is forgotten.
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { ROOT } from '../../bootstrap.mjs';

const { ulid } = createRequire(path.join(ROOT, 'apps/web/package.json'))('ulid');
const { placesBetween } = createRequire(path.join(ROOT, 'apps/server/package.json'))('@arkiv/core');

/** Frames of the largest shoot that are put into an album, a pile and a pass before anything is asked: what one evening leaves. */
const GATHERED = 2000;
/** Marks in one request, as the pages send them. */
const TOGETHER = 500;

/** What is not asked here, and why. */
const LEFT_OUT = {
  '/api/readers/{id}/card': 'lists a card: `card.list`',
  '/api/readers/{id}/listing': 'lists a card: `card.list`',
  '/api/readers/{id}/picture': 'a picture',
  '/api/previews/v{version}/{picture}/{size}': 'a picture',
  '/api/watermarks/{picture}': 'a picture',
  '/api/features/{picture}/sharpest': 'of a picture that no drive here has',
  '/api/frames/{id}/camera': 'reads a file of the frame, and no drive here has it',
  '/api/opening/frames/{id}': 'looks for files on drives that are not here',
  '/api/deliveries/{job}/changes': 'of a set that the program made itself',
  '/api/deliveries/{job}/sheet': 'a file',
  '/api/deliveries/{job}/zip': 'a file',
  '/api/ledger/list.csv': 'a file, written while it is read',
  '/api/albums/text': 'a file',
  '/api/albums/{id}/text': 'a file',
  '/api/vocabulary/text': 'a file',
  '/api/uploads/{id}': 'there is none',
  '/api/uploads/{id}/files': 'there is none',
  '/api/carried/results/{jobId}': 'there is none',
  '/api/bin/{id}/frames': 'the bin is empty',
  '/api/passes/{id}/compare/{other}': 'one pass is not compared with itself',
  '/api/stand-ins': 'the demo’s alone',
  '/api/stand-ins/mailbox': 'the demo’s alone',
  '/api/find/suggestions': '`find.typing`',
  '/api/find/{token}/frames': '`find.words`',
  '/api/find/{token}/ids': '`find.words`',
  '/api/find/{token}/facets': '`find.facets`',
};

/**
 * Cards are listed anew for each question, a shoot's columns are sent whole, a page of variants goes through five thousand moments: these
 * have their own lines. Milliseconds; a second is what nobody's thoughts are interrupted by.
 */
const OWN_FLOOR = { 'frames.largest': 2500, known: 2000, clearance: 3000, summary: 1000, variants: 1000 };
/** Asked less often: each takes long, or is kept for long. */
const SELDOM = new Set(['frames.largest', 'known', 'clearance', 'summary', 'machine']);

/** An album, a pile and a pass, as an evening with the largest shoot leaves them. */
async function gather(server, big) {
  const { columns } = await server.frames(big);
  const frames = columns.id.slice(0, GATHERED);
  const album = await server.post('/albums', { name: 'Best of the year' });
  const pile = await server.post('/piles', { name: 'Maybe' });
  const group = ulid();
  const places = placesBetween(null, null, frames.length);
  for (const [kind, from, to] of [
    [`album ${album.id}`, null, (i) => places[i]],
    [`pile ${pile.id}`, false, () => true],
  ])
    for (let at = 0; at < frames.length; at += TOGETHER) {
      const operations = frames.slice(at, at + TOGETHER).map((subject, i) => ({
        ...{ id: ulid(), subject, kind, from, to: to(at + i), at: Date.now(), group, window: 'bench' },
      }));
      await server.post('/marks', { operations });
    }
  const pass = ulid();
  await server.post('/passes', { id: pass, name: 'Second look', over: { frames } });
  return { pile: pile.id, pass };
}

/**
 * `{ name: { where(i), many, floor } }` of each question; `floor` in milliseconds, `i`: the how manieth time, so that shoots take turns.
 * Throws where the contract has a question that is in no list here.
 */
export async function questions(server, big, asked, floor) {
  const shoots = await server.get('/shoots');
  const bySize = [...shoots].sort((a, b) => b.frames - a.frames);
  const of = (i) => bySize[bySize.length - 1 - (i % Math.min(40, bySize.length - 1))].id;
  const first = bySize[bySize.length - 1].id;
  const { columns } = await server.frames(first);
  const frame = (i) => columns.id[i % columns.id.length];
  const [job] = await server.get('/jobs');
  const [reader] = await server.get('/readers');
  const volumes = await server.get('/volumes');
  const { pile, pass } = await gather(server, big);
  const arrival = (i) => `00R${of(i).slice(3)}`;
  const year = (i) => 2016 + (i % 10);
  const all = {
    health: ['/api/health'],
    settings: ['/api/settings'],
    session: ['/api/session'],
    machine: ['/api/machine'],
    archives: ['/api/archives'],
    rebuild: ['/api/rebuild'],
    carried: ['/api/carried'],
    adopted: ['/api/adopted'],
    watch: ['/api/watch'],
    space: ['/api/space'],
    'space.counting': ['/api/space/counting'],
    'space.rejects': ['/api/space/rejects', (i) => `?until=${year(i)}-06-01`],
    bin: ['/api/bin'],
    uploads: ['/api/uploads'],
    'uploads.links': ['/api/uploads/links'],
    destinations: ['/api/destinations'],
    'gallery.place': ['/api/gallery-place'],
    'galleries.choosing': ['/api/galleries/choosing'],
    'mail.account': ['/api/mail-account'],
    programs: ['/api/opening/programs'],
    shoots: ['/api/shoots'],
    'shoots.open': ['/api/shoots', () => '?open=true'],
    'shoots.found': ['/api/shoots', (i) => `?find=${encodeURIComponent(`shoot ${100 + i}`)}`],
    'shoots.year': ['/api/shoots', (i) => `?year=${year(i)}`],
    'shoots.near': ['/api/shoots', (i) => `?near=${year(i)}-06-01`],
    'shoots.totals': ['/api/shoots/totals'],
    'shoots.groups': ['/api/shoots/groups', (i) => `?by=${i % 2 ? 'client' : 'place'}`],
    shoot: ['/api/shoots/{id}', of],
    skim: ['/api/shoots/{id}/skim', of],
    away: ['/api/shoots/{id}/away', of],
    volumes: ['/api/volumes'],
    suggestions: ['/api/volumes/suggestions'],
    folders: ['/api/volumes/folders', () => `?from=${encodeURIComponent(ROOT)}`],
    jobs: ['/api/jobs'],
    'jobs.shoot': ['/api/jobs', (i) => `?shoot=${of(i)}`],
    job: ['/api/jobs/{id}', () => job.id],
    'arrivals.latest': ['/api/arrivals/latest'],
    arrival: ['/api/intakes/{id}', arrival],
    'arrival.frames': ['/api/intakes/{id}/frames', arrival],
    history: ['/api/shoots/{id}/history', of],
    'history.all': ['/api/history'],
    decisions: ['/api/shoots/{id}/decisions', of],
    handoffs: ['/api/shoots/{id}/handoffs', of],
    'handoff.plan': ['/api/shoots/{id}/handoffs/plan', of, () => `?volumeId=${volumes[0].id}`],
    'handoff.heard': ['/api/shoots/{id}/handoffs/heard', of],
    returns: ['/api/shoots/{id}/returns', of],
    'returns.folders': ['/api/shoots/{id}/returns/folders', of],
    'returns.frame': ['/api/returns/of/{frameId}', frame],
    deliveries: ['/api/shoots/{id}/deliveries', of],
    'went-out': ['/api/shoots/{id}/went-out', of],
    sent: ['/api/shoots/{id}/sent', of],
    galleries: ['/api/shoots/{id}/galleries', of],
    remarks: ['/api/shoots/{id}/client-remarks', of],
    messages: ['/api/shoots/{id}/messages', of],
    ledger: ['/api/ledger'],
    'ledger.shoot': ['/api/ledger', (i) => `?shootId=${of(i)}`],
    'ledger.frame': ['/api/ledger', (i) => `?frameId=${frame(i)}`],
    'ledger.year': ['/api/ledger', (i) => `?year=${year(i)}`],
    'ledger.years': ['/api/ledger/years'],
    'ledger.chart': ['/api/ledger/years/{year}', year],
    kept: ['/api/copies/shoots/{id}', of],
    missing: ['/api/copies/missing'],
    'missing.shoot': ['/api/copies/missing', (i) => `?shootId=${of(i)}`],
    release: ['/api/copies/release', (i) => `?shootId=${of(i)}&volumeId=${volumes[0].id}`],
    'sidecars.waiting': ['/api/marks/sidecars'],
    albums: ['/api/albums'],
    'albums.held': ['/api/albums/held'],
    piles: ['/api/piles'],
    pile: ['/api/piles/{id}', () => pile],
    passes: ['/api/shoots/{id}/passes', of],
    pass: ['/api/passes/{id}', () => pass],
    'pass.decisions': ['/api/passes/{id}/decisions', () => pass],
    vocabulary: ['/api/vocabulary'],
    'vocabulary.last': ['/api/vocabulary/last'],
    'vocabulary.unfiled': ['/api/vocabulary/unfiled'],
    rosters: ['/api/vocabulary/rosters/{shootId}', of],
    clocks: ['/api/takes/shoots/{id}/clocks', of],
    duplicates: ['/api/duplicates'],
    variants: ['/api/duplicates/variants'],
    days: ['/api/find/days', (i) => `?year=${year(i)}`],
    'find.folders': ['/api/find/folders', () => '?path='],
    trail: ['/api/trail'],
    'trail.shoot': ['/api/trail', (i) => `?shoot=${of(i)}`],
    'trail.find': ['/api/trail', (i) => `?find=shoot-${i}`],
    readers: ['/api/readers'],
    known: ['/api/readers/{id}/known', () => reader.id],
    clearance: ['/api/readers/{id}/clearance', () => reader.id],
    summary: ['/api/readers/{id}/summary', () => reader.id],
    frames: ['/api/shoots/{id}/frames', of],
    'frames.largest': ['/api/shoots/{id}/frames', () => big],
  };
  const contract = JSON.parse(readFileSync(path.join(ROOT, 'apps/server/openapi.json'), 'utf8'));
  const known = new Set([...Object.values(all).map(([at]) => at), ...Object.keys(LEFT_OUT)]);
  const forgotten = Object.entries(contract.paths).filter(([at, by]) => by.get && !known.has(at));
  if (forgotten.length > 0)
    throw new Error(
      `questions in no list of tools/bench/scale/routes.mjs: ${forgotten.map(([at]) => at).join(', ')}`,
    );
  return Object.fromEntries(
    Object.entries(all).map(([name, [at, one, more]]) => {
      const where = (i) =>
        at.includes('{')
          ? at.slice('/api'.length).replace(/\{\w+\}/, one(i)) + (more?.(i) ?? '')
          : at.slice('/api'.length) + (one?.(i) ?? '');
      return [name, { where, many: SELDOM.has(name) ? 7 : asked, floor: OWN_FLOOR[name] ?? floor }];
    }),
  );
}
