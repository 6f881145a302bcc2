import { keywordKind } from '@arkiv/core';
import { faultOfSent } from './sent';

const ID = '01J0000000000000000000000A';
const mark = {
  id: ID,
  kind: 'stars',
  subject: ID,
  from: 0,
  to: 3,
  at: Date.UTC(2029, 5),
  group: 'g',
  window: 'w',
};
const faultOf = (more: object) => faultOfSent({ operations: [mark, { ...mark, ...more }] });

describe('marks that a window sends', () => {
  it('are right with and without what may be left out', () => {
    expect(faultOfSent({ operations: [] })).toBeNull();
    expect(faultOf({})).toBeNull();
    expect(faultOf({ by: '', pass: null, undoes: 'g0', kind: keywordKind('heron') })).toBeNull();
    expect(faultOfSent({ operations: [mark], archive: ID })).toBeNull();
  });

  it.each([
    [{ id: 'short' }, 'operations.1.id must be an id'],
    [{ subject: null }, 'operations.1.subject must be an id'],
    [{ kind: 'colour' }, 'operations.1.kind must match'],
    [{ kind: 7 }, 'operations.1.kind must be a text'],
    [{ at: 12.5 }, 'operations.1.at must be whole milliseconds'],
    [{ at: Date.UTC(1999, 0) }, 'operations.1.at must be whole milliseconds'],
    [{ by: 'somebody' }, 'operations.1.by'],
    [{ group: '' }, 'operations.1.group must be a text'],
    [{ pass: 'x'.repeat(41) }, 'operations.1.pass must be a text'],
    [{ colour: 'red' }, 'operations.1.colour is nothing that an operation has'],
  ])('are refused where one is wrong: %j', (more, fault) => {
    expect(faultOf(more)).toContain(fault);
  });

  it('are refused as no list, as too many, and with what nobody knows', () => {
    expect(faultOfSent(null)).toContain('object');
    expect(faultOfSent({})).toContain('operations must be a list');
    expect(faultOfSent({ operations: [null] })).toContain('operations.0 must be an operation');
    expect(faultOfSent({ operations: Array.from({ length: 2001 }, () => mark) })).toContain('2000 at most');
    expect(faultOfSent({ operations: [], archive: 'x' })).toContain('archive must be an id');
    expect(faultOfSent({ operations: [], force: true })).toContain('force is nothing');
  });

  it('are still looked at one by one when their kind was seen before', () => {
    expect(faultOf({ kind: keywordKind('heron') })).toBeNull();
    expect(faultOf({ kind: keywordKind('heron'), at: 1 })).toContain('at must be');
  });
});
