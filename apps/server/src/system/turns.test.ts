import { Turns } from './turns';

const rest = () => new Promise((resolve) => setTimeout(resolve, 20));

describe('Turns', () => {
  let troubles: unknown[];
  let turns: Turns;
  beforeEach(() => {
    troubles = [];
    turns = new Turns((error) => troubles.push(error));
  });

  it('does one piece of work after another on a thing, and others beside it', async () => {
    const said: string[] = [];
    let release = (): void => undefined;
    const held = new Promise<void>((resolve) => (release = resolve));
    const first = turns.take('a', async () => {
      await held;
      said.push('a1');
    });
    const second = turns.take('a', async () => void said.push('a2'));
    await turns.take('b', async () => void said.push('b'));
    expect(said).toEqual(['b']);
    release();
    await Promise.all([first, second]);
    expect(said).toEqual(['b', 'a1', 'a2']);
  });

  it('tells whoever waits what went wrong, and goes on', async () => {
    await expect(turns.take('a', () => Promise.reject(new Error('no')))).rejects.toThrow('no');
    expect(troubles).toEqual([]);
    let went = false;
    await turns.take('a', async () => void (went = true));
    expect(went).toBe(true);
  });

  it('looks once where it is asked for several times, and tells of trouble that nobody waits for', async () => {
    let times = 0;
    const look = async (): Promise<void> => {
      times += 1;
      throw new Error('a look failed');
    };
    for (let i = 0; i < 5; i++) turns.soon('a', 0, look);
    while (troubles.length === 0) await rest();
    expect([times, (troubles[0] as Error).message]).toEqual([1, 'a look failed']);
  });

  it('begins nothing any more when it is stopped, and waits for what is under way', async () => {
    let ended = false;
    let isUnderWay = false;
    const under = turns.take('a', async () => {
      isUnderWay = true;
      await rest();
      ended = true;
    });
    let begun = false;
    turns.soon('b', 0, async () => void (begun = true));
    while (!isUnderWay) await Promise.resolve();
    await turns.stop();
    expect(ended).toBe(true);
    await under;
    turns.soon('b', 0, async () => void (begun = true));
    await turns.take('c', async () => void (begun = true));
    await rest();
    expect(begun).toBe(false);
  });
});
