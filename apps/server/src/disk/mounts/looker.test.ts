import { execFileSync, type ChildProcess } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { CARD_TREES, PHONE_TREE } from '@arkiv/core';
import { Looker, NO_ANSWER } from './looker';

const OWN = '.arkiv-volume.json';
/** A limit that a machine under load keeps easily; what hangs waits it out. */
const LIMIT = 3000;
/** Longer than any test waits. */
const FOR_EVER = 2 ** 31 - 1;

describe('looking at places that may hang', () => {
  let place: string;
  let looker: Looker;
  beforeEach(() => {
    place = mkdtempSync(path.join(os.tmpdir(), 'arkiv-look-'));
    looker = new Looker(LIMIT, LIMIT, FOR_EVER);
  });
  afterEach(() => {
    looker.close();
    rmSync(place, { recursive: true });
  });

  const at = (...names: string[]) => path.join(place, ...names);
  const make = (...names: string[]) => {
    mkdirSync(at(...names), { recursive: true });
    return at(...names);
  };
  const hanging = (...names: string[]) => {
    const folder = make(...names);
    execFileSync('mkfifo', [path.join(folder, OWN)]);
    return folder;
  };
  const look = (point: string, folders: string[] = [], cable = false) =>
    looker.mount({ point, ownFile: OWN, folders, cable, trees: { card: CARD_TREES, phone: PHONE_TREE } });

  it('tells a drive by its own file, at its top or in a folder on it', async () => {
    writeFileSync(path.join(make('drive'), OWN), '{"id":"A"}');
    writeFileSync(path.join(make('drive', 'Arkiv'), OWN), '{"id":"B"}');
    const { texts, cards } = await look(at('drive'), ['Arkiv', 'nowhere']);
    expect(texts).toEqual({ '': '{"id":"A"}', Arkiv: '{"id":"B"}' });
    expect(cards).toEqual([]);
  });

  it.each(['DCIM', 'PRIVATE/M4ROOT', 'AVCHD/BDMV', 'CONTENTS/CLIP'])('tells a card by %s', async (tree) => {
    make('card', tree);
    expect((await look(at('card'))).cards).toEqual(['']);
  });

  it('finds what a desktop shows of phones: devices, their storages, DCIM in them', async () => {
    make('cable', 'phone', 'Internal storage', 'DCIM');
    make('cable', 'phone', 'Music');
    make('cable', 'camera', 'DCIM');
    expect((await look(at('cable'), [], true)).cards.sort()).toEqual(['camera', 'phone/Internal storage']);
    // On a drive such folders are somebody's own.
    expect((await look(at('cable'))).cards).toEqual([]);
  });

  it('takes no file of somebody else’s for its own', async () => {
    writeFileSync(path.join(make('large'), OWN), Buffer.alloc(100_000));
    make('folder', OWN);
    expect((await look(at('large'))).texts).toEqual({});
    expect((await look(at('folder'))).texts).toEqual({});
  });

  it('gives room and rights of a drive', async () => {
    const { text, space, writable } = await looker.probe(make('drive'), OWN);
    expect(text).toBeNull();
    expect(space.total).toBeGreaterThan(space.free);
    expect(writable).toBe(true);
  });

  it('says of a place that hangs that it gives no answer, while others are looked at as ever', async () => {
    const hung = hanging('hung');
    const asked = expect(looker.probe(hung, OWN)).rejects.toMatchObject({ code: NO_ANSWER });
    for (let i = 0; i < 80; i++) await looker.probe(place, OWN);
    await asked;
    // While it hangs it is not asked again: each question would cost a thread.
    await expect(looker.probe(hung, OWN)).rejects.toMatchObject({ code: NO_ANSWER });
  });

  it('gives a place all of its time, however long what looks at it took to start', async () => {
    const asked = looker.probe(place, OWN);
    const { child } = looker as unknown as { child: ChildProcess };
    child.kill('SIGSTOP');
    await new Promise((resolve) => setTimeout(resolve, 1.3 * LIMIT));
    child.kill('SIGCONT');
    expect((await asked).text).toBeNull();
    // Of a place that hangs that time is not waited for.
    await expect(looker.probe(hanging('hung'), OWN)).rejects.toMatchObject({ code: NO_ANSWER });
  });

  it('looks on when a child has died, and when many places hang', async () => {
    const places = Array.from({ length: 40 }, (_, i) => hanging(`hung-${i}`));
    const results = await Promise.allSettled(places.map((root) => looker.probe(root, OWN)));
    expect(results.every((r) => r.status === 'rejected')).toBe(true);
    expect((await looker.probe(place, OWN)).text).toBeNull();
  });

  it('lets go of what it waits for when it is closed', async () => {
    const asked = expect(looker.probe(hanging('hung'), OWN)).rejects.toMatchObject({ code: NO_ANSWER });
    looker.close();
    await asked;
  });
});
