import type { RecordRow } from '@arkiv/core';
import { changedThere, withoutKnown, type FrameHere } from './changedThere';

const row = (is: string, its: Record<string, unknown>): RecordRow => ({ is, row: its }) as RecordRow;
const here = (id: string, state = 'here'): FrameHere => ({
  ...{ id, state, shootId: 's', name: id, place: 'day/originals' },
});
const frame = (id: string, more: Record<string, unknown> = {}) =>
  row('frame', { ...here(id), folder: 'day', ...more });
const file = (id: string) => row('asset', { id: `${id}-raw`, frameId: id, name: '.dng' });
const copy = (id: string, volumeId = 'disk', path: string | null = null) =>
  row('copy', { assetId: `${id}-raw`, volumeId, path });

describe('what another archive says of frames that are known here', () => {
  it('is found by where their files lie on the drive that came', () => {
    const rows = [
      frame('a', { place: 'day/rejects' }),
      frame('b'),
      frame('c', { state: 'binned' }),
      frame('d', { shootId: 'other', place: 'other/originals' }),
      ...['a', 'b', 'd'].flatMap((id) => [file(id), copy(id)]),
    ];
    const copies = ['a', 'b', 'c', 'd'].map((id) => ({
      assetId: `${id}-raw`,
      at: `day/originals/${id}.dng`,
    }));
    const changed = changedThere(
      rows,
      'disk',
      ['a', 'b', 'c', 'd'].map((id) => here(id)),
      copies,
    );
    expect(changed.lie).toEqual([
      { assetId: 'a-raw', at: 'day/rejects/a.dng' },
      { assetId: 'd-raw', at: 'other/originals/d.dng' },
    ]);
    // What went into another shoot there keeps its place here.
    expect(changed.named).toEqual([
      { id: 'a', shootId: 's', here: 'a', name: 'a', folder: 'day', place: 'day/rejects' },
    ]);
    expect(changed.out).toEqual([{ id: 'c', shootId: 's', name: 'c' }]);
    // A place that was given here, while the drive was away, is none that was given there.
    const moved = [{ ...here('b'), place: 'day/rejects' }];
    expect(changedThere(rows, 'disk', moved, copies)).toMatchObject({ named: [], out: [] });
  });

  it('lies where it was binned there, as a copy here or as one that is still to be binned here', () => {
    const at = (id: string) => `.arkiv-bin/time/day/originals/${id}.dng`;
    const binned = (id: string, volumeId: string) =>
      row('binned_copy', { assetId: `${id}-raw`, volumeId, path: at(id) });
    const rows = [...['a', 'b'].flatMap((id) => [frame(id, { state: 'binned' }), binned(id, 'disk')])];
    const copies = [
      { assetId: 'a-raw', at: 'day/originals/a.dng' },
      { assetId: 'b-raw', at: 'day/originals/b.dng', due: true as const },
    ];
    const known = [here('a'), here('b', 'binned')];
    expect(changedThere(rows, 'disk', known, copies)).toEqual({
      lie: [
        { assetId: 'a-raw', at: at('a') },
        { assetId: 'b-raw', at: at('b'), due: true },
      ],
      named: [],
      out: [{ id: 'a', shootId: 's', name: 'a' }],
    });
    // Of another drive it says nothing.
    expect(changedThere([binned('a', 'home')], 'disk', known, copies).lie).toEqual([]);
  });

  it('says nothing of bins, nor of files on drives that stayed at home; of frames that are new it says all', () => {
    const bins = (id: string, binId: string) => [
      row('bin', { id: binId }),
      row('binned_frame', { frameId: id, binId }),
      row('binned_file', { frameId: id, assetId: `${id}-raw` }),
      row('binned_copy', { frameId: id, assetId: `${id}-raw`, volumeId: 'home', due: 'delete' }),
    ];
    const news = [...bins('new', 'bin-2'), frame('x'), file('x'), copy('x', 'home'), copy('x', 'disk')];
    const rows = [
      ...bins('a', 'bin-1'),
      frame('a'),
      file('b'),
      copy('b', 'home'),
      copy('b', 'disk'),
      ...news,
    ];
    const kept = withoutKnown(rows, [here('a'), here('b')], new Set(['home']));
    expect(kept).toEqual([frame('a'), file('b'), copy('b', 'disk'), ...news]);
  });

  it('brings nothing back that was taken out here', () => {
    const rows = [frame('a'), file('a'), copy('a'), row('damage', { assetId: 'a-raw', volumeId: 'disk' })];
    for (const state of ['binned', 'forgotten'])
      expect(withoutKnown(rows, [here('a', state)], new Set())).toEqual([frame('a')]);
  });
});
