import { groupCardFiles } from '../card/dcf';
import { DEFAULT_FOLDER_PLAN, DEFAULT_NAME_PATTERN } from '../folders/plan';
import { factsFromTags } from '../metadata/facts';
import { advance, fateOf, startProgress } from './copyState';
import { collisionKey, nameProblem } from '../naming/legalName';
import { placesOf, planIntake } from './plan';
import { clearanceOf, receiptFile, receiptText } from './receipt';
import type { IntakeInput } from './types';

const file = (path: string, size = 10) => ({ path, size, mtimeMillis: 0 });

function input(
  paths: string[],
  times: Record<string, string> = {},
  change: Partial<IntakeInput> = {},
): IntakeInput {
  const { frames, extras } = groupCardFiles(paths.map((p) => file(p)));
  return {
    frames: frames.map((f) => ({
      key: f.key,
      base: f.base,
      files: f.files,
      facts: factsFromTags({ dateTimeOriginal: times[f.base] ?? '2031:04:18 10:00:00' }),
    })),
    extras,
    shoot: { title: 'Press night', date: '2031-04-18', client: '', place: '' },
    creator: '',
    card: 'card-a',
    pattern: DEFAULT_NAME_PATTERN,
    folders: DEFAULT_FOLDER_PLAN,
    seqStart: 1,
    zoneMinutes: 0,
    dayStartHour: 4,
    ...change,
  };
}

