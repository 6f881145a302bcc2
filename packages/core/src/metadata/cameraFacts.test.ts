import { cameraFacts } from './cameraFacts';

describe('everything a camera wrote', () => {
  it('stands by group, what is looked for first at the head, its names in words', () => {
    const told = {
      SourceFile: '/card/OCK_0001.JPG',
      'ExifTool:ExifToolVersion': 13,
      'System:Directory': '/card',
      'File:FileType': 'JPEG',
      'IFD0:Make': 'Ockham',
      'ExifIFD:ISOSpeedRatings': 100,
      'ExifIFD:SubSecTimeOriginal': '04',
      'MakerNotes:AFPoint': 'Centre',
      'IFD0:Model': 'Ockham Five',
    };
    expect(cameraFacts(told)).toEqual([
      {
        name: 'Exif',
        facts: [
          { name: 'ISO Speed Ratings', value: '100' },
          { name: 'Sub Sec Time Original', value: '04' },
        ],
      },
      {
        name: 'Picture',
        facts: [
          { name: 'Make', value: 'Ockham' },
          { name: 'Model', value: 'Ockham Five' },
        ],
      },
      { name: 'Maker Notes', facts: [{ name: 'AF Point', value: 'Centre' }] },
      { name: 'File', facts: [{ name: 'File Type', value: 'JPEG' }] },
    ]);
  });

  it('tells of what is no text by its size, and cuts what nobody reads to the end', () => {
    const [group] = cameraFacts({
      'IFD1:ThumbnailImage': '(Binary data 2585 bytes, use -b option to extract)',
      'IFD1:Curve': '1 '.repeat(5000),
      'IFD1:List': [1, 2],
    });
    expect(group!.name).toBe('Thumbnail');
    expect(group!.facts[0]!.value).toBe('2585 bytes');
    expect(group!.facts[1]!.value).toMatch(/^1 1 .{300,420} …$/);
    expect(group!.facts[2]!.value).toBe('[1,2]');
  });
});
