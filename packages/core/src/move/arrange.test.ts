import { DEFAULT_FOLDER_PLAN } from '../folders/plan';
import { parseExifTime } from '../time/captureTime';
import { belowOriginals, numberKept, planArrange, type ArrangeInput, type Arrangement } from './arrange';
import type { MoveFrame } from './plan';

const HOME = '2031/2031-04-18_regatta';
const frame = (name: string, minute = 0, change: Partial<MoveFrame> = {}): MoveFrame => ({
  id: `id-${name}`,
  name,
  original: `OCK_${name}`,
  card: 'A',
  folder: HOME,
  place: `${HOME}/originals`,
  capture: parseExifTime(`2031:04:18 09:${String(minute).padStart(2, '0')}:00`),
  model: 'Ockham Five',
  serial: '1',
  stars: 0,
  files: ['dng', 'jpg'].map((extension) => ({
    assetId: `${name}.${extension}`,
    path: `${HOME}/originals/${name}.${extension}`,
    role: 'original',
  })),
  ...change,
});
const input = (frames: MoveFrame[], how: Partial<Arrangement>, others: MoveFrame[] = []): ArrangeInput => ({
  ...{ frames, others, creator: '', home: null, copies: false },
  shoot: {
    ...{ title: 'Regatta', date: '2031-04-18', client: '', place: '', pattern: '{shoot}_{number:4}' },
    ...{ folders: DEFAULT_FOLDER_PLAN, nextSeq: 90 },
  },
  how: {
    ...{ pattern: null, name: null, below: null, seqStart: null, today: '2031-05-02', due: null },
    ...how,
  },
});
const nothing = () => false;
/** Files that lie there already and stay. */
const there = (...frames: MoveFrame[]) => {
  const all = new Set(frames.flatMap(({ files }) => files.map(({ path }) => path.toLowerCase())));
  return (to: string) => all.has(to.toLowerCase());
};
const names = (given: ArrangeInput, exists = nothing as (to: string) => boolean) =>
  planArrange(given, exists).moves.map(({ to }) => to.name);

describe('naming a selection by a pattern', () => {
  const chosen = [frame('a'), frame('b', 1)];
  const rest = [frame('regatta_0007', 2), frame('regatta_0003', 3), frame('finish_0120', 4)];

  it('begins at 1 for a new text, and goes on behind what the pattern gave before', () => {
    const asked = (pattern: string) => names(input(chosen, { pattern }, rest), there(...rest));
    expect(asked('start_{number:4}')).toEqual(['start_0001', 'start_0002']);
    expect(asked('{shoot}_{number:4}')).toEqual(['regatta_0008', 'regatta_0009']);
    expect(asked('finish_{number:4}')).toEqual(['finish_0121', 'finish_0122']);
  });

  it('begins where somebody says, and says what is taken instead of passing it over', () => {
    const plan = (seqStart: number) =>
      planArrange(input(chosen, { pattern: '{shoot}_{number:4}', seqStart }, rest), there(...rest));
    expect(plan(20).moves.map(({ to }) => to.name)).toEqual(['regatta_0020', 'regatta_0021']);
    expect(plan(2).problems.length).toBeGreaterThan(0);
  });

  it('knows the day of today and the day it is due, in date letters', () => {
    const how = { pattern: '{capture:yyMMdd}_{today:yyyy-MM-dd}_{due:MMdd}_{number:2}', due: '2031-06-30' };
    expect(names(input(chosen, how))[0]).toBe('310418_2031-05-02_0630_01');
    expect(names(input(chosen, { ...how, due: null }))[0]).toBe('310418_2031-05-02__01');
  });

  it('keeps all files of a frame together where they lie, and leaves what is called so already', () => {
    const plan = planArrange(input([frame('regatta_0001')], { pattern: 'start_{number:4}' }), nothing);
    expect(plan.moves[0]!.files.map(({ to }) => to)).toEqual([
      `${HOME}/originals/start_0001.dng`,
      `${HOME}/originals/start_0001.jpg`,
    ]);
    expect(planArrange(input([frame('start_0001')], { pattern: 'start_{number:4}' }), nothing).moves).toEqual(
      [],
    );
    // The shoot's own pattern and numbers stay as they are.
    expect(plan.nextSeq).toBe(90);
  });

  it('says what is wrong with a pattern, and with a name that no system takes', () => {
    const wrong = (how: Partial<Arrangement>) =>
      planArrange(input(chosen, how), nothing).problems[0]?.message;
    expect(wrong({ pattern: '{moon}' })).toMatch(/names the field “moon”/);
    expect(wrong({ pattern: 'a:b_{number}' })).toMatch(/would become/);
  });
});

