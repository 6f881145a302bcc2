import { frameTable } from '../index';

describe('a table of frames as other programs export it', () => {
  it('gives names with their folders, albums, marks, keywords and captions', () => {
    const table = frameTable(
      [
        'File name,Folder,Rating,Label,Pick,Keywords,Collections,Caption',
        'a_0001.dng,2029/harbour,4,Red,1,"heron; quay",Best;Client,"At the quay, early"',
        'a_0002.dng,2029/harbour,★★,,-1,,,',
      ].join('\r\n'),
    );
    expect(table).toEqual({
      left: [],
      frames: [
        {
          frame: { name: 'a_0001.dng', folder: '2029/harbour' },
          albums: ['Best', 'Client'],
          marks: {
            stars: 4,
            verdict: 'keep',
            label: 'Red',
            keywords: ['heron', 'quay'],
            caption: 'At the quay, early',
          },
        },
        {
          frame: { name: 'a_0002.dng', folder: '2029/harbour' },
          albums: [],
          marks: { stars: 2, verdict: 'reject' },
        },
      ],
    });
  });

  it('reads what is parted by tabs or semicolons, and whole paths of any system', () => {
    expect(frameTable('Source file\tstars\nC:\\Pictures\\harbour\\a.jpg\t5\n')?.frames).toEqual([
      { frame: { name: 'a.jpg', folder: 'C:/Pictures/harbour' }, albums: [], marks: { stars: 5 } },
    ]);
    expect(frameTable('path;rating\n/disk/2029/b.jpg;0\n')?.frames).toEqual([
      { frame: { name: 'b.jpg', folder: 'disk/2029' }, albums: [], marks: { stars: 0 } },
    ]);
  });

  it('names what it does not take over: columns, values, lines without a file', () => {
    const table = frameTable('name,ISO,rating,flag\na.jpg,100,nine,maybe\nb.jpg,100,nine,\n,100,3,\n');
    expect(table?.left).toEqual([
      'column “ISO”',
      'stars “nine” (2 times)',
      'flag “maybe”',
      'line 4: it names no file',
    ]);
    expect(table?.frames.map(({ marks }) => marks)).toEqual([{}, {}]);
  });

  it('takes a rating below none for a reject, as sidecars say it', () => {
    expect(frameTable('file,rating\na.jpg,-1\n')?.frames[0]!.marks).toEqual({ verdict: 'reject' });
  });

  it.each(['a.jpg\nb.jpg\n', 'When, where and why\nnothing of the kind, here\n', '', 'file\na.jpg\n'])(
    'is no table where no head names a file beside anything else: %j',
    (text) => {
      expect(frameTable(text)).toBeNull();
    },
  );
});
