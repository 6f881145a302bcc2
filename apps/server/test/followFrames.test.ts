import { execFileSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync } from 'node:fs';
import path from 'node:path';
import { DEFAULT_OUTPUT_SPEC, type OutputSpec } from '@arkiv/core';
import { DueTexts } from '../src/frames/dueTexts.service';
import { CopiesWatch } from '../src/handoff/copiesWatch.service';
import { ReturnsWatch } from '../src/returns/returnsWatch.service';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import { galleryOf, madeGallery } from './galleryVisitor';
import { filesBelow, removeFolder, takenIn, until, volumeOf, type TestArkiv } from './testArkiv';

const SPEC: OutputSpec = {
  ...{ ...DEFAULT_OUTPUT_SPEC, name: 'Web', size: { by: 'long', pixels: 160 }, pattern: 'web-{number:2}' },
};

describe('What went out of a shoot that is merged', () => {
  let arkiv: TestArkiv;
  let data: string;
  let evening: string;
  let doors: string;
  let ids: string[];

  beforeEach(async () => {
    ({ arkiv, data, shootId: evening } = await takenIn('OCK_9973'));
    const { id } = await arkiv.frames(evening);
    ids = id.slice(0, 2);
    doors = await moved({ kind: 'split', shootId: evening, frameIds: ids, title: 'Doors', rename: true });
    await arkiv.mark('verdict', 'undecided', 'keep', ...ids, id[2]!);
    await arkiv.app.get(SidecarsService).flush();
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const moved = async (asked: object): Promise<string> => {
    const { jobId, shootId } = await arkiv.post<{ jobId: string; shootId: string }>('/moves', asked);
    expect(await arkiv.rest(jobId)).toMatchObject({ job: { state: 'done' }, failures: [] });
    job = jobId;
    return shootId;
  };
  let job = '';
  const begun = async (where: string, asked: object): Promise<string> => {
    const { jobId } = await arkiv.post<{ jobId: string }>(where, asked);
    expect((await arkiv.rest(jobId)).job).toMatchObject({ state: 'done', filesFailed: 0 });
    return jobId;
  };
  /** Numbers of hand-offs, sets, galleries of a shoot. */
  const out = async (shootId: string) =>
    Promise.all(
      ['handoffs', 'deliveries', 'galleries'].map(
        async (what) => (await arkiv.get<object[]>(`/shoots/${shootId}/${what}`)).length,
      ),
    );

  it('goes along with its frames and comes back with them; what editors say there is heard all the while', async () => {
    const [working, edit] = [await arkiv.volumeId('working'), await arkiv.volumeId('edit')];
    await begun(`/shoots/${doors}/handoffs`, { volumeId: edit });
    const set = { name: 'Set', volumeId: working, specs: [SPEC], sheet: false };
    await begun(`/shoots/${doors}/deliveries`, set);
    await begun(`/shoots/${evening}/deliveries`, set);
    const gallery = await madeGallery(arkiv, doors, {});
    const copies = filesBelow(volumeOf(data, 'edit')).filter((file) => file.endsWith('.xmp'));
    expect([await out(doors), await out(evening)]).toEqual([
      [1, 1, 1],
      [0, 1, 0],
    ]);

    await moved({ kind: 'merge', shootId: doors, into: evening, rename: true });
    const merged = job;
    expect([await out(doors), await out(evening)]).toEqual([
      [0, 0, 0],
      [1, 2, 1],
    ]);
    // Brought up to date, it would show the keepers of the whole shoot, and lose none.
    const { other } = await galleryOf(arkiv, evening, gallery.id);
    expect(other).toMatchObject({ gone: 0 });
    // An editor goes on where the copies lie, and saves where it was agreed.
    const copy = path.join(volumeOf(data, 'edit'), copies[0]!);
    execFileSync('exiftool', ['-q', '-overwrite_original', '-XMP:Rating=5', copy]);
    await arkiv.app.get(CopiesWatch).look(evening);
    const stars = async () => {
      const { id, stars: all } = await arkiv.columns(evening);
      return ids.map((one) => all![id!.indexOf(one)]);
    };
    expect(await stars()).toContain(5);
    const edits = path.join(volumeOf(data, 'working'), '2026/2026-10-16_doors/edits');
    mkdirSync(edits, { recursive: true });
    const finished = filesBelow(volumeOf(data, 'working')).find((file) => /web-01\.jpg$/.test(file))!;
    cpSync(path.join(volumeOf(data, 'working'), finished), path.join(edits, 'doors_20261016_0001-final.jpg'));
    arkiv.app.get(ReturnsWatch).settles = 0;
    await until(async () => {
      await arkiv.app.get(ReturnsWatch).look(evening);
      return (await arkiv.get<object[]>(`/shoots/${evening}/returns`)).length === 1;
    });

    await until(async () =>
      (await arkiv.get<{ state: string }[]>('/jobs')).every(({ state }) => state === 'done'),
    );
    const { jobId: back } = await arkiv.post<{ jobId: string }>(`/moves/${merged}/undo`);
    expect(await arkiv.rest(back)).toMatchObject({ job: { state: 'done' }, failures: [] });
    expect([await out(doors), await out(evening)]).toEqual([
      [1, 1, 1],
      [0, 1, 0],
    ]);
    await arkiv.app.get(DueTexts).flush();
    const records = (folder: string) =>
      filesBelow(path.join(volumeOf(data, 'working'), folder, '.arkiv/record')).join(' ');
    expect(records('2026/2026-10-16_doors')).toMatch(/delivery-.*gallery-.*handoff-/);
    expect(records('2026/2026-10-16_press-night')).not.toMatch(/gallery-|handoff-/);
    expect(existsSync(copy)).toBe(true);
  });
});
