import { Guesses } from './guesses';

const wrong = () => Promise.resolve(false);
const right = () => Promise.resolve(true);

describe('Who guesses', () => {
  let now = 0;
  let guesses: Guesses;
  beforeEach(() => {
    now = 1_000_000;
    guesses = new Guesses(() => now);
  });
  const mistype = async (times: number, from = 'there') => {
    for (let n = 0; n < times; n++) expect(await guesses.check(from, wrong)).toBe(false);
  };
  const waits = (from = 'there') =>
    guesses.check(from, right).then(
      () => 0,
      ({ details }: { details: { seconds: number } }) => details.seconds,
    );

  it('mistypes a few times without waiting', async () => {
    await mistype(4);
    expect(await waits()).toBe(0);
  });

  it('waits twice as long after each further wrong guess, and a quarter of an hour at most', async () => {
    await mistype(5);
    for (const seconds of [1, 2, 4, 8, 16, 32, 64, 128, 256, 512, 900, 900]) {
      expect(await waits()).toBe(seconds);
      now += seconds * 1000;
      await mistype(1);
    }
  });

  it('waits even with the right word, and is let in when the time is over', async () => {
    await mistype(5);
    expect(await waits()).toBe(1);
    now += 1000;
    expect(await waits()).toBe(0);
    // Who was let in begins anew.
    await mistype(4);
    expect(await waits()).toBe(0);
  });

  it('holds up nobody else', async () => {
    await mistype(5);
    expect(await waits('elsewhere')).toBe(0);
    expect(await waits()).toBe(1);
  });

  it('is looked at once at a time, and gains nothing by asking all at once', async () => {
    let [now_, most] = [0, 0];
    const slowly = async () => {
      most = Math.max(most, ++now_);
      await new Promise(setImmediate);
      now_ -= 1;
      return false;
    };
    const all = await Promise.allSettled(Array.from({ length: 30 }, () => guesses.check('there', slowly)));
    expect(most).toBe(1);
    // Four are looked at, the others are told to come again.
    expect(all.filter(({ status }) => status === 'fulfilled')).toHaveLength(4);
  });

  it('goes on after a look that failed', async () => {
    await expect(guesses.check('there', () => Promise.reject(new Error('no memory')))).rejects.toThrow(
      'no memory',
    );
    expect(await guesses.check('there', right)).toBe(true);
  });
});
