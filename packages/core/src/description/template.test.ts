import { parseExifTime } from '../time/captureTime';
import { EMPTY_DESCRIPTION } from './description';
import { describeFrame, keywordsOf, templateProblem, type MetadataTemplate } from './template';

const facts = {
  shoot: 'Harbour Regatta',
  capture: parseExifTime('2031:04:18 09:14:07'),
  seq: 7,
  original: 'OCK_0412',
  body: 'Ockham Five',
  serial: '1',
  card: 'A',
  client: 'Sailing Club',
  place: 'Köln: Süd',
  creator: 'A. B.',
  stars: 0,
};
const template = (change: Partial<MetadataTemplate>): MetadataTemplate => ({
  id: 't',
  name: 'House',
  mode: 'replace',
  fields: {},
  keywords: '',
  ...change,
});

describe('a metadata template', () => {
  it('uses the fields of names, as they are written', () => {
    const said = describeFrame(
      template({
        fields: { rights: '© {capture:yyyy} {creator}', headline: '{shoot}, {place}' },
        keywords: '{client}, boats',
      }),
      facts,
    );
    expect(said).toMatchObject({
      rights: '© 2031 A. B.',
      headline: 'Harbour Regatta, Köln: Süd',
      keywords: ['Sailing Club', 'boats'],
      city: null,
    });
  });

  it('holds words alone, whatever else is known of the frame', () => {
    const known = { creator: 'Second shooter', rights: null, caption: null, label: null, iso: 400 };
    const description = describeFrame(null, facts, known);
    expect(Object.keys(description).sort()).toEqual(Object.keys(EMPTY_DESCRIPTION).sort());
    expect(description.creator).toBe('Second shooter');
  });

  it('replaces what the camera wrote, or only fills what it left empty', () => {
    const fields = { creator: 'House', rights: '© House' };
    const camera = { creator: 'Second shooter', rights: null, caption: null };
    expect(describeFrame(template({ fields }), facts, camera).creator).toBe('House');
    expect(describeFrame(template({ fields, mode: 'fill' }), facts, camera)).toMatchObject({
      creator: 'Second shooter',
      rights: '© House',
    });
  });

  it('keeps what the camera wrote where it says nothing itself', () => {
    const camera = { creator: 'Second shooter', rights: null, caption: 'OCKHAM DIGITAL' };
    expect(
      describeFrame(template({ fields: { creator: '{client}' } }), { ...facts, client: '' }, camera),
    ).toMatchObject({
      creator: 'Second shooter',
      caption: 'OCKHAM DIGITAL',
    });
    expect(describeFrame(null, facts, camera).creator).toBe('Second shooter');
  });

  it('tells an unknown field before anything is stamped', () => {
    expect(templateProblem(template({ fields: { city: '{town}' } }))).toMatchObject({
      field: 'city',
      problem: { kind: 'unknown-field', field: 'town' },
    });
    expect(templateProblem(template({ keywords: 'a, {b' }))).toMatchObject({ field: 'keywords' });
    expect(templateProblem(template({ fields: { city: 'Millbrook' } }))).toBeNull();
  });

  it('takes keywords by commas or lines, each once', () =>
    expect(keywordsOf(' Boats,boats;  red   sails\n\nregatta ')).toEqual(['Boats', 'red sails', 'regatta']));
});
