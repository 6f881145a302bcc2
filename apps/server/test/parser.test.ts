import { EMPTY_SIDECAR, writeSidecar } from '@arkiv/core';
import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { Parser } from '../src/metadata/parser';
import { filesBelow, testCard } from './testArkiv';

describe('parsing what comes from outside, in threads that may die of it', () => {
  const parser = new Parser();
  afterAll(() => parser.onApplicationShutdown());
  const good = writeSidecar({ ...EMPTY_SIDECAR, stars: 3 });

  it.each([
    ['is nested deeper than any stack', () => `${'<a>'.repeat(120_000)}x${'</a>'.repeat(120_000)}`],
    ['names entities within entities', () => bomb()],
    ['is nothing but noise', () => randomBytes(200_000).toString('latin1')],
    ['is empty', () => ''],
  ])('answers a sidecar that %s, and goes on with the next', async (_, make) => {
    const read = await parser.readSidecar(make());
    if (read.ok) expect(read.model.stars).not.toBe(3);
    else expect(read.reason.length).toBeGreaterThan(0);
    const written = await parser.writeSidecar({ ...EMPTY_SIDECAR, stars: 1 }, make());
    if (!written.ok) expect(written.reason.length).toBeGreaterThan(0);
    expect(await parser.readSidecar(good)).toMatchObject({ ok: true, model: { stars: 3 } });
  });

  it('takes a head over whose memory nobody else needs, and reads the same in it', async () => {
    const file = filesBelow(testCard()).find((name) => name.endsWith('.JPG'))!;
    const head = Buffer.alloc(128 * 1024);
    readFileSync(path.join(testCard(), file)).copy(head);
    const tags = await parser.tags(head);
    expect(Object.keys(tags).length).toBeGreaterThan(3);
    expect(head.byteLength).toBe(128 * 1024);
    expect(await parser.tags(head, true)).toEqual(tags);
    expect(head.byteLength).toBe(0);
  });

  it('gives no tags and no pictures for heads that are none, and goes on with the next', async () => {
    for (const head of [Buffer.alloc(0), Buffer.alloc(1 << 20), randomBytes(1 << 20), looped()]) {
      expect(await parser.tags(head)).toBeDefined();
      expect(await parser.embedded(head)).toEqual([]);
    }
    expect(await parser.readSidecar(good)).toMatchObject({ ok: true });
  });

  it('leaves the server’s own thread free while it works', async () => {
    let turns = 0;
    const ticking = setInterval(() => (turns += 1), 1);
    const before = turns;
    // A text of 4 MB keeps a parser busy for many turns of the thread that waits for it.
    await parser.readSidecar(`${'<a>'.repeat(120_000)}x${'</a>'.repeat(120_000)}`);
    clearInterval(ticking);
    expect(turns).toBeGreaterThan(before);
  });
});

/** Each entity ten times the one before: a thousand million letters when somebody spells them out. */
function bomb(): string {
  const entities = Array.from({ length: 9 }, (_, i) => `<!ENTITY e${i + 1} "${`&e${i};`.repeat(10)}">`).join(
    '',
  );
  return `<?xml version="1.0"?><!DOCTYPE x [<!ENTITY e0 "x">${entities}]><x>&e9;</x>`;
}

/** A TIFF whose directory names itself as the next. */
function looped(): Buffer {
  const head = Buffer.alloc(64);
  head.write('II*\0', 'latin1');
  head.writeUInt32LE(8, 4);
  head.writeUInt16LE(0, 8);
  head.writeUInt32LE(8, 10);
  return head;
}
