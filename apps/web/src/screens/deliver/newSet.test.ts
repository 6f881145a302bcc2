import { DEFAULT_OUTPUT_SPECS, DEFAULT_STAGES } from '@arkiv/core';
import { freeSpecName } from '../studio/OutputSpecs';
import { chosenOf } from './NewSet';
import { lineFor } from './useWhichKeepers';

describe('a new set', () => {
  const [web, print] = DEFAULT_OUTPUT_SPECS;

  it('is made by the specs that are chosen and still there, in the studio’s order; else by the first', () => {
    expect(chosenOf(DEFAULT_OUTPUT_SPECS, [print!.name, web!.name])).toEqual([web, print]);
    expect(chosenOf(DEFAULT_OUTPUT_SPECS, ['taken away'])).toEqual([web]);
    expect(chosenOf([], [])).toEqual([]);
  });

  it('is of all keepers, of what is at the last stage whatever that is called, or of what a line finds', () => {
    expect(lineFor('all', 'typed before', DEFAULT_STAGES)).toBe('');
    expect(lineFor('ready', '', DEFAULT_STAGES)).toBe('stage=ready');
    const own = [{ name: 'to edit' }, { name: 'to the client' }];
    expect(lineFor('ready', '', own)).toBe('stage="to the client"');
    expect(lineFor('best', '', own)).toBe('stage="to the client" ≥4★');
    expect(lineFor('own', ' album:Portfolio ', own)).toBe('album:Portfolio');
    expect(lineFor('line album="The feast"', 'typed before', own)).toBe('album="The feast"');
  });

  it('has a spec like another under a name that nobody has', () => {
    const specs = [{ name: 'Web' }, { name: 'web 2' }, { name: 'Web 3' }];
    expect(freeSpecName('Web', specs)).toBe('Web 4');
    expect(freeSpecName('Print', specs)).toBe('Print 2');
  });
});