describe('the plan of an intake', () => {
  it('gives all files of a frame one base name, in the order of time', () => {
    const plan = planIntake(
      input(['D/A.JPG', 'D/A.DNG', 'D/B.JPG'], { A: '2031:04:18 11:00:00', B: '2031:04:18 10:00:00' }),
    );
    expect(plan.problems).toEqual([]);
    expect(plan.items.map((i) => [i.from, i.to])).toEqual([
      ['D/B.JPG', '2031/2031-04-18_press-night/originals/press-night_20310418_0001.jpg'],
      ['D/A.DNG', '2031/2031-04-18_press-night/originals/press-night_20310418_0002.dng'],
      ['D/A.JPG', '2031/2031-04-18_press-night/originals/press-night_20310418_0002.jpg'],
    ]);
    expect(plan.bytes).toBe(30);
  });

  it('has a way for every file of the card', () => {
    const paths = ['D/A.JPG', 'MISC/INDEX.DAT', '.hidden', 'D/LONE.WAV', 'D/A.xmp'];
    const plan = planIntake(input(paths));
    expect(plan.items.map((i) => i.from).sort()).toEqual([...paths].sort());
    expect(plan.problems).toEqual([]);
  });

  it('gives a card’s own files a second folder where the first holds some, and collides with nothing', () => {
    const [first] = planIntake(input(['MISC/INDEX.DAT'])).items;
    expect(first!.to).toMatch(/\/originals\/_[^/]+\/MISC\/INDEX\.DAT$/);
    const again = planIntake(input(['MISC/INDEX.DAT']), (to) => to === first!.to);
    expect(again.problems).toEqual([]);
    expect(again.items[0]!.to).toBe(first!.to.replace('/MISC', '_2/MISC'));
  });

  it('tells two sidecars of one frame apart', () => {
    const plan = planIntake(input(['D/A.JPG', 'D/A.DNG', 'D/A.JPG.xmp', 'D/A.DNG.xmp', 'D/A.xmp']));
    expect(plan.problems).toEqual([]);
    expect(plan.items.filter((i) => i.role === 'sidecar').map((i) => i.to.slice(-14))).toEqual([
      '1_card.dng.xmp',
      '1_card.jpg.xmp',
      '_0001_card.xmp',
    ]);
  });

  it.each([
    ['differ only by case', ['D/DSCN0001.JPG', 'D/dscn0001.jpg']],
    ['differ only by Unicode form', ['D/\u00e9.JPG', 'D/e\u0301.JPG']],
    ['are reserved words elsewhere', ['D/CON.JPG', 'D/aux.jpg', 'E/con.jpg']],
    ['hold what no system takes', ['D/a:b.JPG', 'D/a?b.JPG', 'D/a\u0001b.JPG', 'D/a\\b.JPG']],
    ['end in dots and blanks', ['D/A..JPG', 'D/A.JPG', 'D/A .JPG']],
    ['are as long as names can be', [`D/${'x'.repeat(251)}.JPG`, `D/${'x'.repeat(250)}y.JPG`]],
    ['are long in another script', [`D/${'写'.repeat(83)}.JPG`, `D/${'写'.repeat(82)}真.JPG`]],
    ['show nothing', ['D/\u200c\u200c.JPG', 'D/\u202egpj.JPG', 'D/ .JPG']],
    ['are two bodies’ own', ['D/A.JPG', 'E/A.DNG', 'F/A.MOV']],
  ])('refuses no card whose names %s, whatever the pattern', (_, paths) => {
    for (const pattern of ['{original}', DEFAULT_NAME_PATTERN]) {
      const plan = planIntake(input(paths, {}, { pattern }));
      expect(plan.problems).toEqual([]);
      expect(plan.items.map((i) => i.from).sort()).toEqual([...paths].sort());
      const places = plan.frames.map(({ place, name }) => collisionKey(`${place}/${name}`));
      expect(new Set(places).size).toBe(plan.frames.length);
      for (const { to } of plan.items)
        expect(to.split('/').map(nameProblem)).toEqual(to.split('/').map(() => null));
    }
  });

  it.each([
    ['differ only by case', ['MISC/a.dat', 'MISC/A.DAT', 'misc/a.dat']],
    ['lie deeper than paths may be', [`${'deep/'.repeat(60)}a.dat`, `${'deep/'.repeat(61)}a.dat`]],
    ['are as long as names can be', [`${'x'.repeat(251)}.dat`, `${'x'.repeat(255)}`]],
    ['hold control characters', ['M/a\u0007.dat', 'M/a_.dat']],
  ])('keeps files of no frame whose names %s', (_, paths) => {
    const plan = planIntake(input(['D/A.JPG', ...paths]));
    expect(plan.problems).toEqual([]);
    expect(plan.items).toHaveLength(1 + paths.length);
    expect(new Set(plan.items.map(({ to }) => collisionKey(to))).size).toBe(plan.items.length);
  });

  it('refuses a pattern of one’s own by which two frames would share a sidecar, whatever their extensions', () => {
    const plan = planIntake(input(['D/A.JPG', 'D/B.DNG'], {}, { pattern: '{shoot}' }));
    expect(plan.problems.map((p) => p.kind)).toEqual(['collision']);
    expect(plan.problems[0]!.message).toMatch(/share one sidecar/);
  });

  it('gives way to a frame that is there already under another extension', () => {
    const there = (to: string) => to.endsWith('/originals/A.xmp');
    const plan = planIntake(input(['D/A.JPG'], {}, { pattern: '{original}' }), there);
    expect(plan.problems).toEqual([]);
    expect(plan.frames[0]!.name).toBe('A_2');
    expect(placesOf(plan).map((p) => p.split('/').at(-1))).toEqual(['A_2.jpg', 'A_2.xmp']);
    expect(planIntake(input(['D/A.JPG'], {}, { pattern: 'A' }), there).problems[0]!.kind).toBe('exists');
  });

  it.each(['مهمانی‌ها', '婚礼', 'Ελλάδα', 'ДЕНЬ', 'क्षेत्र', 'שמחה', '🌿'])(
    'makes names of the title %s',
    (title) => {
      const plan = planIntake(
        input(['D/A.JPG'], {}, { shoot: { title, date: '2031-04-18', client: '', place: '' } }),
      );
      expect(plan.problems).toEqual([]);
      expect(plan.frames[0]!.name).toBe(`${title.normalize('NFC').toLowerCase()}_20310418_0001`);
    },
  );

  it('keeps the camera’s own sidecar beside ours', () => {
    const plan = planIntake(input(['D/A.JPG', 'D/A.xmp']));
    expect(plan.items.find((i) => i.role === 'sidecar')!.to).toMatch(/_0001_card\.xmp$/);
  });

  it('makes one folder a day, and counts the hours after midnight to the evening', () => {
    const plan = planIntake(
      input(['D/A.JPG', 'D/B.JPG', 'D/C.JPG'], {
        A: '2031:04:18 22:00:00',
        B: '2031:04:19 01:00:00',
        C: '2031:04:19 10:00:00',
      }),
    );
    expect(plan.folders).toEqual(['2031/2031-04-18_press-night', '2031/2031-04-19_press-night']);
    expect(plan.frames.map((f) => f.folder.slice(5, 15))).toEqual(['2031-04-18', '2031-04-18', '2031-04-19']);
  });

  it('refuses two files with one target name and names both', () => {
    const plan = planIntake(input(['D/A.JPG', 'E/B.JPG'], {}, { pattern: '{shoot}' }));
    expect(plan.problems[0]).toMatchObject({ kind: 'collision' });
    expect(plan.problems[0]!.message).toMatch(/D\/A\.JPG and E\/B\.JPG would both become/);
  });

  it('tells targets apart that would differ only by case', () => {
    const plan = planIntake(input(['D/IMG_1.JPG', 'E/img_1.jpg'], {}, { pattern: '{original}' }));
    expect(plan.frames.map((f) => f.name)).toEqual(['IMG_1', 'img_1_2']);
  });

  it('refuses a target that exists', () => {
    const plan = planIntake(input(['D/A.JPG']), (to) => to.endsWith('_0001.jpg'));
    expect(plan.problems[0]).toMatchObject({ kind: 'exists', from: 'D/A.JPG' });
  });

  it('refuses an unknown field, an empty title and paths that are too long', () => {
    expect(planIntake(input(['D/A.JPG'], {}, { pattern: '{nope}' })).problems[0]!.message).toMatch(/“nope”/);
    expect(
      planIntake(
        input(['D/A.JPG'], {}, { shoot: { title: '  ', date: '2031-04-18', client: '', place: '' } }),
      ).problems[0]!.kind,
    ).toBe('no-title');
    // A title that is there is not called missing.
    for (const title of ['../..', '---']) {
      const shoot = { title, date: '2031-04-18', client: '', place: '' };
      const [problem] = planIntake(input(['D/A.JPG'], {}, { shoot })).problems;
      expect(problem).toMatchObject({ kind: 'bad-title', message: expect.stringContaining(`“${title}”`) });
    }
    const long = { title: 'x'.repeat(120), date: '2031-04-18', client: '', place: '' };
    expect(planIntake(input(['D/A.JPG'], {}, { shoot: long })).problems.map((p) => p.kind)).toContain(
      'too-long',
    );
  });

  it('tells when numbers outgrow their width, and how wide they must be', () => {
    const paths = Array.from({ length: 12 }, (_, i) => `D/F${String(i).padStart(2, '0')}.JPG`);
    const wide = planIntake(input(paths, {}, { seqStart: 9995 }));
    expect(wide.problems).toEqual([]);
    expect(wide.warnings.map((w) => w.message)).toEqual([
      'Number 10000 is wider than {number:4}: “press-night_20310418_10000” stands before “press-night_20310418_9999” in a list by name. Write {number:5}.',
    ]);
    const pattern = '{shoot}_{number:5}';
    expect(planIntake(input(paths, {}, { seqStart: 9995, pattern })).warnings).toEqual([]);
  });

  it('tells when names stand in another order than the frames were taken in, once for a folder', () => {
    const times = { A: '2031:04:18 12:00:00', B: '2031:04:18 11:00:00', C: '2031:04:18 10:00:00' };
    const plan = planIntake(input(['D/A.JPG', 'D/B.JPG', 'D/C.JPG'], times, { pattern: '{original}' }));
    expect(plan.problems).toEqual([]);
    expect(plan.warnings.map((w) => w.message)).toEqual([
      expect.stringContaining('“B” was taken after “C” and stands before it in a list by name'),
    ]);
  });

  it('refuses a name of more than 255 bytes, also where it has fewer letters', () => {
    const pattern = `{shoot}-{seq:4}-${'ø'.repeat(125)}`;
    const plan = planIntake(input(['D/A.JPG'], {}, { pattern }));
    expect(plan.problems.map((p) => p.kind)).toContain('too-long');
    const shorter = `{seq:4}-${'ø'.repeat(100)}`;
    expect(planIntake(input(['D/A.JPG'], {}, { pattern: shorter })).problems).toEqual([]);
  });

  it('starts the numbers where it is told', () => {
    expect(planIntake(input(['D/A.JPG'], {}, { seqStart: 412 })).frames[0]!.name).toMatch(/_0412$/);
  });
});

