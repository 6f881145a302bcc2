import { randomBytes } from 'node:crypto';
import { derive, isWord, LIGHT } from './secretWord';

describe('A secret word', () => {
  it('is known again, however its letters were composed, and no other is', async () => {
    const salt = randomBytes(16);
    const hash = (await derive('Frühling am Wehr', salt, LIGHT)).toString('hex');
    const kept = { salt: salt.toString('hex'), hash, cost: LIGHT };
    expect(await isWord('Frühling am Wehr', kept)).toBe(true);
    expect(await isWord('Frühling am Wehr'.normalize('NFD'), kept)).toBe(true);
    expect(await isWord('frühling am Wehr', kept)).toBe(false);
    expect(await isWord('', kept)).toBe(false);
  });

  it('leaves nothing of itself in what is kept, which is another each time', async () => {
    const [one, other] = [
      await derive('word', randomBytes(16), LIGHT),
      await derive('word', randomBytes(16), LIGHT),
    ];
    expect(one).not.toEqual(other);
    expect(one.toString('latin1')).not.toContain('word');
  });
});
