import { DEFAULT_FOLDER_PLAN } from '../folders/plan';
import { collisionKey } from '../naming/legalName';
import { parseExifTime } from '../time/captureTime';
import { orderMoves, planMove, wholeWays, type MoveFrame, type MoveInput, type PlannedMove } from './plan';

const HOME = '2031/2031-04-18_regatta';
const frame = (name: string, minute = 0, extensions = ['dng', 'jpg']): MoveFrame => ({
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
  files: extensions.map((extension) => ({
    assetId: `${name}.${extension}`,
    path: `${HOME}/originals/${name}.${extension}`,
    role: 'original',
  })),
});
const input = (frames: MoveFrame[], change: Partial<MoveInput> = {}): MoveInput => ({
  frames,
  into: {
    title: 'Prize giving',
    date: '2031-04-18',
    client: '',
    place: '',
    pattern: '{shoot}_{seq:3}',
    folders: DEFAULT_FOLDER_PLAN,
    nextSeq: 1,
  },
  rename: true,
  creator: '',
  dayStartHour: 4,
  ...change,
});
const nothing = () => false;

describe('a plan for moving frames', () => {
  it('keeps all files of a frame under one name', () => {
    const plan = planMove(input([frame('0001'), frame('0002', 1)]), nothing);
    expect(plan.problems).toEqual([]);
    expect(plan.moves[1]!.files.map((f) => f.to)).toEqual([
      '2031/2031-04-18_prize-giving/originals/prize-giving_002.dng',
      '2031/2031-04-18_prize-giving/originals/prize-giving_002.jpg',
    ]);
    expect(plan.nextSeq).toBe(3);
  });

  it('keeps what was set aside or put into a sub-folder there in the shoot that it comes into', () => {
    const at = (name: string, place: string): MoveFrame => ({
      ...frame(name),
      place,
      files: [{ assetId: name, path: `${place}/${name}.jpg`, role: 'original' }],
    });
    const frames = [
      at('1', `${HOME}/rejects`),
      at('2', `${HOME}/originals/first dance/later`),
      at('3', `${HOME}/originals`),
    ];
    const places = (change: Partial<MoveInput>) =>
      planMove(input(frames, change), nothing).moves.map(({ to }) => to.place);
    const to = '2031/2031-04-18_prize-giving';
    expect(places({})).toEqual([`${to}/rejects`, `${to}/originals/first dance/later`, `${to}/originals`]);
    // Named as the plan of the shoot that they come into names them; its own sub-folders come before those made by hand.
    const into = { ...input([]).into, folders: { ...DEFAULT_FOLDER_PLAN, rejects: 'out', below: '{body}' } };
    expect(places({ into, source: DEFAULT_FOLDER_PLAN })).toEqual([
      `${to}/out`,
      `${to}/originals/ockham-five`,
      `${to}/originals/ockham-five`,
    ]);
    expect(places({ inPlace: true })).toEqual(frames.map(({ place }) => place));
  });

  it('lets names stay unless they are taken, and then takes the next number', () => {
    const taken = collisionKey('2031/2031-04-18_prize-giving/originals/0001.JPG');
    const plan = planMove(
      input([frame('0001'), frame('0002')], { rename: false }),
      (to) => collisionKey(to) === taken,
    );
    expect(plan.moves.map((m) => m.to.name)).toEqual(['prize-giving_001', '0002']);
  });

  it('gives way to a sidecar that stands alone', () => {
    const plan = planMove(input([frame('0001')], { rename: false }), (to) => to.endsWith('/0001.xmp'));
    expect(plan.moves[0]!.to.name).toBe('prize-giving_001');
  });

  it('gives frames that were called alike by two bodies names of their own', () => {
    const [one, other] = [frame('1', 0, ['dng']), { ...frame('2', 1, ['jpg']), original: 'OCK_1' }];
    const into = { ...input([]).into, pattern: '{original}' };
    const plan = planMove(input([one!, other!], { into }), nothing);
    expect(plan.problems).toEqual([]);
    expect(plan.moves.map((m) => m.to.name)).toEqual(['OCK_1', 'OCK_1_2']);
  });

  it('refuses a pattern by which two frames would share a sidecar, whatever their extensions', () => {
    const into = { ...input([]).into, pattern: '{shoot}' };
    const plan = planMove(input([frame('1', 0, ['dng']), frame('2', 1, ['jpg'])], { into }), nothing);
    expect(plan.problems.map((p) => [p.kind, p.to?.split('/').at(-1)])).toEqual([
      ['collision', 'prize-giving.xmp'],
    ]);
  });

  it('lets frames change places, sidecars and all', () => {
    const [one, other] = [frame('OCK_2', 0, ['dng']), frame('OCK_1', 1, ['jpg'])];
    const into = { ...input([]).into, title: 'Regatta', pattern: '{original}' };
    const frames = [
      { ...one!, original: 'OCK_1' },
      { ...other!, original: 'OCK_2' },
    ];
    expect(planMove(input(frames, { into }), nothing)).toMatchObject({
      problems: [],
      moves: [{ to: { name: 'OCK_1' } }, { to: { name: 'OCK_2' } }],
    });
  });

  it('keeps the camera’s own sidecar apart from ours', () => {
    const own = frame('0001');
    own.files.push({ assetId: 's', path: `${HOME}/originals/0001_card.xmp`, role: 'sidecar' });
    expect(planMove(input([own]), nothing).moves[0]!.files[2]!.to).toMatch(/prize-giving_001_card\.xmp$/);
  });

  it('makes a folder for each body where the folder plan asks for one', () => {
    const into = { ...input([]).into, folders: { ...DEFAULT_FOLDER_PLAN, below: '{body}' } };
    expect(planMove(input([frame('0001')], { into }), nothing).moves[0]!.to.place).toBe(
      '2031/2031-04-18_prize-giving/originals/ockham-five',
    );
  });

  it('passes over numbers that are taken where that is wanted, and says what no number can help', () => {
    const taken = new Set(['prize-giving_001.jpg', 'prize-giving_003.xmp']);
    const exists = (to: string) => taken.has(to.split('/').at(-1)!);
    const named = (pattern: string) => {
      const asked = input([frame('0001'), frame('0002', 1)], { passesTaken: true });
      return planMove({ ...asked, into: { ...asked.into, pattern } }, exists);
    };
    const { moves, nextSeq, problems } = named('{shoot}_{seq:3}');
    expect(moves.map(({ to }) => to.name)).toEqual(['prize-giving_002', 'prize-giving_004']);
    expect([nextSeq, problems]).toEqual([5, []]);
    expect(planMove(input([frame('0001')]), exists).problems).not.toEqual([]);
    expect(named('{shoot}').problems).not.toEqual([]);
  });

  it('tells what would collide before anything happens', () => {
    const into = { ...input([]).into, pattern: '{shoot}' };
    const { problems } = planMove(input([frame('0001'), frame('0002')], { into }), nothing);
    expect(problems[0]!.message).toMatch(/would both become/);
  });
});

