import fc from 'fast-check';
import { readRecord, recordHead, recordText, type RecordHead } from './record';

const HEAD: RecordHead = {
  archive: { id: '01A', name: 'Ockham “& Daughters”' },
  shoot: '01S',
  part: 'frames-12',
  at: 1_795_000_000_000,
  journal: 81,
};
const FILE = '.arkiv/record/frames-12.jsonl';
const rows = [
  { is: 'frame', row: { id: '01F', stars: 4, caption: 'One\nline', note: null } },
  { is: 'copy', row: { assetId: '01C', pastCache: true } },
];

describe('A record', () => {
  it('is a line for each row, open to whoever reads JSON', () => {
    const lines = recordText(HEAD, rows).trimEnd().split('\n');
    expect(lines.map((line) => JSON.parse(line) as object)).toEqual([
      { format: 'arkiv-record', schema: 1, ...HEAD },
      { is: 'frame', id: '01F', stars: 4, caption: 'One\nline', note: null },
      { is: 'copy', assetId: '01C', pastCache: true },
      { rows: 2 },
    ]);
  });

  it('is read as it was written, whatever its rows say', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.dictionary(
            fc.string().filter((key) => key !== 'is' && key !== '__proto__'),
            fc.jsonValue(),
          ),
        ),
        (values) => {
          const some = values.map((row) => ({ is: 'frame', row: { ...row } }));
          const read = readRecord(recordText(HEAD, some), FILE);
          expect(JSON.stringify(read.rows)).toBe(JSON.stringify(some));
          expect(read.head).toEqual(HEAD);
        },
      ),
    );
  });

  it('is known by its first line alone', () => {
    const [first] = recordText(HEAD, rows).split('\n');
    expect(recordHead(first!, FILE)).toEqual(HEAD);
    expect(recordHead(`${first}\nno JSON`, FILE)).toEqual(HEAD);
  });

  it('that was cut off anywhere is not taken for a whole one', () => {
    const text = recordText(HEAD, rows);
    for (let at = 0; at < text.length - 1; at++)
      expect(() => readRecord(text.slice(0, at), FILE)).toThrow(
        expect.objectContaining({ code: 'record.malformed' }),
      );
    expect(readRecord(text.slice(0, -1), FILE).rows).toEqual(rows);
  });

  it.each([
    ['another format', '{"format":"other","schema":1}', 'it is no record of an archive'],
    [
      'a schema that is not known',
      '{"format":"arkiv-record","schema":2}',
      'it is of schema 2, and 1 is known here',
    ],
    [
      'a first line that says too little',
      '{"format":"arkiv-record","schema":1}',
      'its first line is not whole',
    ],
    ['no JSON', 'PK\u0003\u0004', 'line 1 is no JSON object'],
    [
      'a row of nothing',
      recordText(HEAD, rows).replace('"is":"copy",', ''),
      'line 3 does not say what it is',
    ],
    ['a row that is missing', recordText(HEAD, rows).replace(/\{"is":"copy".*\n/, ''), 'its end is missing'],
  ])('of %s is refused, with the file and the reason', (_, text, reason) => {
    expect(() => readRecord(text, FILE)).toThrow(
      expect.objectContaining({ code: 'record.malformed', details: { file: FILE, reason } }),
    );
  });
});
