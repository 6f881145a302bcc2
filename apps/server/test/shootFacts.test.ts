import { readFileSync } from 'node:fs';
import path from 'node:path';
import { DueTexts } from '../src/frames/dueTexts.service';
import { filesBelow, removeFolder, takenIn, until, volumeOf, type TestArkiv } from './testArkiv';

const HOME = '2026/2026-10-16_press-night';

describe('title, client and place of a shoot', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;
  beforeEach(async () => {
    ({ arkiv, data, shootId } = await takenIn('OCK_9969'));
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });
  const change = (facts: object) => arkiv.ask<{ code: string }>('PATCH', `/shoots/${shootId}`, facts);
  const shoot = () =>
    arkiv.get<{ title: string; client: string; place: string; folders: string[] }>(`/shoots/${shootId}`);
  const found = async (line: string) => (await arkiv.post<{ count: number }>('/find', { line })).count;

  it('are said otherwise: files keep their places, lists and Find know it, and so do the drives', async () => {
    const before = filesBelow(volumeOf(data, 'working')).filter((file) => /\.(jpg|dng)$/.test(file));
    expect((await change({ title: 'Première', client: 'Harbour Trust', place: 'Quay 3' })).status).toBe(204);
    expect(await shoot()).toMatchObject({
      ...{ title: 'Première', client: 'Harbour Trust', place: 'Quay 3', folders: [HOME] },
    });
    expect(filesBelow(volumeOf(data, 'working')).filter((file) => /\.(jpg|dng)$/.test(file))).toEqual(before);
    await arkiv.app.get(DueTexts).flush();
    for (const role of ['working', 'backup'] as const) {
      const own = path.join(volumeOf(data, role), HOME, '.arkiv');
      expect(JSON.parse(readFileSync(path.join(own, 'shoot.json'), 'utf8'))).toMatchObject({
        ...{ title: 'Première', client: 'Harbour Trust', place: 'Quay 3' },
      });
      const history = filesBelow(own).find((file) => file.endsWith('history.jsonl'))!;
      expect(readFileSync(path.join(own, history), 'utf8')).toContain('"shoot client"');
    }
    expect(await arkiv.get('/shoots/groups?by=client')).toEqual([
      expect.objectContaining({ name: 'Harbour Trust', shoots: 1 }),
    ]);
  });

  it('are one step of the history, taken back and done again there', async () => {
    await change({ title: 'Première', client: 'Harbour Trust' });
    const steps = async () =>
      (
        await arkiv.get<{ decisions: { id: string; isUndone: boolean; said: { kind: string }[] }[] }>(
          `/shoots/${shootId}/decisions`,
        )
      ).decisions;
    const [step] = await steps();
    expect(step!.said.map(({ kind }) => kind).sort()).toEqual(['shoot client', 'shoot title']);
    // The client was corrected since: what was changed since stays.
    await change({ client: 'Harbour Trust Ltd' });
    const turn = (to: string) => arkiv.post(`/shoots/${shootId}/decisions/${step!.id}`, { to });
    expect(await turn('back')).toEqual({ marks: 1, skipped: 1 });
    expect(await shoot()).toMatchObject({ title: 'Press night', client: 'Harbour Trust Ltd' });
    expect((await steps()).find(({ id }) => id === step!.id)).toMatchObject({ isUndone: true });
    expect(await turn('again')).toEqual({ marks: 1, skipped: 0 });
    expect(await shoot()).toMatchObject({ title: 'Première' });
    // Nothing is written down for what is said so already.
    const count = (await steps()).length;
    await change({ title: 'Première' });
    expect(await steps()).toHaveLength(count);
  });

  it('are lines, and a title is never empty', async () => {
    const before = await shoot();
    for (const wrong of [{ title: '' }, { title: ' x' }, { client: 'a\nb' }, { place: 'x'.repeat(121) }])
      expect(await change(wrong)).toMatchObject({ status: 400, body: { code: 'request.invalid' } });
    expect(await shoot()).toEqual(before);
    expect((await arkiv.ask('PATCH', '/shoots/01J00000000000000000000000', { title: 'x' })).status).toBe(404);
  });

  it('are what frames are found by from then on', async () => {
    await until(async () => (await found('place:quay')) === 0);
    await change({ place: 'Quay 3' });
    await until(async () => (await found('place:quay')) > 0);
  });
});
