// What the demo's studio says of pictures: its vocabulary with a numbered list, a metadata template, and what was written
// about the first half of the catalogue's keepers; the rest is left to be described.
import { ulid } from 'ulid';
import { client } from '../client.mjs';

const VOCABULARY = `Ceramics
	bowl
		{dish}
	jug
	plate
	[Glazes]
		celadon
		shell white
		tenmoku
			{iron glaze}
Stage
	curtain call
	dress rehearsal
	full moon
	press night
	puppet
		{marionette}
Water
	harbour  #place
	regatta  #event
		start
		finish
	[Clubs]
		Mill Pond Rowers
			Asta Rook  #person 3
			Bram Tolley  #person 7
			Cleo Wyre  #person 12
			Dorian Pike  #person 21
`;
const TEMPLATE = {
  name: 'House',
  mode: 'fill',
  fields: {
    credit: '{creator} / {client}',
    rights: '© {capture:yyyy} {creator}',
    headline: '{shoot}',
    sublocation: '{place}',
  },
  keywords: '{client}',
};
/** The catalogue's bowls, by the first frame of each. */
const BOWLS = [
  { from: 0, caption: 'Bowl in celadon, thrown at the kiln house.', words: ['celadon', 'bowl'] },
  { from: 13, caption: 'Bowl in shell white over a dark body.', words: ['shell white', 'bowl'] },
  { from: 26, caption: null, words: ['tenmoku', 'bowl'] },
];
const ABOVE = {
  bowl: ['dish', 'Ceramics'],
  celadon: ['Glazes', 'Ceramics'],
  'shell white': ['Glazes', 'Ceramics'],
};

/** Keeps vocabulary and template, describes what was kept of the catalogue so far, and says how far its editing is. */
export async function firstWords(base, shootId) {
  const { frames, patch, post } = client(base);
  await post('/vocabulary/terms', { text: VOCABULARY, format: 'indented', bring: true });
  await patch('/settings', { templates: [{ ...TEMPLATE, id: ulid() }] });
  const { columns } = await frames(shootId);
  const shared = { at: Date.now(), group: ulid(), window: ulid() };
  const said = (i, kind, from, to) => ({ id: ulid(), subject: columns.id[i], kind, from, to, ...shared });
  const operations = columns.id.flatMap((_, i) => {
    const { caption, words } = BOWLS.findLast(({ from }) => from <= i);
    if (columns.verdict[i] !== 'keep' || caption === null) return [];
    const given = new Set(words.flatMap((word) => [word, ...(ABOVE[word] ?? [])]));
    return [
      said(i, 'caption', null, caption),
      ...[...given].map((word) => said(i, `keyword ${word}`, false, true)),
    ];
  });
  // Some of what was kept first is with the editor, some came back and is ready.
  const keepers = columns.id.flatMap((_, i) => (columns.verdict[i] === 'keep' ? [i] : []));
  const stages = [
    ...keepers.slice(0, 4).map((i) => [i, 'ready']),
    ...keepers.slice(4, 9).map((i) => [i, 'editing']),
  ];
  const notes = [
    [keepers[5], '[62 % 71 %] take the shadow out'],
    [keepers[9], 'warmer, as the first'],
  ].filter(([i]) => i !== undefined);
  operations.push(
    ...stages.map(([i, stage]) => said(i, 'stage', null, stage)),
    ...notes.map(([i, note]) => said(i, 'note', null, note)),
  );
  await post('/marks', { operations });
}
