/** @jest-environment node */
import { parseExifTime, type SplitPart } from '@arkiv/core';
import type { Api } from '../../data/http';
import {
  heldDraft,
  intakeRequest,
  namesIn,
  newDraft,
  reduceDraft,
  type DraftAction,
  type DraftGround,
  type IntakeDraft,
} from './intakeDraft';

const frame = (n: number, time: string) =>
  ({
    key: `k${n}`,
    base: `OCK_000${n}`,
    files: [],
    facts: { make: 'Ockham', capture: parseExifTime(`2031:04:18 ${time}`, undefined, '+02:00') },
  }) as unknown as Api['CardFrameDto'];
const card = {
  ...{ card: 'regatta day', fingerprint: 'f'.repeat(32), bytes: 90, extras: [], notFollowed: [] },
  frames: [frame(1, '09:00:00'), frame(2, '09:00:05'), frame(3, '18:00:00')],
} as Api['CardDto'];
const volume = (id: string, change: Partial<Api['VolumeDto']> = {}) =>
  ({ id, online: true, readOnly: false, role: 'working', ...change }) as Api['VolumeDto'];
const folders = { path: '{capture}_{shoot}', originals: 'originals' } as unknown as Api['FolderPlanDto'];
const settings = {
  ...{ pattern: '{shoot}_{number:4}', folders, seqBy: 'shoot', template: 't1' },
  templates: [
    { id: 't1', name: 'House', mode: 'fill', fields: { creator: 'A. B.' }, keywords: 'regatta', stars: 2 },
  ],
} as unknown as Api['SettingsDto'];
const old = {
  ...{ id: 'S', title: 'Press night', date: '2031-04-17', client: 'Lantern Row', place: 'Mill Stage' },
  ...{ pattern: '{original}', folderPath: 'x/{shoot}', below: '{card}', seqBy: 'carried' },
  ...{ nextSeq: 58, zoneMinutes: 60, createdAt: 5 },
} as Api['ShootDto'];
const ground: DraftGround = {
  ...{ card, settings, shoots: [old] },
  volumes: [
    volume('a'),
    volume('b', { role: 'backup' }),
    volume('c', { role: 'edit' }),
    volume('d', { online: false }),
  ],
};
const draftOf = (...actions: DraftAction[]): IntakeDraft => actions.reduce(reduceDraft, newDraft(ground));
const NO_PARTS: SplitPart[] = [];
const ask = (draft: IntakeDraft, change: Partial<Parameters<typeof intakeRequest>[1]> = {}) =>
  intakeRequest(draft, {
    ...{ readerId: 'slot-1', card, shoots: ground.shoots, shoot: null, parts: NO_PARTS, known: [] },
    ...change,
  });

describe('what is chosen for a card', () => {
  it('begins with the card’s own name and first day, the studio’s plan and template, and every drive that can take it', () => {
    expect(newDraft(ground)).toMatchObject({
      fields: { title: 'regatta day', date: '2031-04-18' },
      targets: ['a', 'b'],
      naming: { pattern: '{shoot}_{number:4}' },
      template: { id: 't1' },
    });
  });

  it('changes by one choice at a time, and forgets none', () => {
    const draft = draftOf(
      { type: 'target', id: 'a', on: false },
      { type: 'target', id: 'b', on: true },
      { type: 'title', key: 'k3', title: 'Prizes' },
      { type: 'leaveOut', keys: ['k2'] },
      { type: 'split', rule: { by: 'day' } },
      { type: 'into', id: 'S' },
      { type: 'template', template: null },
    );
    expect(draft).toMatchObject({
      ...{ targets: ['b'], titles: { k3: 'Prizes' }, leftOut: ['k2'], rule: { by: 'day' }, into: 'S' },
      template: null,
    });
  });

  it('that is come back to leaves out drives that went away or cannot be written to', () => {
    const kept = draftOf();
    const volumes = [volume('a', { readOnly: true }), volume('b')];
    expect(heldDraft(kept, { ...ground, volumes }).targets).toEqual(['b']);
  });

  it('is named as the shoot says that it goes into, from its next number on', () => {
    expect(namesIn(draftOf(), old, ground)).toMatchObject({
      ...{ seqStart: 58, zoneMinutes: 60 },
      naming: { pattern: '{original}', folders: { path: 'x/{shoot}', below: '{card}' }, seqBy: 'carried' },
    });
    expect(namesIn(draftOf(), null, ground)).toMatchObject({ seqStart: 1, zoneMinutes: 120 });
    const carried = { ...newDraft(ground).naming, seqBy: 'carried' as const };
    const draft = draftOf({ type: 'naming', naming: carried, start: 7 });
    expect(namesIn(draft, null, ground).seqStart).toBe(58);
  });
});

describe('what the server is asked to take in', () => {
  it('is what the draft says: its texts, its stars, its drives', () => {
    expect(
      ask(
        draftOf({
          type: 'fields',
          fields: { title: 'Regatta', date: '2031-04-18', client: 'C', place: 'P' },
        }),
      ),
    ).toEqual({
      ...{ title: 'Regatta', date: '2031-04-18', client: 'C', place: 'P', readerId: 'slot-1' },
      ...{
        fingerprint: card.fingerprint,
        pattern: '{shoot}_{number:4}',
        folders,
        seqBy: 'shoot',
        seqStart: 1,
      },
      ...{ zoneMinutes: 120, targets: ['a', 'b'], corrections: [], leaveOut: [], known: [], more: [] },
      template: { mode: 'fill', fields: { creator: 'A. B.' }, keywords: 'regatta', stars: 2 },
    });
  });

  it('goes into the chosen shoot under that one’s own name', () => {
    expect(ask(draftOf({ type: 'into', id: 'S' }), { shoot: old })).toMatchObject({
      ...{ shootId: 'S', title: 'Press night', client: 'Lantern Row', seqStart: 58 },
    });
  });

  it('takes each further part with its own title, without frames that stay on the card', () => {
    const parts = [
      { keys: ['k1', 'k2'], day: '2031-04-18', from: '09:00', to: '09:00' },
      { keys: ['k3'], day: '2031-04-19', from: '18:00', to: '18:00' },
    ] as SplitPart[];
    const draft = draftOf({ type: 'title', key: 'k3', title: 'Prizes' }, { type: 'leaveOut', keys: ['k1'] });
    expect(ask(draft, { parts, known: ['k1', 'k2'] })).toMatchObject({
      leaveOut: ['k1'],
      known: ['k2'],
      more: [{ title: 'Prizes', date: '2031-04-19', keys: ['k3'] }],
    });
  });
});