describe('the way of one file', () => {
  const sha = 'a'.repeat(64);

  it('is copied when every target is verified', () => {
    let p = advance(startProgress(['w', 'b']), { type: 'hashed', sha256: sha });
    expect(fateOf(p)).toBe('todo');
    p = advance(p, { type: 'verified', target: 'w', at: 1, pastCache: true });
    p = advance(p, { type: 'target-failed', target: 'b', reason: 'full' });
    expect(fateOf(p)).toBe('partly');
    p = advance(advance(p, { type: 'retry' }), { type: 'verified', target: 'b', at: 2, pastCache: true });
    expect(fateOf(p)).toBe('copied');
  });

  it('never loses a verified target by a later failure or retry', () => {
    let p = advance(startProgress(['w']), { type: 'verified', target: 'w', at: 1, pastCache: true });
    p = advance(advance(p, { type: 'target-failed', target: 'w', reason: 'late' }), { type: 'retry' });
    expect(fateOf(p)).toBe('copied');
  });

  it('refuses a source that changed between two readings', () => {
    const p = advance(startProgress(['w']), { type: 'hashed', sha256: sha });
    expect(() => advance(p, { type: 'hashed', sha256: 'b'.repeat(64) })).toThrow(/expected a+, found b+/);
  });

  it('has failed when the source cannot be read', () => {
    expect(fateOf(advance(startProgress(['w']), { type: 'source-failed', reason: 'EIO' }))).toBe('failed');
  });
});

