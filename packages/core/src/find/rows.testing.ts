import type { FoundRow } from './findIndex';

/** A frame of which little is known. */
export const NO_ROW: FoundRow = {
  ...{
    key: 0,
    shootId: 's1',
    binned: false,
    shown: true,
    arrival: null,
    drives: '',
    delivered: null,
    lies: '',
    hash: null,
  },
  ...{
    name: 'frame',
    original: '',
    verdict: 'undecided',
    stars: 0,
    label: null,
    note: null,
    stage: null,
    take: null,
  },
  ...{ instant: null, taken: null, body: null, lens: null, aperture: null, exposure: null, iso: null },
  ...{ focalLength: null, role: 'original', format: 'jpeg', raw: 'none', sign: null, detail: null },
  ...{
    sharpness: null,
    advice: '',
    voice: null,
    edited: null,
    finished: null,
    piles: '',
    albums: '',
    caption: null,
    keywords: '',
    persons: '',
    texts: '',
    finish: '',
  },
};

export const row = (key: number, facts: Partial<FoundRow>): FoundRow => ({ ...NO_ROW, key, ...facts });
