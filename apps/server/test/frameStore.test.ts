import { Reading, UnitOfWork } from '../src/db/unitOfWork';
import { FrameStore } from '../src/frames/frameStore';
import { dataWithCard, removeFolder, startArkiv, type TestArkiv } from './testArkiv';

describe('the frame store', () => {
  let arkiv: TestArkiv;
  let data: string;
  let shootId: string;

  beforeEach(async () => {
    data = dataWithCard({ until: 'OCK_9970' });
    arkiv = await startArkiv(data);
    const started = await arkiv.takeIn();
    ({ shootId } = started);
    await arkiv.rest(started.jobId);
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const query = <T>(sql: string, parameters: unknown[] = []): Promise<T[]> =>
    arkiv.app.get(Reading).source.query(sql, parameters);

  it('shows a frame by its JPEG, by a file that somebody chose, and by the rule again', async () => {
    const { id, picture } = await arkiv.frames(shootId);
    const files = await query<{ id: string; format: string; sha256: string }>(
      'SELECT id, format, sha256 FROM asset WHERE "frameId" = ?',
      [id[0]],
    );
    const of = (format: string) => files.find((file) => file.format === format)!;
    expect(picture[0]).toBe(of('jpeg').sha256);
    const choose = (file: string | null) =>
      arkiv.app
        .get(UnitOfWork)
        .write((manager) => arkiv.app.get(FrameStore).setDisplay(manager, id[0]!, file));
    await choose(of('dng').id);
    expect((await arkiv.frames(shootId)).picture[0]).toBe(of('dng').sha256);
    await choose(null);
    expect((await arkiv.frames(shootId)).picture[0]).toBe(of('jpeg').sha256);
  });

  it('keeps the name of each file once: by its frame, whose name its files follow', async () => {
    const names = await query<{ name: string }>(
      'SELECT DISTINCT name FROM asset WHERE "frameId" IS NOT NULL',
    );
    expect(names.map(({ name }) => name).sort()).toEqual(['.dng', '.jpg']);
    const { id } = await arkiv.frames(shootId);
    await arkiv.app
      .get(UnitOfWork)
      .write((manager) => manager.query(`UPDATE frame SET name = 'other' WHERE id = ?`, [id[0]]));
    const places = await query<{ at: string }>('SELECT DISTINCT "at" FROM copy_at WHERE "frameId" = ?', [
      id[0],
    ]);
    expect(places.map(({ at }) => at.split('/').at(-1)).sort()).toEqual(['other.dng', 'other.jpg']);
  });
});
