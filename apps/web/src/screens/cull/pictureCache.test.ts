import { ahead, decoded, HELD, readyPicture } from './pictureCache';

/** Pictures that the browser is at work on, by address. */
const under = new Map<string, { done: () => void; fail: () => void; image: HTMLImageElement }>();

describe('pictures held ready', () => {
  beforeEach(() => {
    under.clear();
    HTMLImageElement.prototype.decode = function (this: HTMLImageElement) {
      const url = this.getAttribute('src')!;
      return new Promise<void>((done, fail) =>
        under.set(url, { done, fail: () => fail(new Error(url)), image: this }),
      );
    };
  });
  let check = 0;
  const names = (n: number) => {
    check += 1;
    return Array.from({ length: n }, (_, i) => `/picture-${check}-${i}`);
  };

  it('are ready when they are decoded, and the same ones while they are held', async () => {
    const [url] = names(1);
    const asked = decoded(url!);
    expect(readyPicture(url!)).toBeNull();
    under.get(url!)!.done();
    const image = await asked;
    expect(readyPicture(url!)).toBe(image);
    expect(await decoded(url!)).toBe(image);
  });

  it('are never more than the limit, those that were asked for last; decoding that ends late adds none', async () => {
    const urls = names(HELD + 3);
    for (const url of urls) void decoded(url).catch(() => undefined);
    for (const url of urls) under.get(url)!.done();
    await Promise.resolve();
    await Promise.resolve();
    expect(urls.filter((url) => readyPicture(url) !== null)).toEqual(urls.slice(3));
  });

  it('that nobody looks at any more are not fetched to their end; whole ones stay whole on screen', async () => {
    const urls = names(HELD + 2);
    void decoded(urls[0]!).catch(() => undefined);
    const whole = decoded(urls[1]!);
    under.get(urls[1]!)!.done();
    await whole;
    for (const url of urls.slice(2)) void decoded(url).catch(() => undefined);
    expect(under.get(urls[0]!)!.image.hasAttribute('src')).toBe(false);
    expect(under.get(urls[1]!)!.image.getAttribute('src')).toBe(urls[1]);
  });

  it('that could not be decoded are asked for anew', async () => {
    const [url] = names(1);
    const asked = decoded(url!);
    under.get(url!)!.fail();
    await expect(asked).rejects.toThrow();
    under.clear();
    // Not with each key that is pressed beside it, only when it is gone to.
    ahead(url!);
    expect(under.has(url!)).toBe(false);
    void decoded(url!).catch(() => undefined);
    expect(under.has(url!)).toBe(true);
  });
});
