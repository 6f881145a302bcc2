import { bytesInWords } from './bytes';

it('bytes are said in thousands, and never as none where there are some', () =>
  expect([0, 1, 999, 1400, 1600, 2.5e6, 25e6, 2.5e9, 64e9].map(bytesInWords)).toEqual([
    ...['0 kB', '1 kB', '1 kB', '1 kB', '2 kB', '2.5 MB', '25 MB', '2.5 GB', '64 GB'],
  ]));
