import type { Api } from '../../data/http';
import { NO_FRAME } from '../../data/frames';
import { asVersion, versionsOf } from './versions';

const taken = { picture: 'taken', width: 6000, height: 4000, orientation: 6 };
const edit = (picture: string, more: Partial<Api['EditOfFrameDto']> = {}): Api['EditOfFrameDto'] => ({
  ...{ assetId: picture, name: `${picture}.jpg`, at: 0, picture, width: 800, height: 1000, originals: 1 },
  ...more,
});

describe('the versions of a frame', () => {
  it('begin with the edit that shows it, and end with what the camera took', () => {
    const all = versionsOf({ picture: 'second' }, { taken, edits: [edit('second'), edit('first')] });
    expect(all.map(({ picture }) => picture)).toEqual(['second', 'first', 'taken']);
    expect(all.map(({ words }) => words)).toEqual([
      ...['edit 2 of 2: second.jpg', 'edit 1 of 2: first.jpg', 'as the camera took it'],
    ]);
  });

  it('begin with what the camera took where a panorama alone was made of it', () => {
    const all = versionsOf({ picture: 'taken' }, { taken, edits: [edit('pano', { originals: 5 })] });
    expect(all.map(({ words }) => words)).toEqual([
      'as the camera took it',
      'edit 1 of 1: pano.jpg, from 5 frames',
    ]);
  });

  it('look as large as they are, and stand as they stand', () => {
    const frame = { ...NO_FRAME, picture: 'second', width: 800, height: 1000 };
    const [shown, before] = versionsOf(frame, { taken, edits: [edit('second')] });
    expect(asVersion(frame, before)).toMatchObject(taken);
    expect(asVersion(frame, shown)).toMatchObject({
      picture: 'second',
      width: 800,
      height: 1000,
      orientation: 1,
    });
    expect(asVersion(frame, undefined)).toBe(frame);
    // Of one whose size nobody knows the frame's own has to do.
    const unknown = { ...before!, width: null, height: null };
    expect(asVersion(frame, unknown)).toMatchObject({ width: 800, height: 1000 });
  });
});
