import type { Now } from './state';
import { Talk } from './talk';

const FIRST: Now = {
  ...{ me: 'Ana', rights: { choose: true, remark: true, download: false }, most: 2, chosen: {} },
  ...{ favourites: [], remarks: {}, sent: null, pictures: { count: 3, stamp: 'a' } },
};

/** A server that answers when it is told to. */
function server() {
  const asked: {
    where: string;
    said: unknown;
    answer: (status: number, body: unknown) => void;
    cut: () => void;
  }[] = [];
  const ask = (where: string, init?: { body?: string }) =>
    new Promise((resolve, reject) => {
      asked.push({
        ...{ where, said: init?.body === undefined ? null : JSON.parse(init.body) },
        answer: (status, body) => resolve({ ok: status < 400, status, json: () => Promise.resolve(body) }),
        cut: () => reject(new TypeError('Failed to fetch')),
      });
    });
  Object.assign(globalThis, { fetch: ask });
  return asked;
}
const settled = async () => {
  for (let n = 0; n < 12; n++) await Promise.resolve();
};

describe('What a client says', () => {
  let asked: ReturnType<typeof server>;
  let troubles: string[];
  let talk: Talk;
  beforeEach(() => {
    asked = server();
    troubles = [];
    talk = new Talk(
      '/g/x',
      FIRST,
      () => undefined,
      (words) => troubles.push(words),
    );
  });
  const choose = (key: string, on = true) => talk.say({ kind: 'choice', key, on });
  const chosen = () => Object.keys(talk.now.chosen);

  it('is shown before the server has heard it, and is what the server says then', async () => {
    const heard = choose('a');
    expect(talk.now.chosen).toEqual({ a: 'Ana' });
    await settled();
    asked[0]!.answer(200, { ...FIRST, chosen: { a: 'Ana', b: 'Ben' } });
    expect(await heard).toBe(true);
    expect(talk.now.chosen).toEqual({ a: 'Ana', b: 'Ben' });
    expect(troubles).toEqual([]);
  });

  it('goes one after another, in the order in which it was said', async () => {
    void choose('a');
    void choose('b');
    void choose('a', false);
    await settled();
    expect(asked).toHaveLength(1);
    asked[0]!.answer(200, { ...FIRST, chosen: { a: 'Ana' } });
    await settled();
    // What was said after it stays shown while it is on its way.
    expect(chosen()).toEqual(['b']);
    asked[1]!.answer(200, { ...FIRST, chosen: { a: 'Ana', b: 'Ana' } });
    await settled();
    expect(asked.map(({ said }) => said)).toEqual([
      { kind: 'choice', key: 'a', on: true },
      { kind: 'choice', key: 'b', on: true },
      { kind: 'choice', key: 'a', on: false },
    ]);
  });

  it('is taken back where the server says no, in its words, and what is so is asked for', async () => {
    const heard = choose('a');
    await settled();
    asked[0]!.answer(409, { message: 'All 2 pictures are chosen.', next: 'Take one back first.' });
    expect(await heard).toBe(false);
    expect(chosen()).toEqual([]);
    expect(troubles).toEqual(['All 2 pictures are chosen. Take one back first.']);
    await settled();
    expect(asked[1]!.where).toBe('/g/x/state');
    asked[1]!.answer(200, { ...FIRST, chosen: { b: 'Ben', c: 'Ben' } });
    await settled();
    expect(chosen()).toEqual(['b', 'c']);
  });

  it('is taken back where there is no line, and what is said after that goes on', async () => {
    const heard = choose('a');
    await settled();
    asked[0]!.cut();
    expect(await heard).toBe(false);
    expect([chosen(), troubles]).toEqual([[], [expect.stringContaining('no connection')]]);
    const again = choose('a');
    await settled();
    asked[1]!.answer(200, { ...FIRST, chosen: { a: 'Ana' } });
    expect(await again).toBe(true);
    expect(chosen()).toEqual(['a']);
  });

  it('is not lost for what others said meanwhile', async () => {
    const looked = talk.look();
    void choose('a');
    asked[0]!.answer(200, { ...FIRST, chosen: { b: 'Ben' } });
    await looked;
    expect(chosen()).toEqual(['a']);
    await settled();
    asked[1]!.answer(200, { ...FIRST, chosen: { b: 'Ben', a: 'Ana' } });
    await settled();
    expect(chosen()).toEqual(['b', 'a']);
  });
});
