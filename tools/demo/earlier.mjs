// What the demo's studio did in the three years before: small shoots of other seasons, culled, described, handed off and delivered
// long ago, so that there is something to find.
import { ulid } from 'ulid';
import { client } from '../client.mjs';

const shoot = (card, start, title, client_, place, scenes, says) => ({
  ...{ card, start, title, client: client_, place, scenes, says },
  date: start.slice(0, 10),
});
const scene = (plates, more = {}) => ({ plates, wait: 60, gap: 2, iso: 200, ...more });

/** In order of time. `says`: what is said of each frame: caption, keywords, stars; null: it was rejected. */
export const EARLIER = [
  shoot(
    'earlier-1',
    '2023-03-12T15:04:10Z',
    'Spring open studio',
    'Hollow Lane Pottery',
    'The kiln house',
    [
      scene(['jug-1', 'jug-2'], { iso: 160 }),
      scene(['stack-1', 'stack-1', 'vase-1'], { iso: 250, zoom: 1.2 }),
    ],
    [
      ['Tall jug in shell white, second firing.', ['jug', 'shell white', 'Glazes', 'Ceramics'], 4],
      ['Tall jug in shell white, seen from its handle.', ['jug', 'shell white', 'Glazes', 'Ceramics'], 3],
      ['Bowls stacked to dry on the long shelf.', ['bowl', 'dish', 'Ceramics'], 5],
      null,
      ['Vase with dry branches, north window.', ['vase', 'Ceramics'], 4],
    ],
  ),
  shoot(
    'earlier-2',
    '2023-07-02T11:20:44Z',
    'Mill Pond regatta',
    'Mill Pond Rowers',
    'Mill Pond',
    [
      scene(['race-1', 'race-2', 'race-3'], { gap: 0.2, iso: 400 }),
      scene(['mark-1', 'mark-2'], { gap: 0.2, iso: 400, zoom: 1.3 }),
    ],
    [
      ['The start of the second heat.', ['regatta', 'start', 'Water', 'Mill Pond Rowers'], 3],
      null,
      [
        'Asta Rook leads at the first buoy.',
        ['regatta', 'Water', 'Mill Pond Rowers', 'Asta Rook'],
        5,
        'Asta Rook',
      ],
      ['Round the mark, close by the harbour wall.', ['regatta', 'harbour', 'Water'], 4],
      null,
    ],
  ),
  shoot(
    'earlier-3',
    '2024-02-17T20:11:02Z',
    'Winter puppets',
    'Mill Stage',
    'Mill Stage',
    [
      scene(['duet-1', 'duet-2'], { iso: 1600, gap: 0.4 }),
      scene(['queen-1', 'queen-3', 'baron-2'], { iso: 1250, gap: 1.2 }),
    ],
    [
      ['Two marionettes below the full moon.', ['puppet', 'marionette', 'full moon', 'Stage'], 5],
      null,
      ['The queen before her entrance.', ['puppet', 'marionette', 'Stage', 'dress rehearsal'], 3],
      ['The queen turns away.', ['puppet', 'marionette', 'Stage'], 4],
      ['The baron, lit from below.', ['puppet', 'marionette', 'Stage'], 3],
    ],
  ),
  shoot(
    'earlier-4',
    '2024-09-28T09:40:18Z',
    'Harbour morning',
    'Mill Pond Rowers',
    'Mill Pond',
    [
      scene(['pond-1', 'pond-2', 'pond-3'], { iso: 100, gap: 8 }),
      scene(['solo-1', 'solo-2'], { iso: 200, gap: 0.6 }),
    ],
    [
      ['Mist over the pond before the first boats.', ['harbour', 'Water', 'mist'], 5],
      ['The same, a minute later.', ['harbour', 'Water', 'mist'], 3],
      null,
      ['Cleo Wyre alone on the water.', ['Water', 'Mill Pond Rowers', 'Cleo Wyre'], 5, 'Cleo Wyre'],
      ['Cleo Wyre on her way back.', ['Water', 'Mill Pond Rowers', 'Cleo Wyre'], 4, 'Cleo Wyre'],
    ],
  ),
  shoot(
    'earlier-5',
    '2025-05-09T18:52:30Z',
    'May press night',
    'Lantern Row',
    'Mill Stage',
    [
      scene(['leap-1', 'leap-3', 'leap-5'], { iso: 2000, gap: 0.15 }),
      scene(['call-1', 'call-2'], { iso: 1600, gap: 1.5 }),
    ],
    [
      null,
      ['The leap over the footlights.', ['Stage', 'press night', 'puppet'], 5],
      ['And down again.', ['Stage', 'press night', 'puppet'], 3],
      ['Curtain call, everybody.', ['Stage', 'curtain call', 'press night'], 4],
      ['Curtain call, the second.', ['Stage', 'curtain call', 'press night'], 3],
    ],
  ),
  shoot(
    'earlier-6',
    '2025-11-22T13:15:55Z',
    'Glaze tests',
    'Hollow Lane Pottery',
    'The kiln house',
    [
      scene(['bowl-3', 'bowl-7', 'bowl-9'], { iso: 200, gap: 30 }),
      scene(['rim-1', 'setting-1'], { iso: 250, gap: 20 }),
    ],
    [
      ['Test 41: tenmoku over a dark body.', ['bowl', 'tenmoku', 'iron glaze', 'Glazes', 'Ceramics'], 4],
      ['Test 42: celadon, thin.', ['bowl', 'celadon', 'Glazes', 'Ceramics'], 3],
      null,
      ['The rim of test 42, close.', ['bowl', 'celadon', 'Glazes', 'Ceramics'], 5],
      ['A table set with all tests that passed.', ['bowl', 'plate', 'Ceramics'], 4],
    ],
  ),
];

