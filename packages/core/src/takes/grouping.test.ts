import { agreementOf, bond, doubtsOf, takesOf, type GroupedFrame } from './grouping';

const ID = (letter: string) => letter.toUpperCase().padEnd(26, '0');

/** `at` in seconds; a letter is a whole id. */
const shot = (letter: string, at: number | null, more: Partial<GroupedFrame> = {}): GroupedFrame => ({
  id: ID(letter),
  instant: at === null ? null : at * 1000,
  ...{ body: 'one', close: null, take: null, aperture: 4, exposure: 1 / 100, iso: 100, dx: 0, dy: 0 },
  ...more,
});
const said = (frames: readonly GroupedFrame[], strictness?: number): string[] =>
  takesOf(frames, { strictness }).map(({ ids }) => ids.map((id) => id[0]!.toLowerCase()).join(''));

/** Looks as one subject does, as another one does, and as two pictures that have nothing in common. */
const [SAME, OTHER, NOTHING] = [3, -2.5, -6];

describe('takes', () => {
  it('are made by time alone where nothing was compared yet: bursts stay together, the next press is another one', () => {
    expect(said([shot('a', 0), shot('b', 0.2), shot('c', 0.4), shot('d', 9), shot('e', 9.1)])).toEqual([
      'abc',
      'de',
    ]);
  });

  it('reach from frame to frame, not from the first: a long burst is one take', () => {
    const burst = Array.from({ length: 300 }, (_, i) => ({ ...shot('x', i * 0.3), id: `x${i}` }));
    expect(takesOf(burst)).toHaveLength(1);
  });

  it('go on over half a minute with the same subject, and end with another one seconds later', () => {
    const frames = [
      shot('a', 0),
      shot('b', 20, { close: SAME }),
      shot('c', 28, { close: OTHER }),
      shot('d', 28.2, { close: NOTHING }),
    ];
    expect(said(frames)).toEqual(['ab', 'c', 'd']);
  });

  it('of two bodies stay whole though their frames interleave', () => {
    const frames = [
      shot('a', 0),
      shot('x', 0.1, { body: 'other' }),
      shot('b', 0.2),
      shot('y', 0.3, { body: 'other' }),
      shot('c', 0.4),
    ];
    expect(said(frames)).toEqual(['abc', 'xy']);
  });

  it('without a time stand alone each', () => {
    expect(said([shot('a', 0), shot('b', null), shot('c', null)])).toEqual(['a', 'b', 'c']);
  });

  it('part step by step as they are grouped more strictly, and never join again', () => {
    const close = [0, 2.9, 0.4, -1, 1.6, 3.5, -0.2];
    const frames = close.map((value, i) => shot('abcdefg'[i]!, i * 4, { close: value }));
    let before = takesOf(frames, { strictness: -1 }).length;
    for (let strictness = -1; strictness <= 1; strictness += 0.05) {
      const now = takesOf(frames, { strictness }).length;
      // One step of the slider parts few.
      expect(now - before).toBeGreaterThanOrEqual(0);
      expect(now - before).toBeLessThanOrEqual(2);
      before = now;
    }
    expect(before).toBeGreaterThan(takesOf(frames, { strictness: -1 }).length);
  });

  it('are the same each time', () => {
    const frames = Array.from({ length: 40 }, (_, i) =>
      shot('ab'[i % 2]!, i * 2, { id: `${i}`, close: (i % 7) - 3 }),
    );
    expect(takesOf(frames)).toEqual(takesOf([...frames]));
  });

  describe('that somebody corrected', () => {
    const burst = (...words: (string | null)[]) =>
      words.map((take, i) => shot('abcdef'[i]!, i * 0.2, { close: SAME, take }));

    it('begin at a cut, however loosely they are grouped', () => {
      expect(said(burst(null, null, 'cut', null), -1)).toEqual(['ab', 'cd']);
    });

    it('go on where they were joined, however strictly they are grouped', () => {
      const apart = [
        shot('a', 0),
        shot('b', 900, { close: NOTHING, take: 'join' }),
        shot('c', 1800, { close: NOTHING }),
      ];
      expect(said(apart, 1)).toEqual(['ab', 'c']);
    });

    it('hold frames that were put there from elsewhere, and these leave no gap behind', () => {
      const frames = burst(null, null, null, null);
      frames.push(shot('x', 60), shot('y', 60.2, { close: SAME }));
      frames[1] = { ...frames[1]!, take: `with:${ID('x')}` };
      expect(said(frames)).toEqual(['acd', 'bxy']);
    });

    it('do not hold a frame that was taken out', () => {
      expect(said(burst(null, `with:${ID('b')}`, null))).toEqual(['ac', 'b']);
    });

    it('end a circle of frames that were put to each other by leaving each alone', () => {
      expect(said(burst(`with:${ID('b')}`, `with:${ID('a')}`))).toEqual(['a', 'b']);
    });

    it('pass over a frame that is not there any more', () => {
      expect(said(burst(null, `with:${ID('z')}`, null))).toEqual(['abc']);
    });

    it('have the lead and the kind that they were given, and say that they are corrected', () => {
      const [take] = takesOf(burst(null, 'lead', 'panorama'));
      expect(take).toMatchObject({ lead: ID('b'), kind: 'panorama', corrected: true });
      expect(takesOf(burst(null, null))[0]).toMatchObject({ lead: ID('a'), kind: 'burst', corrected: false });
    });
  });
});