describe('the receipt', () => {
  const sha = 'a'.repeat(64);
  const verified = advance(advance(startProgress(['w', 'b']), { type: 'hashed', sha256: sha }), {
    type: 'verified',
    target: 'w',
    at: 0,
    pastCache: true,
  });

  it('promises only what was verified on that volume', () => {
    const files = [receiptFile({ from: 'D/A.JPG', to: 'f/originals/a.jpg', size: 1, progress: verified })];
    expect(receiptText(files, 'w', 'f')).toBe(`${sha}  originals/a.jpg\n`);
    expect(receiptText(files, 'b', 'f')).toBe('');
  });
});

describe('safe to clear', () => {
  const proof = { path: 'D/A.JPG', size: 1, devices: 2, unchanged: true };

  it('is true only when every file has its copies', () => {
    expect(clearanceOf([proof], 2)).toMatchObject({ safe: true, proven: 1, total: 1 });
    expect(clearanceOf([proof, { ...proof, path: 'D/B.JPG', devices: 1 }], 2)).toMatchObject({
      safe: false,
      proven: 1,
      reasons: ['D/B.JPG has 1 of 2 verified copies.'],
    });
  });

  it.each([
    ['a file that was never taken in', [{ ...proof, devices: null }], []],
    ['a file that changed', [{ ...proof, unchanged: false }], []],
    ['a link', [proof], ['D/link']],
    ['an empty card', [], []],
  ])('is false for %s', (_, files, links) => expect(clearanceOf(files, 2, links).safe).toBe(false));
});
