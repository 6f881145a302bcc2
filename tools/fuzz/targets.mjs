import { rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import net from 'node:net';
import path from 'node:path';
import { ROOT } from '../bootstrap.mjs';
import { mutateBytes, mutateText, mutateValue } from './mutate.mjs';
import { ADDRESSES, ANSWERS, fileSeeds, layCard, LINES, PATTERNS, REQUESTS } from './seeds.mjs';

const { previewAddress } = createRequire(path.join(ROOT, 'apps/server/package.json'))('@arkiv/core');

/** Files of one card: enough that taking it in costs little for each. */
const FILES = 24;
/** Requests of one turn. */
const REQUESTS_A_TURN = 25;
const ANSWERS_A_TURN = 6;

export const KINDS = [
  ...['jpeg', 'tiff', 'dng', 'heic', 'png', 'xmp', 'clip'],
  ...['json', 'lines', 'patterns', 'addresses', 'uploads'],
  ...['webdav', 'sftp', 'smtp'],
];

/** By kind: spoils some of it, gives that to the server, and says how many, how many of these pass the first check, and what went wrong. */
export async function makeTargets(world) {
  const seeds = await fileSeeds();
  let cards = 0;

  /** A card with spoilt files: listed, taken in, each shown. */
  const files = (kind) => async (random, most) => {
    const { bytes, ext, head, beside } = seeds[kind];
    const mutants = Array.from({ length: Math.min(most, FILES) }, () => mutateBytes(bytes, random, head));
    const troubles = [];
    const card = path.join(world.places.cards, `card-${++cards}`);
    const name = (i) => `FUZ_${String(i + 1).padStart(4, '0')}`;
    layCard(
      card,
      mutants.flatMap((mutant, i) => [
        { name: `${name(i)}.${ext}`, bytes: mutant.bytes },
        ...(beside ? [{ name: `${name(i)}.JPG`, bytes: Buffer.concat([beside, Buffer.from([i])]) }] : []),
      ]),
    );
    try {
      const { id: readerId } = await world.json('POST', '/readers', { root: card, name: `Card ${cards}` });
      const { fingerprint } = await world.json('GET', `/readers/${readerId}/card`);
      const ask = async (where) => {
        const answer = await world.request('GET', where);
        if (answer.trouble) troubles.push(answer.trouble);
        return answer;
      };
      await ask(`/api/readers/${readerId}/listing`);
      await ask(`/api/readers/${readerId}/summary?card=${encodeURIComponent(fingerprint)}`);
      const [volume] = await world.json('GET', '/volumes');
      const { folders } = await world.json('GET', '/settings');
      const { jobId, shootId } = await world.json('POST', '/intakes', {
        ...{ readerId, fingerprint, title: `Fuzz ${cards}`, date: '2026-10-16', client: '', place: '' },
        // What was said of patterns meanwhile stays in the settings.
        ...{ pattern: '{shoot}_{number:4}', folders, seqStart: 1, zoneMinutes: 120, targets: [volume.id] },
      });
      const report = await world.rest(jobId, mutants.length);
      if (report && (report.job.state !== 'done' || report.job.filesFailed > 0))
        troubles.push({
          is: 'crashes',
          what: `the card was not taken in: ${JSON.stringify(report).slice(0, 400)}`,
        });
      const { columns } = await world.json('GET', `/shoots/${shootId}/frames`);
      for (const picture of new Set(columns.picture.filter(Boolean)))
        for (const size of ['thumb', 'full']) await ask(previewAddress(picture, size));
      await world.json('POST', `/readers/${readerId}/eject`);
    } catch (error) {
      if (world.lives) troubles.push({ is: 'crashes', what: error.message });
    }
    rmSync(card, { recursive: true, force: true });
    return { tried: mutants.length, deep: mutants.filter((mutant) => mutant.deep).length, troubles };
  };

  /** Requests, each made by `make`. */
  const requests =
    (make, atOnce = REQUESTS_A_TURN) =>
    async (random, most) => {
      const troubles = [];
      const tried = Math.min(most, atOnce);
      let deep = 0;
      for (let i = 0; i < tried && world.lives; i++) {
        const answer = await make(random);
        if (answer.trouble) troubles.push(answer.trouble);
        // Whatever was understood well enough to be refused for what it says, or to be done.
        if (answer.status !== 0 && answer.status !== 400) deep += 1;
      }
      return { tried, deep, troubles };
    };
  const body = (method, where, text) =>
    world.request(method, `/api${where}`, text, { 'content-type': 'application/json' });

  const json = requests((random) => {
    const [method, where, value] = random.pick(REQUESTS);
    const text =
      random.below(3) === 0
        ? mutateText(JSON.stringify(value), random)
        : JSON.stringify(mutateValue(value, random));
    return body(method, where, text);
  });
  const lines = requests((random) =>
    body('POST', '/find', JSON.stringify({ line: mutateText(random.pick(LINES), random).slice(0, 900) })),
  );
  const patterns = requests((random) =>
    body('PATCH', '/settings', JSON.stringify({ pattern: mutateText(random.pick(PATTERNS), random) })),
  );
  const addresses = requests((random) => {
    const address = mutateText(random.pick(ADDRESSES), random).replace(/[^\x21-\x7e]/g, (sign) =>
      encodeURIComponent(sign.isWellFormed() ? sign : '?'),
    );
    return world.request('GET', address.startsWith('/') ? address : `/${address}`);
  });

  const { id: upload } = await world.json('POST', '/uploads', { name: 'Fuzz' });
  const base64 = (text) => Buffer.from(text).toString('base64');
  const uploads = requests(async (random) => {
    const spoil = (text) =>
      random.below(3) === 0 ? mutateText(text, random).replace(/[^\x20-\x7e]/g, '') : text;
    const names = [
      'DCIM/100X/A.JPG',
      'b.dng',
      '../beside/A.JPG',
      '/etc/x.jpg',
      'a/../../../beside/B.JPG',
      '..\\x.jpg',
    ];
    const headers = {
      'tus-resumable': spoil('1.0.0'),
      'upload-length': spoil(String(random.below(5000))),
      'upload-metadata': spoil(
        `upload ${base64(upload)},path ${base64(mutateText(random.pick(names), random))}`,
      ),
      ...(random.below(4) === 0 && {
        'x-http-method-override': random.pick(['PATCH', 'DELETE', 'HEAD', '../x']),
      }),
    };
    const made = await world.request('POST', '/api/uploads/streams', undefined, headers);
    const at = made.headers?.location;
    if (made.trouble || !at) return made;
    const sent = await world.request(
      random.pick(['PATCH', 'PATCH', 'HEAD', 'DELETE']),
      spoil(at).replaceAll(' ', '%20'),
      Buffer.alloc(random.below(6000), 7),
      {
        ...{ 'tus-resumable': '1.0.0', 'content-type': spoil('application/offset+octet-stream') },
        'upload-offset': spoil(String(random.pick([0, 0, 0, 1, 9e15]))),
      },
    );
    if (sent.trouble) return sent;
    const id = at.split('-').at(-1);
    return body('POST', `/uploads/${upload}/files/${id}`, JSON.stringify({ sha256: 'a'.repeat(64) }));
  });

  /** A server whose every connection hears one spoilt answer and is closed. */
  const other = async (kind, name) => {
    let answer = '';
    const server = net.createServer((socket) => {
      socket.on('error', () => undefined);
      const say = () => {
        socket.write(Buffer.from(answer, 'latin1'));
        // Long enough that what follows a first answer is read, too.
        setTimeout(() => socket.end(), 30);
      };
      if (kind === 'webdav') socket.once('data', say);
      else say();
    });
    await new Promise((resolve) => server.listen(0, '127.0.0.1', resolve));
    server.unref();
    const { port } = server.address();
    const check = await name(port);
    return requests((random) => {
      answer = mutateBytes(
        Buffer.from(random.pick(ANSWERS[kind]), 'latin1'),
        random,
        random.pick([0, 12]),
      ).bytes.toString('latin1');
      return body('POST', check, '{}');
    }, ANSWERS_A_TURN);
  };
  const NOWHERE = { path: '', url: '', host: '', port: 22, user: '', carried: false };
  const destination = (kind, reach) => async (port) => {
    const { id } = await world.json('POST', '/destinations', {
      ...{ name: kind, kind, password: 'secret', reach: { ...NOWHERE, user: 'u', ...reach(port) } },
    });
    return `/destinations/${id}/check`;
  };
  return {
    ...Object.fromEntries(Object.keys(seeds).map((kind) => [kind, files(kind)])),
    ...{ json, lines, patterns, addresses, uploads },
    webdav: await other(
      'webdav',
      destination('webdav', (port) => ({ url: `http://127.0.0.1:${port}/` })),
    ),
    sftp: await other(
      'sftp',
      destination('sftp', (port) => ({ host: '127.0.0.1', port })),
    ),
    smtp: await other('smtp', async (port) => {
      await world.json('PUT', '/mail-account', {
        ...{ host: '127.0.0.1', port, security: 'none', user: 'u', password: 'p', from: 'a@b.example' },
      });
      return '/mail-account/check';
    }),
  };
}