const PAUSE = 150;

/** Takes the earlier shoots in, one after the other, and does with each what was done with it. `takeIn` as in the first days. */
export async function earlierYears(base, takeIn) {
  const { get, post, frames } = client(base);
  const volumes = await get('/volumes');
  const of = (role) => volumes.find((volume) => volume.role === role).id;
  const { outputSpecs } = await get('/settings');
  const done = async (jobId) => {
    for (;;) {
      const { job } = await get(`/jobs/${jobId}`);
      if (!['running', 'queued'].includes(job.state)) return;
      await new Promise((resolve) => setTimeout(resolve, PAUSE));
    }
  };
  const best = [];
  for (const { card, title, date, client: who, place, says } of EARLIER) {
    await post('/stand-ins/slots/slot-1/insert', { card });
    const shootId = await takeIn(base, 'slot-1', { title, date, client: who, place });
    const { columns } = await frames(shootId);
    const shared = { at: Date.parse(`${date}T21:00:00Z`), group: ulid(), window: ulid() };
    const said = (i, kind, from, to) => ({ id: ulid(), subject: columns.id[i], kind, from, to, ...shared });
    const operations = says.flatMap((its, i) => {
      if (its === null) return [said(i, 'verdict', 'undecided', 'reject')];
      const [caption, keywords, stars, person] = its;
      return [
        said(i, 'verdict', 'undecided', 'keep'),
        said(i, 'stars', 0, stars),
        said(i, 'caption', null, caption),
        ...keywords.map((word) => said(i, `keyword ${word}`, false, true)),
        ...(person ? [said(i, `person ${person}`, false, true)] : []),
      ];
    });
    await post('/marks', { operations });
    says.forEach((its, i) => its?.[2] === 5 && best.push(columns.id[i]));
    const { jobId } = await post(`/shoots/${shootId}/handoffs`, { volumeId: of('edit') });
    await done(jobId);
    const set = { name: 'web set', volumeId: of('working'), specs: outputSpecs.slice(0, 1) };
    await done((await post(`/shoots/${shootId}/deliveries`, set)).jobId);
    const ready = says.flatMap((its, i) => (its === null ? [] : [said(i, 'stage', 'editing', 'ready')]));
    await post('/marks', { operations: ready });
  }
  // A few lasting sets over all of them: by hand in an order of their own, and by a rule.
  const { id: portfolio } = await post('/albums', { name: 'Portfolio' });
  await post('/albums', { name: 'People on stage', parent: portfolio, rule: 'place:stage ≥4★' });
  await post('/albums', { name: 'Four stars and more', rule: '≥4★' });
  const put = { at: Date.now(), group: ulid(), window: ulid(), kind: `album ${portfolio}`, from: null };
  // Places sort by their characters: one letter after the other.
  const operations = best.map((subject, i) => ({ id: ulid(), subject, to: `a${PLACES[i]}`, ...put }));
  if (operations.length > 0) await post('/marks', { operations });
}

const PLACES = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ';