describe('the order of moves', () => {
  const way = (from: string, to: string): PlannedMove => ({
    id: from,
    from: { name: from, folder: 'f', place: 'f/o' },
    to: { name: to, folder: 'f', place: 'f/o' },
    files: [{ assetId: from, from: `f/o/${from}.jpg`, to: `f/o/${to}.jpg` }],
  });
  /** Plays the moves on a set of names; throws where one would come to a taken place. */
  const play = (moves: readonly PlannedMove[]): Map<string, string> => {
    const at = new Map(moves.map((m) => [m.files[0]!.from, m.files[0]!.assetId]));
    for (const { from, to, assetId } of moves.flatMap((m) => m.files)) {
      if (at.has(to) && at.get(to) !== assetId) throw new Error(`${to} is taken`);
      at.delete(from);
      at.set(to, assetId);
    }
    return at;
  };

  it('lets the last of a row go first', () => {
    const moves = [way('1', '2'), way('2', '3'), way('3', '4')];
    expect(() => play(moves)).toThrow('taken');
    expect(orderMoves(moves).map((m) => m.from.name)).toEqual(['3', '2', '1']);
  });

  it('lets one of a ring step aside', () => {
    const moves = [way('a', 'b'), way('b', 'c'), way('c', 'a'), way('x', 'y')];
    const ordered = orderMoves(moves);
    expect(ordered).toHaveLength(5);
    const inOrder = new Map(moves.map((m) => [m.files[0]!.from, m.files[0]!.assetId]));
    for (const { from, to, assetId } of ordered.flatMap((m) => m.files)) {
      expect(inOrder.has(to)).toBe(false);
      inOrder.delete(from);
      inOrder.set(to, assetId);
    }
    expect(inOrder.get('f/o/b.jpg')).toBe('a');
    expect(wholeWays(ordered).map(({ from, to }) => [from.name, to.name])).toEqual(
      expect.arrayContaining([
        ['a', 'b'],
        ['b', 'c'],
        ['c', 'a'],
      ]),
    );
  });

  it('serves rows as long as the longest shoot', () => {
    const moves = Array.from({ length: 20_000 }, (_, i) => way(String(i), String(i + 1)));
    expect(orderMoves(moves)[0]!.from.name).toBe('19999');
  });
});