describe('naming one frame by hand', () => {
  it('takes the name as it is written, and says where it is taken', () => {
    const other = frame('landing_0118', 1);
    const one = (name: string) =>
      planArrange(input([frame('regatta_0118')], { name }, [other]), there(other));
    expect(one('heron-landing_0118').moves[0]!.to.name).toBe('heron-landing_0118');
    expect(one('landing_0118').problems).toHaveLength(2);
    expect([numberKept('regatta_20310418_0118'), numberKept('OCK_9970b'), numberKept('portrait')]).toEqual([
      ...['0118', '9970', null],
    ]);
  });
});

describe('folders below the originals', () => {
  it('take frames in under their names, and give them back', () => {
    const plan = planArrange(input([frame('1'), frame('2', 1)], { below: ' proofs / second// ' }), nothing);
    expect(plan.moves.map(({ to }) => `${to.place}/${to.name}`)).toEqual([
      `${HOME}/originals/proofs/second/1`,
      `${HOME}/originals/proofs/second/2`,
    ]);
    const place = `${HOME}/originals/proofs`;
    const lies = frame('1', 0, {
      place,
      files: [{ assetId: 'x', path: `${place}/1.dng`, role: 'original' }],
    });
    expect(planArrange(input([lies], { below: '' }), nothing).moves[0]!.files).toEqual([
      { assetId: 'x', from: `${place}/1.dng`, to: `${HOME}/originals/1.dng` },
    ]);
    expect(belowOriginals(HOME, place, 'originals')).toBe('proofs');
    expect(belowOriginals(HOME, `${HOME}/rejects`, 'originals')).toBeNull();
  });

  it('are made of what each frame says, as its first keyword', () => {
    const said = [frame('1', 0, { keyword: 'Grey Heron' }), frame('2', 1, { stars: 4 })];
    expect(
      planArrange(input(said, { below: 'by/{keyword}' }), nothing).moves.map(({ to }) => to.place),
    ).toEqual([`${HOME}/originals/by/grey-heron`, `${HOME}/originals/by`]);
    expect(planArrange(input(said, { below: '{moon}' }), nothing).problems).toHaveLength(1);
  });

  it('give a frame another name where its own is taken, and leave what lies there', () => {
    const lies = frame('1', 5, {
      id: 'other',
      files: [{ assetId: 'x', path: `${HOME}/originals/proofs/1.DNG`, role: 'original' }],
    });
    const plan = planArrange(input([frame('1')], { below: 'proofs' }, [lies]), there(lies));
    expect(plan.moves[0]!.to.name).toBe('1_2');
    expect(plan.problems).toEqual([]);
  });

  it('are refused where they lead out, or have names that no system takes', () => {
    const problems = (below: string) => planArrange(input([frame('1')], { below }), nothing).problems.length;
    expect([problems('a/../..'), problems('nul'), problems('a?b'), problems('proofs')].map(Boolean)).toEqual([
      ...[true, true, true, false],
    ]);
  });
});

describe('copies of frames', () => {
  it('come to lie beside the frames, which give no name away', () => {
    const one = frame('a');
    const beside = { ...input([one], { below: '' }), copies: true };
    expect(names(beside, there(one))).toEqual(['a_2']);
    const below = { ...input([one], { below: 'album' }), copies: true };
    expect(planArrange(below, there(one))).toMatchObject({
      moves: [{ to: { name: 'a', place: `${HOME}/originals/album` } }],
      problems: [],
    });
    // The same way without copying is none.
    expect(planArrange(input([one], { below: '' }), there(one)).moves).toEqual([]);
  });
});

describe('frames that come into another shoot', () => {
  const other = '2031/2031-04-20_prizes';

  it('lie in its folder, under their names or its own, and give way to what is there', () => {
    const mine = frame('a');
    const its = frame('a', 5, { folder: other, place: `${other}/originals` });
    const its2 = {
      ...its,
      files: its.files.map((file) => ({ ...file, path: file.path.replace(HOME, other) })),
    };
    const asked = { ...input([mine], {}, [its2]), home: other };
    expect(planArrange(asked, nothing).moves[0]!.to).toEqual({
      ...{ name: 'a', folder: other, place: `${other}/originals` },
    });
    expect(names(asked, there(its2))).toEqual(['a_2']);
    const below = { ...input([mine], { below: 'guests' }), home: other };
    expect(planArrange(below, nothing).moves[0]!.to.place).toBe(`${other}/originals/guests`);
  });
});
