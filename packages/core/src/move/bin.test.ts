import { collisionKey } from '../naming/legalName';
import { BIN_FOLDER, binFolderOf, inBin, planReturn, type BinnedFrame } from './bin';

const HOME = '2031/2031-04-18_regatta';
const frame = (name: string, place = `${HOME}/originals`): BinnedFrame => ({
  ...{ id: `id-${name}`, name, folder: HOME, place },
  files: ['.dng', '.jpg'].map((ending) => ({ assetId: name + ending, path: `${place}/${name}${ending}` })),
});
const back = (frames: BinnedFrame[], taken: string[] = []) =>
  planReturn(frames, (to) => taken.map(collisionKey).includes(collisionKey(to)));

describe('the bin of a drive', () => {
  it('says by its folders when it was binned, of which shoot, and keeps each file’s own path', () => {
    const folder = binFolderOf('2031-05-02', HOME, '01HZZZZZZZZZZZZZZZZZABCDEF');
    expect(folder).toBe('2031-05-02_2031-04-18_regatta_ABCDEF');
    expect(inBin(folder, `${HOME}/originals/0001.dng`)).toBe(
      `${BIN_FOLDER}/${folder}/${HOME}/originals/0001.dng`,
    );
  });

  it('gives frames back to where they lay', () => {
    const [way] = back([frame('0001', `${HOME}/originals/card-a`)]);
    expect(way!.to).toEqual(way!.from);
    expect(way!.files.every(({ from, to }) => from === to)).toBe(true);
  });

  it.each(['.DNG', '.xmp'])('gives all files another name where one is taken by now: %s', (ending) => {
    const [way] = back([frame('0001')], [`${HOME}/originals/0001${ending}`]);
    expect(way!.to.name).toBe('0001_2');
    expect(way!.files.map(({ to }) => to)).toEqual([
      `${HOME}/originals/0001_2.dng`,
      `${HOME}/originals/0001_2.jpg`,
    ]);
  });

  it('brings a frame to where its shoot lies by now, with all its files in one folder', () => {
    const home = { folder: 'New', place: 'New/originals' };
    const [way] = planReturn(
      [{ ...frame('0001', `${HOME}/originals/card-a`), home }],
      (to) => to === 'New/originals/0001.xmp',
    );
    expect(way!.to).toEqual({ ...home, name: '0001_2' });
    expect(way!.files.map(({ to }) => to)).toEqual(['New/originals/0001_2.dng', 'New/originals/0001_2.jpg']);
  });

  it('keeps two frames apart that lay under one name at different times', () => {
    const names = back([frame('0001'), { ...frame('0001'), id: 'later' }]).map(({ to }) => to.name);
    expect(names).toEqual(['0001', '0001_2']);
  });
});
