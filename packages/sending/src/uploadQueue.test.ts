import { UploadQueue, type Way } from './uploadQueue';

const fileOf = (name: string, text = name): File => new File([text], name, { lastModified: 1 });
const chosen = (...names: string[]) => names.map((path) => ({ path, file: fileOf(path) }));

/** The other side: what came, in order, with ways to hold it up, break it, and to spoil what comes. */
function otherSide() {
  const said = { sent: [] as string[], proven: [] as string[], most: 0 };
  let now = 0;
  const broken = new Set<string>();
  const held = new Map<string, () => void>();
  const holds = new Set<string>();
  const whole: string[] = [];
  const way: Way = {
    hash: (file) => Promise.resolve(`sum of ${file.name}`),
    send: async (_, { path, file }, onSent, signal) => {
      now += 1;
      said.most = Math.max(said.most, now);
      try {
        if (holds.has(path))
          await new Promise<void>((resolve, reject) => {
            held.set(path, resolve);
            signal.addEventListener('abort', () => reject(new Error('stopped')));
          });
        if (broken.has(path)) throw new Error('the line is cut');
        onSent(file.size);
        said.sent.push(path);
        return `id of ${path}`;
      } finally {
        now -= 1;
      }
    },
    prove: (_, id, sha256) => {
      said.proven.push(`${id} ${sha256}`);
      return Promise.resolve();
    },
    whole: () => Promise.resolve(whole),
  };
  return { way, said, broken, held, holds, whole };
}
const settled = async () => {
  for (let n = 0; n < 60; n++) await Promise.resolve();
};
const states = (queue: UploadQueue) => queue.snapshot().map(({ path, state }) => `${path} ${state}`);

describe('files that are sent', () => {
  it('are proven each, three on their way at one time', async () => {
    const { way, said } = otherSide();
    const queue = new UploadQueue(way);
    await queue.into('U');
    queue.add(chosen('a', 'b', 'c', 'd', 'e'));
    expect(queue.isBusy).toBe(true);
    await settled();
    expect(states(queue)).toEqual(['a whole', 'b whole', 'c whole', 'd whole', 'e whole']);
    expect(said.proven).toContain('id of a sum of a');
    expect(said.most).toBeLessThanOrEqual(3);
    expect(queue.isBusy).toBe(false);
  });

  it('are not sent where they are there already, nor twice where they are chosen twice', async () => {
    const { way, said, whole } = otherSide();
    whole.push('sum of a');
    const queue = new UploadQueue(way);
    await queue.into('U');
    queue.add(chosen('a', 'b'));
    queue.add(chosen('b'));
    await settled();
    expect(states(queue)).toEqual(['a there', 'b whole']);
    expect(said.sent).toEqual(['b']);
    expect(queue.snapshot()[0]!.sent).toBe(1);
  });

  it('wait until it is known what is there, however soon they come after it', async () => {
    const { way, said, whole } = otherSide();
    whole.push('sum of a');
    let answer!: (sums: string[]) => void;
    const asked = new Promise<string[]>((resolve) => (answer = resolve));
    const queue = new UploadQueue({ ...way, whole: () => asked });
    const [on, added] = [queue.into('U'), queue.into('U').then(() => queue.add(chosen('a', 'b')))];
    await settled();
    expect([queue.upload, said.sent]).toEqual([null, []]);
    answer(whole);
    await Promise.all([on, added]);
    await settled();
    expect(states(queue)).toEqual(['a there', 'b whole']);
  });

  it('that fail say why, hold up no other, and are tried again at a press', async () => {
    const { way, broken } = otherSide();
    broken.add('b');
    const queue = new UploadQueue(way);
    await queue.into('U');
    queue.add(chosen('a', 'b', 'c', 'd'));
    await settled();
    expect(states(queue)).toEqual(['a whole', 'b failed', 'c whole', 'd whole']);
    expect(queue.snapshot()[1]!.reason).toBe('the line is cut');
    broken.clear();
    queue.again();
    await settled();
    expect(states(queue)[1]).toBe('b whole');
  });

  it('are let go of where somebody stops: what is there stays, and the rest is not called failed', async () => {
    const { way, holds, said } = otherSide();
    holds.add('b');
    const queue = new UploadQueue(way);
    await queue.into('U');
    queue.add(chosen('a', 'b'));
    await settled();
    expect(states(queue)).toEqual(['a whole', 'b sending']);
    queue.stop();
    await settled();
    expect(states(queue)).toEqual(['a whole']);
    expect(queue.isBusy).toBe(false);
    // Chosen again they go on.
    holds.clear();
    queue.add(chosen('a', 'b'));
    await settled();
    expect(states(queue)).toEqual(['a whole', 'b whole']);
    expect(said.sent).toEqual(['a', 'b']);
  });

  it('of another upload begin with none of the last one’s', async () => {
    const { way } = otherSide();
    const queue = new UploadQueue(way);
    await queue.into('U');
    queue.add(chosen('a'));
    await settled();
    await queue.into('V');
    expect(queue.snapshot()).toEqual([]);
    queue.clear();
    expect(queue.upload).toBeNull();
  });
});
