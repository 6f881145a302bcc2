import { previewUrl } from '../../data/frames';
import { bestReady, detailOf, wishes } from './ladder';

const frame = (picture: string, width = 6000) => ({
  ...{ picture, width, height: (width / 3) * 2, orientation: 1 },
});
const shown = {
  rung: 'screen',
  detail: 'full',
  width: 2560,
  frameWidth: 6000,
  onScreen: 1200,
  scale: null,
  better: false,
} as const;

describe('the sign of detail', () => {
  it('is full when the picture has a pixel for each of the screen’s', () => {
    expect(detailOf(shown)).toEqual({ words: 'full detail at this size', full: true });
    expect(detailOf({ ...shown, width: 600, frameWidth: 600 }).full).toBe(true);
  });

  it('names what is shown and its pixels when it has fewer', () =>
    expect(detailOf({ ...shown, rung: 'embedded', width: 1620, onScreen: 2400, better: true })).toEqual({
      words: 'embedded picture, 1620 of 2400 px, loading full detail',
      full: false,
    }));

  it('at 100 % is full only with all pixels of the frame', () => {
    expect(detailOf({ ...shown, scale: 1, onScreen: 6000, better: true })).toEqual({
      words: '100 % · screen preview, 2560 of 6000 px, loading full detail',
      full: false,
    });
    expect(detailOf({ ...shown, rung: 'full', width: 6000, scale: 1, onScreen: 6000 })).toEqual({
      words: '100 % · full detail',
      full: true,
    });
  });
});

describe('a raw’s picture', () => {
  const close = { ...shown, rung: 'full', scale: 1, onScreen: 6000 } as const;

  it('says that it is the one the camera put in, however large', () => {
    expect(detailOf({ ...close, detail: 'embedded', width: 6000 }).words).toBe(
      '100 % · embedded picture, full detail',
    );
    expect(detailOf({ ...close, detail: 'embedded', width: 1620 })).toEqual({
      words: '100 % · embedded picture, 1620 of 6000 px',
      full: false,
    });
  });

  it('says that it was developed', () =>
    expect(detailOf({ ...close, detail: 'developed', width: 6000 }).words).toBe(
      '100 % · developed picture, full detail',
    ));
});

describe('what is asked for', () => {
  const around = [frame('b'), frame('c'), frame('d')];
  const url = previewUrl;

  it('is the frame on screen first, the quickest of it before the best, then its neighbours', () => {
    const asked = wishes(frame('a'), around, { close: false, rested: false, screenReady: false });
    expect(asked.slice(0, 4)).toEqual([
      url('a', 'thumb'),
      url('a', 'embedded'),
      url('a', 'screen'),
      url('b', 'screen'),
    ]);
    expect(asked.some((one) => one.endsWith('/full'))).toBe(false);
  });

  it('is full detail of it and its direct neighbours, at once when single pixels are looked at, else at rest', () => {
    const close = wishes(frame('a'), around, { close: true, rested: false, screenReady: true });
    expect(close.slice(0, 3)).toEqual([url('a', 'thumb'), url('a', 'screen'), url('a', 'full')]);
    const rested = wishes(frame('a'), around, { close: false, rested: true, screenReady: true });
    expect(rested.filter((one) => one.endsWith('/full'))).toEqual(['a', 'b', 'c'].map((p) => url(p, 'full')));
    // A frame that has no more pixels than a screen preview needs none.
    expect(wishes(frame('a', 2000), [], { close: true, rested: true, screenReady: true })).toEqual([
      url('a', 'thumb'),
      url('a', 'screen'),
    ]);
  });

  it('is thumbnails alone while a key is held', () => {
    const held = wishes(frame('a'), around, {
      close: false,
      rested: false,
      hurried: true,
      screenReady: false,
    });
    expect(held).toEqual(['a', 'b', 'c', 'd'].map((picture) => url(picture, 'thumb')));
  });

  it('is shown by the smallest that is large enough, else by the best that is there', () => {
    const image = (naturalWidth: number) => ({ naturalWidth }) as HTMLImageElement;
    const there = new Map([
      [url('a', 'thumb'), image(320)],
      [url('a', 'screen'), image(2560)],
      [url('a', 'full'), image(6000)],
    ]);
    const ready = (one: string) => there.get(one) ?? null;
    expect(bestReady({ ready }, 'a', 1200)?.rung).toBe('screen');
    expect(bestReady({ ready }, 'a', 6000)?.rung).toBe('full');
    there.delete(url('a', 'full'));
    expect(bestReady({ ready }, 'a', 6000)?.rung).toBe('screen');
    there.delete(url('a', 'screen'));
    expect(bestReady({ ready }, 'a', 6000)?.rung).toBe('thumb');
    expect(bestReady({ ready }, 'b', 6000)).toBeNull();
  });
});
