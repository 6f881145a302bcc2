import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { rosterOf } from '@arkiv/core';
import { Parser } from 'n3';
import { ulid } from 'ulid';
import { Reading, UnitOfWork } from '../src/db/unitOfWork';
import { ArchiveTexts } from '../src/frames/archiveTexts.service';
import { DueTexts } from '../src/frames/dueTexts.service';
import { SidecarsService } from '../src/sidecars/sidecars.service';
import { VocabularyService } from '../src/vocabulary/vocabulary.service';
import { removeFolder, takenIn, startArkiv, volumeOf, type TestArkiv } from './testArkiv';

const TREE = `Animals
	Birds
		gull
		heron
			{Ardea}
Places
	harbour  #place
`;

describe('the vocabulary', () => {
  let arkiv: TestArkiv;
  let data: string;
  let ids: string[];
  let shootId: string;

  beforeEach(async () => {
    ({ arkiv, data, shootId } = await takenIn('OCK_9972'));
    ({ id: ids } = await arkiv.frames(shootId));
    await arkiv.post('/vocabulary/terms', { text: TREE, format: 'indented', bring: true });
  });
  afterEach(async () => {
    await arkiv.stop();
    removeFolder(data);
  });

  const service = () => arkiv.app.get(VocabularyService);
  interface Columns {
    count: number;
    columns: { id: string[]; word: string[]; parent: (string | null)[] };
  }
  const idOf = async (word: string) => {
    const { columns } = await arkiv.get<Columns>('/vocabulary');
    return columns.id[columns.word.indexOf(word)]!;
  };
  const give = (i: number, words: string[]) =>
    arkiv.post('/marks', {
      operations: words.map((word) => ({
        ...{ id: ulid(), subject: ids[i], kind: `keyword ${word}`, from: false, to: true, at: Date.now() },
        ...{ group: ulid(), window: 'w' },
      })),
    });
  const keywords = async () => {
    const { frames } = await arkiv.post<{ frames: { id: string; keywords: string }[] }>('/marks/now', {
      frameIds: ids.slice(0, 3),
    });
    const by = new Map(frames.map((frame) => [frame.id, frame.keywords.split('\n').sort().join(' ')]));
    return ids.slice(0, 3).map((id) => by.get(id));
  };
  const change = async (asked: object) => {
    const done = await arkiv.post<{ words: string }>('/vocabulary/changes', asked);
    await service().settled();
    return done;
  };

  it('is brought in as text and given out as text, and says of a bad line which it is', async () => {
    expect((await arkiv.get<Columns>('/vocabulary')).count).toBe(6);
    const text = await (await fetch(`${arkiv.base}/api/vocabulary/text?format=indented`)).text();
    expect(text).toBe(TREE);
    const turtle = await (await fetch(`${arkiv.base}/api/vocabulary/text?format=turtle`)).text();
    const labels = new Parser()
      .parse(turtle)
      .filter(({ predicate }) => predicate.value.endsWith('#prefLabel'));
    expect(labels.map(({ object }) => object.value).sort()).toEqual([
      ...['Animals', 'Birds', 'Places', 'gull', 'harbour', 'heron'],
    ]);
    const again = { text: turtle, format: 'turtle', bring: false };
    expect(await arkiv.post('/vocabulary/terms', again)).toEqual({ added: 0, changed: 0 });
    const bad = await arkiv.ask('POST', '/vocabulary/terms', {
      text: 'a\n\t[]\n',
      format: 'indented',
      bring: true,
    });
    expect([bad.status, (bad.body as { message: string }).message]).toEqual([
      422,
      expect.stringContaining('line 2'),
    ]);
    expect((await arkiv.get<Columns>('/vocabulary')).count).toBe(6);
  });

  it('takes SKOS of other programs, in Turtle and in RDF/XML, and refuses what is none', async () => {
    const rdf = `<rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#" xmlns:skos="http://www.w3.org/2004/02/skos/core#">
 <skos:Concept rdf:about="http://example.invalid/b"><skos:prefLabel xml:lang="en">Boats</skos:prefLabel>
  <skos:narrower><skos:Concept rdf:about="http://example.invalid/d"><skos:prefLabel xml:lang="en">dinghy</skos:prefLabel>
   <skos:altLabel xml:lang="de">Jolle</skos:altLabel></skos:Concept></skos:narrower></skos:Concept></rdf:RDF>`;
    expect(await arkiv.post('/vocabulary/terms', { text: rdf, format: 'rdfxml', bring: true })).toEqual({
      ...{ added: 2, changed: 0 },
    });
    const vocabulary = await service().all();
    expect(vocabulary.given(await idOf('dinghy'))).toEqual(['dinghy', 'Jolle', 'Boats']);
    for (const [text, format] of [
      ['@prefix', 'turtle'],
      ['<rdf:RDF', 'rdfxml'],
      [`<!DOCTYPE x [<!ENTITY a "b">]>${rdf}`, 'rdfxml'],
    ])
      expect((await arkiv.ask('POST', '/vocabulary/terms', { text, format, bring: true })).status).toBe(422);
  });

  it('changes with all frames following, previewed with counts, and is taken back', async () => {
    await give(0, ['heron', 'Ardea', 'Birds', 'Animals']);
    await give(1, ['heron', 'gull', 'Birds', 'Animals']);
    await give(2, ['herons']);
    const before = await keywords();
    const move = { do: 'move', id: await idOf('heron'), parent: await idOf('Places') };
    expect(await arkiv.post('/vocabulary/preview', move)).toEqual({ frames: 2, shoots: 1 });
    expect((await change(move)).words).toBe('“heron” moved under “Places”');
    expect(await keywords()).toEqual([
      ...['Ardea Places heron', 'Animals Ardea Birds Places gull heron', 'herons'],
    ]);
    const rename = { do: 'rename', id: await idOf('heron'), word: 'grey heron' };
    await change(rename);
    expect((await keywords())[0]).toBe('Ardea Places grey heron');
    // Somebody takes one off meanwhile: that stays so.
    await arkiv.post('/marks', {
      operations: [
        {
          ...{ id: ulid(), subject: ids[1], kind: 'keyword gull', from: true, to: false, at: Date.now() },
          ...{ group: ulid(), window: 'w' },
        },
      ],
    });
    await arkiv.post('/vocabulary/undo');
    await arkiv.post('/vocabulary/undo');
    await service().settled();
    expect(await keywords()).toEqual([before[0], 'Animals Birds heron', before[2]]);
    expect((await service().all()).path(await idOf('heron'))).toEqual(['Animals', 'Birds', 'heron']);
    // Only the list that was brought in is left to be taken back.
    const { last } = await arkiv.get<{ last: { words: string } }>('/vocabulary/last');
    expect(last.words).toBe('6 terms brought in');
  });

  it('holds numbered lists, which shoots share, and forgets of a shoot those that are gone', async () => {
    const id = await idOf('Birds');
    await change({
      do: 'roster',
      id,
      entries: [
        { number: '7', word: 'Ana Pinto' },
        { number: '12', word: 'gull' },
      ],
    });
    const vocabulary = await service().all();
    expect(rosterOf(vocabulary, id).map(({ number, word, kind }) => [number, word, kind])).toEqual([
      ['7', 'Ana Pinto', 'person'],
      ['12', 'gull', 'person'],
    ]);
    const terms = [id, '01J0000000000000000000000Z'];
    expect((await arkiv.ask('PUT', `/vocabulary/rosters/${shootId}`, { terms })).status).toBe(204);
    expect(await arkiv.get(`/vocabulary/rosters/${shootId}`)).toEqual({ terms: [id] });
    expect(await arkiv.get('/vocabulary/rosters/another')).toEqual({ terms: [] });
    // Frames that go into another shoot are of the same persons.
    const moved = async (asked: object) => {
      const its = await arkiv.post<{ jobId: string; shootId: string }>('/moves', asked);
      expect(await arkiv.rest(its.jobId)).toMatchObject({ job: { state: 'done' }, failures: [] });
      return its.shootId;
    };
    const frameIds = (await arkiv.frames(shootId)).id.slice(0, 1);
    const made = await moved({ kind: 'split', shootId, frameIds, title: 'Hide', rename: false });
    expect(await arkiv.get(`/vocabulary/rosters/${made}`)).toEqual({ terms: [id] });
    const other = await idOf('heron');
    await arkiv.ask('PUT', `/vocabulary/rosters/${made}`, { terms: [other] });
    await moved({ kind: 'merge', shootId: made, into: shootId, rename: false });
    expect(await arkiv.get(`/vocabulary/rosters/${shootId}`)).toEqual({ terms: [id, other] });
    const bad = { do: 'roster', id, entries: [{ number: 'a b', word: 'X' }] };
    expect((await arkiv.ask('POST', '/vocabulary/changes', bad)).status).toBe(409);
  });

  it('takes changes that come at once one after the other: no word stands twice at one place', async () => {
    const add = { do: 'add', word: 'tern', parent: await idOf('Birds'), kind: 'subject' };
    const answers = await Promise.all([1, 2, 3].map(() => arkiv.ask('POST', '/vocabulary/changes', add)));
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409]);
    expect((await service().all()).named('tern')).toHaveLength(1);
  });

  it('refuses what cannot be, and says why', async () => {
    const answer = await arkiv.ask('POST', '/vocabulary/changes', {
      ...{ do: 'move', id: await idOf('Birds'), parent: await idOf('heron') },
    });
    expect([answer.status, answer.body]).toEqual([
      409,
      expect.objectContaining({ message: expect.stringContaining('cannot stand under itself') as string }),
    ]);
    expect((await arkiv.ask('POST', '/vocabulary/preview', { do: 'rename', word: 'x' })).status).toBe(400);
  });

  it('lets frames follow at the next start, where a stop cut that off', async () => {
    await give(0, ['gull']);
    const { id } = await service().change({ do: 'rename', id: await idOf('gull'), word: 'herring gull' });
    await service().settled();
    // As a killed server leaves it: the tree is another, and no frame has followed.
    await arkiv.app.get(UnitOfWork).write(async (m) => {
      await m.query(`UPDATE vocabulary_change SET state = 'open' WHERE id = ?`, [id]);
      await m.query(`UPDATE frame SET keywords = 'gull' WHERE id = ?`, [ids[0]]);
    });
    await arkiv.stop();
    arkiv = await startArkiv(data);
    await service().settled();
    expect((await keywords())[0]).toBe('herring gull');
    const [row] = (await arkiv.app
      .get(Reading)
      .source.query('SELECT state FROM vocabulary_change WHERE id = ?', [id])) as { state: string }[];
    expect(row!.state).toBe('done');
  });

  it('offers keywords of frames that it does not hold, the most frequent first', async () => {
    await give(0, ['gull', 'pier', 'Ardea']);
    await give(1, ['pier', 'ebb']);
    expect(await arkiv.get('/vocabulary/unfiled')).toEqual([
      { word: 'pier', frames: 2 },
      { word: 'ebb', frames: 1 },
    ]);
  });

  it('stands in sidecars as a tree, as the reference metadata tool reads it, and beside it flat', async () => {
    await give(0, ['heron', 'Ardea', 'Birds', 'Animals', 'harbour', 'Places', 'pier']);
    await arkiv.app.get(SidecarsService).flush();
    const { name } = await arkiv.frames(shootId);
    const file = path.join(
      ...[volumeOf(data, 'backup'), '2026/2026-10-16_press-night/originals', `${name[0]}.xmp`],
    );
    const read = () => {
      const args = ['-j', '-struct', '-XMP-mwg-kw:all', '-XMP-dc:Subject', file];
      const [its] = JSON.parse(execFileSync('exiftool', args, { encoding: 'utf8' })) as Record<
        string,
        unknown
      >[];
      return its!;
    };
    expect(read()).toMatchObject({
      Subject: ['heron', 'Ardea', 'Birds', 'Animals', 'harbour', 'Places', 'pier'],
      KeywordInfo: {
        Hierarchy: [
          { Keyword: 'Animals', Children: [{ Keyword: 'Birds', Children: [{ Keyword: 'heron' }] }] },
          { Keyword: 'Places', Children: [{ Keyword: 'harbour' }] },
        ],
      },
    });
    await change({ do: 'move', id: await idOf('harbour'), parent: null });
    await arkiv.app.get(SidecarsService).flush();
    expect((read().KeywordInfo as { Hierarchy: object[] }).Hierarchy).toEqual([
      { Keyword: 'Animals', Children: [{ Keyword: 'Birds', Children: [{ Keyword: 'heron' }] }] },
      { Keyword: 'harbour' },
    ]);
  });

  it('lies as a text on each drive of the archive', async () => {
    arkiv.app.get(ArchiveTexts).changed('vocabulary.txt');
    await change({ do: 'add', word: 'pier', parent: null, kind: 'place' });
    await arkiv.app.get(DueTexts).flush('archive');
    for (const drive of ['working', 'backup'] as const)
      expect(readFileSync(path.join(volumeOf(data, drive), '.arkiv-archive/vocabulary.txt'), 'utf8')).toBe(
        `${TREE.replace('Places', 'pier  #place\nPlaces')}`,
      );
  });
});
