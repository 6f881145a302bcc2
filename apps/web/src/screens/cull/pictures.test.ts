import { AT_ONCE, HELD, NOTHING, Pictures } from './pictures';

/** Pictures that the browser is at work on, by address. */
const under = new Map<
  string,
  { done: () => Promise<void>; fail: () => Promise<void>; image: HTMLImageElement }
>();
const settled = async () => {
  for (let i = 0; i < 6; i++) await Promise.resolve();
};

describe('pictures that are wanted on screen', () => {
  let pictures: Pictures;
  beforeEach(() => {
    under.clear();
    pictures = new Pictures();
    HTMLImageElement.prototype.decode = function (this: HTMLImageElement) {
      const url = this.getAttribute('src')!;
      return new Promise<void>((done, fail) =>
        under.set(url, {
          done: () => (done(), settled()),
          fail: () => (fail(new Error(url)), settled()),
          image: this,
        }),
      );
    };
  });
  const screens = (n: number, from = 0) => Array.from({ length: n }, (_, i) => `/${from + i}/screen`);
  const asked = () => [...under.keys()];

  it('are ready when they are decoded, and the same ones while they are held', async () => {
    pictures.want('a', ['/0/screen']);
    expect(pictures.ready('/0/screen')).toBeNull();
    await under.get('/0/screen')!.done();
    const image = pictures.ready('/0/screen');
    expect(image).toBe(under.get('/0/screen')!.image);
    pictures.want('a', ['/1/screen', '/0/screen']);
    expect(pictures.ready('/0/screen')).toBe(image);
  });

  it('are asked for a few at once, in the order in which they are wanted', async () => {
    pictures.want('a', screens(6));
    expect(asked()).toEqual(screens(AT_ONCE));
    await under.get('/1/screen')!.done();
    expect(asked()).toEqual(screens(AT_ONCE + 1));
  });

  it('that nobody wants any more are given up, and make way for those that are', async () => {
    pictures.want('a', screens(3));
    pictures.want('a', ['/9/screen', '/2/screen']);
    expect(under.get('/0/screen')!.image.src).toBe(NOTHING);
    expect(under.get('/2/screen')!.image.getAttribute('src')).toBe('/2/screen');
    expect(asked()).toContain('/9/screen');
    // What was given up is no failure: it is asked for when it is wanted again.
    await under.get('/0/screen')!.fail();
    expect(pictures.failed('/0/screen')).toBe(false);
    // Nor is it the picture, though its element has something to show now.
    await under.get('/1/screen')!.done();
    expect(pictures.ready('/1/screen')).toBeNull();
    pictures.want('a', ['/1/screen']);
    expect(pictures.ready('/1/screen')).toBeNull();
  });

  it('are asked for in turn where several places want some', () => {
    pictures.want('a', screens(3, 0));
    under.clear();
    pictures = new Pictures();
    pictures.want('a', ['/0/screen']);
    pictures.want('b', ['/5/screen', '/6/screen', '/7/screen']);
    pictures.want('a', ['/0/screen', '/1/screen']);
    expect(asked().slice(0, 2)).toEqual(['/0/screen', '/5/screen']);
    expect(asked()).toHaveLength(AT_ONCE);
  });

  it('that could not be decoded are not asked for with each key, and once more on demand', async () => {
    pictures.want('a', ['/0/screen']);
    await under.get('/0/screen')!.fail();
    expect(pictures.failed('/0/screen')).toBe(true);
    under.clear();
    pictures.want('a', ['/0/screen']);
    expect(asked()).toEqual([]);
    pictures.again('/0/screen');
    expect(asked()).toEqual(['/0/screen']);
  });

  it('are held no more than memory allows, those that were wanted last', async () => {
    const urls = screens(HELD.screen + 4);
    for (const url of urls) {
      pictures.want('a', [url]);
      await under.get(url)!.done();
    }
    const kept = urls.filter((url) => pictures.ready(url) !== null);
    expect(kept).toEqual(urls.slice(-HELD.screen));
  });
});
