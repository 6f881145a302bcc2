import { keepSet, lastSets } from './lastSets';

describe('the keyword sets that were typed last', () => {
  beforeEach(() => localStorage.clear());

  it('come back as they were typed, the newest first, each once, ten at most', () => {
    expect(lastSets()).toEqual([]);
    keepSet(' puppets,  moon ;puppets');
    keepSet('stage');
    keepSet('puppets, moon');
    keepSet('  ');
    expect(lastSets()).toEqual(['puppets, moon', 'stage']);
    for (let i = 0; i < 12; i++) keepSet(`word ${i}`);
    expect(lastSets()).toHaveLength(10);
    expect(lastSets()[0]).toBe('word 11');
  });

  it('are none where something else stands in their place', () => {
    localStorage.setItem('arkiv.keywords.sets', '{"no": "list"}');
    expect(lastSets()).toEqual([]);
    localStorage.setItem('arkiv.keywords.sets', 'no JSON');
    expect(lastSets()).toEqual([]);
  });
});
