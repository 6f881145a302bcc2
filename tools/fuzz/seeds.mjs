// What is spoilt: small files of each format that a card or an upload brings, and what programs say to the server.
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { ROOT } from '../bootstrap.mjs';

const sharp = createRequire(path.join(ROOT, 'apps/server/package.json'))('sharp');
const CARD = path.join(ROOT, 'node_modules/.arkiv/test-cards/press-night-240/DCIM/100OCKHM');
const FIXTURES = path.join(ROOT, 'apps/server/test/fixtures');

const XMP = `<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>
<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
<rdf:Description rdf:about="" xmlns:xmp="http://ns.adobe.com/xap/1.0/" xmlns:dc="http://purl.org/dc/elements/1.1/" xmp:Rating="3" xmp:Label="Red">
<dc:subject><rdf:Bag><rdf:li>heron</rdf:li><rdf:li>fish</rdf:li></rdf:Bag></dc:subject>
<dc:description><rdf:Alt><rdf:li xml:lang="x-default">A heron &amp; a fish.</rdf:li></rdf:Alt></dc:description>
</rdf:Description></rdf:RDF></x:xmpmeta>
<?xpacket end="w"?>`;

/** Files by kind: their bytes, what they are called, and how many bytes at the beginning say what they are. */
export async function fileSeeds() {
  const names = readdirSync(CARD).sort();
  const read = (ending) =>
    readFileSync(
      path.join(
        CARD,
        names.find((name) => name.endsWith(ending)),
      ),
    );
  const jpeg = read('.JPG');
  const small = sharp(jpeg).resize(120);
  return {
    jpeg: { bytes: jpeg, ext: 'JPG', head: 4 },
    dng: { bytes: read('.DNG'), ext: 'DNG', head: 8 },
    tiff: { bytes: await small.clone().withMetadata().tiff().toBuffer(), ext: 'TIF', head: 8 },
    png: { bytes: await small.clone().png().toBuffer(), ext: 'PNG', head: 16 },
    heic: { bytes: readFileSync(path.join(FIXTURES, 'turned-p3.heic')), ext: 'HEIC', head: 24 },
    xmp: { bytes: Buffer.from(XMP), ext: 'xmp', head: 60, beside: jpeg },
    clip: { bytes: readFileSync(path.join(FIXTURES, 'clip.mp4')).subarray(0, 200_000), ext: 'MP4', head: 12 },
  };
}

export const LINES = [
  ...[
    'heron fish ≥4★',
    'f/8 400mm 2029 keep',
    '“North Pier” -reject',
    'camera:"Ockham Five" iso>800',
    'date:2026-10-16..2026-10-18',
  ],
  ...[
    '(a or b) and not (c or "d e")',
    'label:M stars:3..5',
    'keyword:water person:ana',
    '1/250 s',
    'take:burst',
  ],
];
export const PATTERNS = [
  ...[
    '{shoot}_{capture:yyyyMMdd}_{number:4}',
    '{original}',
    '{body}-{date}_{number}',
    '{client}/{place} {capture:HHmmss}',
    '{seq:3}{original:last4}',
  ],
];

/** Requests that a page makes, with bodies that are right as far as nothing else has to be there. */
export const REQUESTS = [
  ['POST', '/find', { line: 'heron ≥4★', typing: false, heading: 'year' }],
  ['PATCH', '/settings', { studio: 'Ockham', pattern: '{shoot}_{number:4}', requiredCopies: 2 }],
  [
    'POST',
    '/marks',
    {
      operations: [
        {
          id: '01J00000000000000000000000',
          subject: 'x',
          kind: 'stars',
          from: 0,
          to: 3,
          at: 1,
          group: 'g',
          window: 'w',
        },
      ],
    },
  ],
  ['POST', '/albums', { name: 'Portfolio' }],
  ['POST', '/adopted/example', { path: '/nowhere/at/all', rule: 'top' }],
  ['POST', '/uploads', { name: 'Second body' }],
  ['POST', '/uploads/links', { title: 'Second body', name: '', most: 1e9, until: null, withCode: false }],
  ['POST', '/space/rejects', { shootIds: ['01J00000000000000000000000'] }],
  ['POST', '/copies/verifications', { shootId: '01J00000000000000000000000' }],
  ['POST', '/volumes', { root: '/nowhere/at/all', name: 'x', role: 'backup' }],
];
export const ADDRESSES = [
  ...[
    '/api/shoots?order=date',
    '/api/shoots/01J00000000000000000000000/frames',
    '/api/jobs',
    '/api/trail?find=heron&before=12',
  ],
  ...[
    '/api/previews/v9/0123456789abcdef/small',
    '/api/find/days?line=heron',
    '/api/readers/x/listing',
    '/shoots/01J/cull?frame=x',
    '/assets/x.js',
  ],
  ...[
    '/api/shoots/01J00000000000000000000000/history?before=3',
    '/api/uploads/links',
    '/api/find/suggestions?text=her',
  ],
];
/** What a server says that sets are sent to, or that carries mail, as its first answers. */
export const ANSWERS = {
  webdav: [
    'HTTP/1.1 207 Multi-Status\r\nContent-Type: application/xml\r\nContent-Length: 214\r\n\r\n<?xml version="1.0"?><d:multistatus xmlns:d="DAV:"><d:response><d:href>/</d:href><d:propstat><d:prop><d:resourcetype><d:collection/></d:resourcetype></d:prop><d:status>HTTP/1.1 200 OK</d:status></d:propstat></d:response></d:multistatus>',
    'HTTP/1.1 200 OK\r\nDAV: 1, 2\r\nAllow: PROPFIND, PUT, MKCOL\r\nTransfer-Encoding: chunked\r\n\r\n5\r\nhello\r\n0\r\n\r\n',
    'HTTP/1.1 401 Unauthorized\r\nWWW-Authenticate: Digest realm="x", nonce="abc", qop="auth"\r\nContent-Length: 0\r\n\r\n',
  ],
  sftp: [
    'SSH-2.0-OpenSSH_9.2p1\r\n\u0000\u0000\u0001\u00f4\u0008\u0014aaaaaaaaaaaaaaaa\u0000\u0000\u0000\u0011curve25519-sha256\u0000\u0000\u0000\u000bssh-ed25519',
    'a banner of the house\r\nSSH-1.99-other\r\n',
  ],
  smtp: [
    '220 mail.example ESMTP\r\n250-mail.example\r\n250-SIZE 10000000\r\n250-AUTH PLAIN LOGIN\r\n250 8BITMIME\r\n',
    '220-first\r\n220 second\r\n535 5.7.8 no\r\n',
  ],
};

/** A card's folder with these files in it. */
export function layCard(folder, files) {
  const at = path.join(folder, 'DCIM/100FUZZX');
  mkdirSync(at, { recursive: true });
  for (const { name, bytes } of files) writeFileSync(path.join(at, name), bytes);
}
