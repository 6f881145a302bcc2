import { joinedMeant } from './joined';

describe('a line that joins its parts as one says it', () => {
  it.each([
    ['stork or heron', 'stork|heron'],
    ['stork OR heron or "white egret" ≥4★', 'stork|heron|"white egret" ≥4★'],
    ['bride and groom', 'bride groom'],
    ['bride & groom or couple', 'bride groom|couple'],
  ])('%s is probably %s', (line, meant) => expect(joinedMeant(line)).toBe(meant));

  it.each(['heron', 'or', 'or heron', 'heron or', '"stork or heron"', 'north and', 'portland orchid', ''])(
    '%s joins nothing so',
    (line) => expect(joinedMeant(line)).toBeNull(),
  );

  it.each(['≥4★ or heron', 'heron or keep', '-heron or stork', 'stork or -heron'])(
    '%s cannot stand with a bar between',
    (line) => expect(joinedMeant(line)).toBeNull(),
  );
});
