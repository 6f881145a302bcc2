import { folderOwner, ownFolder, sameShoot } from './ownFolder';

describe('the folder of a shoot', () => {
  const owner = folderOwner(
    [{ title: 'Quay', folders: ['2031/Day', '2031/day_3'] }],
    folderOwner([{ title: 'Étude', folders: ['2031/day_2'] }]),
  );

  it('is the one of the plan, or has the next number that no other shoot has', () => {
    expect(ownFolder('2031/other', owner)).toBe('2031/other');
    // A disk may take both writings for one.
    expect(ownFolder('2031/day', owner)).toBe('2031/day_4');
  });

  it('is refused where another shoot of that name has it, however the title is written', () => {
    expect(sameShoot('2031/day', 'quay', owner)).toMatch(
      /“2031\/day” is the folder of the shoot “Quay” already/,
    );
    expect(sameShoot('2031/day_2', 'E\u0301tude', owner)).not.toBeNull();
    expect(sameShoot('2031/day', 'Harbour', owner)).toBeNull();
    expect(sameShoot('2031/other', 'Quay', owner)).toBeNull();
    expect(sameShoot('2031/day', '', folderOwner([{ title: '…', folders: ['2031/day'] }]))).toBeNull();
  });
});
