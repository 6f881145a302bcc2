/** @jest-environment node */
import { parseExifTime } from '@arkiv/core';
import type { Api } from '../../data/http';
import { draftParts, joined, sampleFacts, zoneOf, type DraftInput } from './draft';

const NO_FACTS = {
  make: 'Ockham',
  model: 'Ockham Five',
  serial: '1',
  lens: null,
  exposure: null,
  aperture: null,
  iso: null,
  ...{ exposureBias: null, focus: null },
  focalLength: null,
  width: null,
  height: null,
  orientation: 1,
  seconds: null,
  creator: 'Second body',
  rights: null,
  caption: null,
  rating: null,
  label: null,
};
const frame = (n: number, time: string): Api['CardFrameDto'] => ({
  key: `k${n}`,
  base: `OCK_000${n}`,
  files: [
    {
      path: `DCIM/100OCKHM/OCK_000${n}.DNG`,
      size: 20,
      mtimeMillis: 0,
      role: 'original',
      format: 'dng',
      raw: true,
    },
    {
      path: `DCIM/100OCKHM/OCK_000${n}.JPG`,
      size: 10,
      mtimeMillis: 0,
      role: 'original',
      format: 'jpeg',
      raw: false,
    },
  ],
  facts: { ...NO_FACTS, capture: parseExifTime(`2031:04:18 ${time}`, undefined, '+02:00') },
});
const card: Api['CardDto'] = {
  card: 'card a',
  fingerprint: 'f'.repeat(32),
  bytes: 90,
  frames: [frame(1, '09:00:00'), frame(2, '09:00:05'), frame(3, '18:00:00')],
  extras: [{ path: 'MISC/INDEX.DAT', size: 1, mtimeMillis: 0, role: 'other', format: '', raw: false }],
  notFollowed: [],
};
const fields = { title: 'Regatta', date: '2031-04-18', client: '', place: 'Pond' };
const input = (change: Partial<DraftInput> = {}): DraftInput => ({
  card,
  settings: { creator: 'A. B.', dayStartHour: 4 } as Api['SettingsDto'],
  leftOut: new Set(),
  known: [],
  naming: {
    pattern: '{shoot}_{seq:3}',
    folders: {
      path: '{capture:yyyy-MM-dd}_{shoot}',
      originals: 'originals',
      selects: 'selects',
      edits: 'edits',
      delivery: 'delivery',
      rejects: 'rejects',
    },
    seqBy: 'shoot',
  },
  seqStart: 1,
  zoneMinutes: 0,
  others: [],
  ...change,
});
const whole = [{ fields, part: null, extras: true }];

describe('what an intake would do, while it is put together', () => {
  it('names what is taken in and leaves out what stays', () => {
    const [plan] = draftParts(input({ leftOut: new Set(['k2']) }), whole);
    expect(plan!.frames.map((f) => f.name)).toEqual(['regatta_001', 'regatta_002']);
    expect(plan!.items).toHaveLength(5);
  });

  it('gives frames that look archived the last numbers', () => {
    const [plan] = draftParts(input({ known: ['k1'] }), whole);
    expect(plan!.frames.map(({ key, seq }) => [key, seq])).toEqual([
      ['k2', 1],
      ['k3', 2],
      ['k1', 3],
    ]);
  });

  it('plans each part by itself, with the loose files in the first', () => {
    const part = (keys: string[]) => ({ keys, day: '2031-04-18', from: '09:00', to: '09:00' });
    const plans = draftParts(input(), [
      { fields, part: part(['k1', 'k2']), extras: true },
      { fields: { ...fields, title: 'Prizes' }, part: part(['k3']), extras: false },
    ]);
    expect(plans.map((p) => p.items.length)).toEqual([5, 2]);
    expect(plans[1]!.frames[0]!.name).toBe('prizes_001');
    expect(joined(plans).items).toHaveLength(7);
    expect(joined(plans).bytes).toBe(91);
  });

  it('carries numbers on from part to part where the plan says so', () => {
    const naming = { ...input().naming, seqBy: 'carried' as const };
    const part = (keys: string[]) => ({ keys, day: null, from: null, to: null });
    const plans = draftParts(input({ naming, seqStart: 41 }), [
      { fields, part: part(['k1', 'k2']), extras: false },
      { fields: { ...fields, title: 'Prizes' }, part: part(['k3']), extras: false },
    ]);
    expect(plans.flatMap((p) => p.frames.map((f) => f.seq))).toEqual([41, 42, 43]);
  });

  it('tells of two parts that would get the same names', () => {
    const part = (keys: string[]) => ({ keys, day: null, from: null, to: null });
    const plans = draftParts(input(), [
      { fields, part: part(['k1']), extras: false },
      { fields, part: part(['k2']), extras: false },
    ]);
    expect(joined(plans).problems.map(({ kind }) => kind)).toEqual(
      expect.arrayContaining(['same-shoot', 'exists']),
    );
  });

  it('makes a folder of its own for each shoot, also where the plan would make the same one', () => {
    const part = (keys: string[]) => ({ keys, day: null, from: null, to: null });
    const folders = { ...input().naming.folders, path: '{capture:yyyy}' };
    const others = [{ title: 'Harbour', folders: ['2031'] }];
    const plans = draftParts(input({ naming: { ...input().naming, folders }, others }), [
      { fields, part: part(['k1']), extras: false },
      { fields: { ...fields, title: 'Prizes' }, part: part(['k2']), extras: false },
    ]);
    expect(joined(plans).problems).toEqual([]);
    expect(plans.map((plan) => plan.folders)).toEqual([['2031_2'], ['2031_3']]);
    const same = draftParts(
      input({ others: [{ title: 'regatta', folders: ['2031-04-18_regatta'] }] }),
      whole,
    );
    expect(joined(same).problems[0]!.message).toMatch(/is the folder of the shoot “regatta” already/);
  });

  it('says when names would not sort by time', () => {
    const naming = { ...input().naming, pattern: '{original}' };
    const late = { ...card, frames: [frame(2, '09:00:00'), frame(1, '10:00:00')] };
    const [plan] = draftParts(input({ card: late, naming }), whole);
    expect(plan!.problems).toEqual([]);
    expect(plan!.warnings[0]!.message).toMatch(/“OCK_0001” was taken after “OCK_0002”/);
  });

  it('shows templates for a frame that is taken in, with what its camera wrote', () => {
    const { facts, camera } = sampleFacts(input({ leftOut: new Set(['k1']) }), fields);
    expect(facts).toMatchObject({ original: 'OCK_0002', place: 'Pond', creator: 'A. B.' });
    expect(camera.creator).toBe('Second body');
    expect(zoneOf(card)).toBe(120);
  });
});
