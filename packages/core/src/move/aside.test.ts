import { DEFAULT_FOLDER_PLAN } from '../folders/plan';
import { collisionKey } from '../naming/legalName';
import { planAside } from './aside';
import type { MoveFrame } from './plan';

const HOME = '2031/2031-04-18_regatta';
const frame = (name: string, place = `${HOME}/originals`): MoveFrame => ({
  ...{ id: `id-${name}`, name, original: name, card: 'A', folder: HOME, place, capture: null },
  ...{ model: '', serial: '', stars: 0 },
  files: ['.dng', '.jpg', '_card.xmp'].map((ending) => ({
    assetId: `${name}${ending}`,
    path: `${place}/${name}${ending}`,
    role: 'original',
  })),
});
const aside = (frames: MoveFrame[], way: 'aside' | 'back' = 'aside', taken: string[] = []) =>
  planAside(way, frames, DEFAULT_FOLDER_PLAN, 7, (to) => taken.map(collisionKey).includes(collisionKey(to)));

describe('rejects that are set aside', () => {
  it('go beside the originals with all their files, under their own names and in the same folders below', () => {
    const { moves, nextSeq, problems } = aside([frame('0001'), frame('0002', `${HOME}/originals/card-a`)]);
    expect(moves.map(({ to }) => to)).toEqual([
      { name: '0001', folder: HOME, place: `${HOME}/rejects` },
      { name: '0002', folder: HOME, place: `${HOME}/rejects/card-a` },
    ]);
    expect(moves[0]!.files.map(({ to }) => to)).toEqual([
      `${HOME}/rejects/0001.dng`,
      `${HOME}/rejects/0001.jpg`,
      `${HOME}/rejects/0001_card.xmp`,
    ]);
    expect([nextSeq, problems]).toEqual([7, []]);
  });

  it('come back to where they were', () => {
    const [there] = aside([frame('0002', `${HOME}/originals/card-a`)]).moves;
    const away = { ...frame('0002', there!.to.place), files: there!.files.map(asFile) };
    const [back] = aside([away], 'back').moves;
    expect(back!.to).toEqual(there!.from);
    expect(back!.files.map(({ to }) => to)).toEqual(there!.files.map(({ from }) => from));
  });

  it('that are there already stay, as does what lies elsewhere', () => {
    expect(aside([frame('0001', `${HOME}/rejects`), frame('0002', `${HOME}/originals-old`)]).moves).toEqual(
      [],
    );
    expect(aside([frame('0001')], 'back').moves).toEqual([]);
  });

  it('take another name where theirs is taken, for each file and for the sidecar', () => {
    for (const ending of ['.JPG', '.xmp'])
      expect(aside([frame('0001')], 'aside', [`${HOME}/rejects/0001${ending}`]).moves[0]!.to.name).toBe(
        '0001_2',
      );
    const twins = [
      frame('0001', `${HOME}/originals/a`),
      { ...frame('0001', `${HOME}/originals/a`), id: 'other' },
    ];
    expect(aside(twins).moves.map(({ to }) => to.name)).toEqual(['0001', '0001_2']);
  });
});

const asFile = ({ assetId, to }: { assetId: string; to: string }) => ({
  ...{ assetId, path: to, role: 'original' as const },
});