describe('the bond of two frames', () => {
  it('is the surer the more they look alike and the nearer in time they are', () => {
    expect(bond(2, 1000)).toBeGreaterThan(bond(1, 1000));
    expect(bond(2, 1000)).toBeGreaterThan(bond(2, 20_000));
  });

  it('asks for less likeness within a tenth of a second than within a minute', () => {
    expect(bond(OTHER, 100)).toBeGreaterThan(0);
    expect(bond(OTHER, 60_000)).toBeLessThan(0);
  });
});

describe('takes of two bodies', () => {
  const other = { body: 'other' };
  const frames = [
    shot('a', 0),
    shot('x', 0.1, other),
    shot('b', 0.2),
    shot('y', 0.6, other),
    shot('c', 30, { close: NOTHING }),
    shot('z', 90, { ...other, close: NOTHING }),
  ];
  const together = (list: readonly GroupedFrame[]) =>
    takesOf(list, { bodiesTogether: true }).map(({ ids }) => ids.map((id) => id[0]!.toLowerCase()).join(''));

  it('are one where that is wanted and they were shot at one moment, and no others', () => {
    expect(said(frames)).toEqual(['ab', 'xy', 'c', 'z']);
    expect(together(frames)).toEqual(['axby', 'c', 'z']);
  });

  it('do not bring together what one body shot of two subjects', () => {
    const two = [
      shot('a', 0),
      shot('x', 0.5, other),
      shot('b', 1.2, { close: -9 }),
      shot('c', 1.3, { close: SAME }),
    ];
    expect(said(two)).toEqual(['a', 'x', 'bc']);
    expect(together(two)).toEqual(['ax', 'bc']);
  });

  it('leave what somebody put in its place', () => {
    const cut = frames.map((frame) => (frame.id === ID('x') ? { ...frame, take: 'cut' } : frame));
    expect(together(cut)).toEqual(['ab', 'xy', 'c', 'z']);
  });
});

describe('what is doubtful', () => {
  const frames = [
    shot('a', 0),
    shot('b', 5, { close: SAME }),
    shot('c', 10, { close: -0.1 }),
    shot('d', 15, { close: 0.2 }),
    shot('e', 20, { close: NOTHING }),
  ];

  it('is what lies near the limit, the nearest first, wherever the slider stands', () => {
    const doubts = doubtsOf(frames);
    expect(doubts.map(({ id }) => id)).toEqual([ID('c'), ID('d')]);
    expect(doubts[0]).toMatchObject({ before: ID('b') });
    expect(doubts[0]!.distance).toBeLessThan(doubts[1]!.distance);
    expect(doubtsOf(frames, 1).map(({ id }) => id)).not.toContain(ID('c'));
  });

  it('is nothing that somebody has decided', () => {
    const decided = frames.map((frame) => (frame.id === ID('c') ? { ...frame, take: 'cut' } : frame));
    expect(doubtsOf(decided).map(({ id }) => id)).toEqual([ID('d')]);
  });
});

describe('the slider’s place that agrees with what was said', () => {
  const cut = (letter: string, at: number, close: number) => shot(letter, at, { close, take: 'cut' });

  it('is stricter where takes were cut that hang together now, no further than it has to be', () => {
    const frames = [shot('a', 0), cut('b', 5, 1.5), cut('c', 10, 1.2), cut('d', 15, 0.9)];
    const found = agreementOf(frames, 0)!;
    expect(found).toMatchObject({ agrees: 3, now: 0, of: 3 });
    expect(found.strictness).toBeGreaterThan(0);
    // Taken away again, the machine says the same by itself there.
    const plain = frames.map((frame) => ({ ...frame, take: null }));
    expect(said(plain, found.strictness)).toEqual(['a', 'b', 'c', 'd']);
    expect(said(plain, found.strictness - 0.1).length).toBeLessThan(4);
  });

  it('is none where too little was said, or where it stands well already', () => {
    expect(agreementOf([shot('a', 0), cut('b', 5, 1.5)], 0)).toBeNull();
    const frames = [shot('a', 0), cut('b', 5, -3), cut('c', 10, -3), cut('d', 15, -3)];
    expect(agreementOf(frames, 0)).toBeNull();
  });
});
