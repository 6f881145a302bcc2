import { act, cleanup, fireEvent, render, type RenderResult } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { SWRConfig } from 'swr';
import { DEFAULT_FOLDER_PLAN, DEFAULT_NAME_PATTERN, DEFAULT_RULES, planIntake } from '@arkiv/core';
import type { LoadedFrame } from '../../data/frames';
import type { Api } from '../../data/http';
import { DriveRow } from '../desk/DriveRow';
import { KeptField } from './KeptField';
import { Labels } from './Labels';
import { Plans } from './Plans';
import { Rules } from './Rules';
import { StudioFacts } from './StudioFacts';
import { Templates } from './Templates';
import { countMatching, planFrames, sampleWords, type Sample } from './useSample';

const NO_WORDS = { name: '', meaning: '' };
const settings = (change: object = {}): Api['SettingsDto'] =>
  ({
    archive: { id: 'A', name: 'Lantern Row' },
    studio: 'Lantern Row',
    archiveName: '',
    welcomed: true,
    creator: 'Ines Ockham',
    rights: '',
    pattern: DEFAULT_NAME_PATTERN,
    folders: DEFAULT_FOLDER_PLAN,
    seqBy: 'shoot',
    plans: [],
    plan: null,
    templates: [],
    template: null,
    rules: DEFAULT_RULES,
    labels: { A: 'Amber', B: 'Brick', M: 'Moss', S: 'Slate', P: 'Plum' },
    labelAlso: { A: [], B: [], M: [], S: [], P: [] },
    keeperStars: 0,
    keeperLabel: null,
    labelWords: { A: NO_WORDS, B: NO_WORDS, M: NO_WORDS, S: NO_WORDS, P: { name: 'Press', meaning: '' } },
    requiredCopies: 2,
    verifyDays: 180,
    copyMissing: false,
    dayStartHour: 4,
    ...change,
  }) as unknown as Api['SettingsDto'];

const frame = (id: string, change: Partial<LoadedFrame> = {}): LoadedFrame =>
  ({
    ...{ id, original: `OCK_000${id}`, format: 'dng+jpeg', body: 'Ockham · Ockham Five', serial: null },
    ...{ local: `2026-10-16T19:45:0${id}`, millis: 0, offsetMinutes: null, correctionMillis: 0, lens: null },
    ...{ verdict: 'undecided', stars: 0, label: null },
    ...change,
  }) as LoadedFrame;
const sample: Sample = {
  shoot: { title: 'Press night', date: '2026-10-16', client: 'Mill Stage', place: '' } as Api['ShootDto'],
  frames: [frame('1', { verdict: 'keep', label: 'P' }), frame('2', { stars: 4 }), frame('3')],
};

describe('parts of Studio', () => {
  let host: HTMLElement;
  let view: RenderResult | null = null;
  let sent: Record<string, unknown>[];
  beforeEach(() => {
    sent = [];
    global.fetch = jest.fn(async (_: unknown, { body }: { body?: string }) => {
      if (body) sent.push(JSON.parse(body) as Record<string, unknown>);
      return { ok: true, status: 200, text: async () => JSON.stringify(settings()), headers: new Map() };
    }) as unknown as typeof fetch;
  });
  afterEach(() => {
    cleanup();
    view = null;
  });
  /** Draws it, or draws it anew in the same place. */
  const show = (what: React.ReactNode) => {
    const element = (
      <SWRConfig value={{ provider: () => new Map() }}>
        <MemoryRouter>{what}</MemoryRouter>
      </SWRConfig>
    );
    if (view) view.rerender(element);
    else view = render(element);
    host = view.container;
  };
  const text = () => host.textContent ?? '';
  const field = (label: string) => host.querySelector<HTMLInputElement>(`[aria-label="${label}"]`)!;
  const type = (input: HTMLInputElement | HTMLSelectElement, value: string) =>
    fireEvent.change(input, { target: { value } });
  const leave = (input: HTMLElement) =>
    act(async () => {
      fireEvent.blur(input);
      await new Promise((resolve) => setTimeout(resolve, 20));
    });
  const press = (input: HTMLElement, key: string) =>
    act(async () => {
      fireEvent.keyDown(input, { key });
      await Promise.resolve();
    });

  it('keep a text when its field is left, and say so', async () => {
    const kept: string[] = [];
    show(<KeptField label="Creator" value="" keep={async (t) => void kept.push(t)} help="Empty" />);
    type(field('Creator'), 'Ines');
    expect(kept).toEqual([]);
    await leave(field('Creator'));
    expect(kept).toEqual(['Ines']);
    expect(text()).toContain('Kept.');
  });

  it('keep a text on Enter, and give back what was there on Escape', async () => {
    const kept: string[] = [];
    show(<KeptField label="Creator" value="Ada" keep={async (t) => void kept.push(t)} />);
    type(field('Creator'), 'Ines');
    await press(field('Creator'), 'Escape');
    expect(field('Creator').value).toBe('Ada');
    await leave(field('Creator'));
    type(field('Creator'), 'Ines');
    await press(field('Creator'), 'Enter');
    expect(kept).toEqual(['Ines']);
  });

  it('do not keep a text that cannot be kept, and say why before and after it was sent', async () => {
    const refuse = () => Promise.reject(new Error('the server said no'));
    const check = (t: string) => (t === '' ? 'A drive needs a name.' : null);
    show(<KeptField label="Name" value="Blue" keep={refuse} check={check} />);
    type(field('Name'), '');
    expect(text()).toContain('A drive needs a name.');
    type(field('Name'), 'Red');
    await leave(field('Name'));
    expect(text()).toContain('the server said no');
  });

  it('say what each fact of the studio changes', () => {
    show(<StudioFacts settings={settings()} />);
    expect(text()).toContain('Each new sidecar says: creator “Ines Ockham”');
    expect(text()).toContain('Empty: no notice is written.');
    expect(text()).toContain('A frame taken at 03:40 still belongs to the evening before.');
    show(<StudioFacts settings={settings({ dayStartHour: 0, creator: '', rights: '© Ockham' })} />);
    expect(text()).toContain('A frame taken at 00:20 belongs to the day that has just begun.');
    expect(text()).toContain('Each new sidecar says: “© Ockham”.');
  });

  it('show which frames of the newest shoot a rule makes keepers, and send another rule', async () => {
    show(<Rules settings={settings()} sample={sample} />);
    expect(text()).toContain('In “Press night” 1 keeper of 3 frames.');
    const [keeper] = host.querySelectorAll('select');
    expect([...keeper!.options].map((o) => o.text)).toContain('label P Press');
    type(keeper!, 'stars-4');
    await act(() => new Promise((resolve) => setTimeout(resolve, 20)));
    expect(sent.at(-1)).toEqual({ rules: { ...DEFAULT_RULES, keeper: { field: 'stars', atLeast: 4 } } });
  });

  it('show a rule that none of the choices is, in words, and leave it alone', () => {
    const own = {
      all: [
        { field: 'stars', atLeast: 2 },
        { field: 'verdict', is: 'keep' },
      ],
    };
    show(<Rules settings={settings({ rules: { ...DEFAULT_RULES, keeper: own } })} sample={null} />);
    const [keeper] = host.querySelectorAll('select');
    expect(keeper!.value).toBe('own');
    expect(keeper!.selectedOptions[0]!.text).toMatch(/keep/);
  });

  it('refuse two labels of one text, and count the frames that bear one', () => {
    show(<Labels settings={settings()} sample={sample} />);
    type(field('Text of label P in sidecars'), 'Amber');
    expect(text()).toContain('Label A has this text: each needs one of its own.');
    type(field('Text of label P in sidecars'), ' ');
    expect(text()).toContain('Sidecars need a text for it.');
    expect(host.querySelector('[aria-label="Label P"]')!.textContent).toContain('1 frame');
    expect(field('Name of label A').placeholder).toBe('Amber');
  });

  it('show by the newest shoot’s first frame what a plan makes of it', () => {
    const plan = {
      id: 'p',
      name: 'By client',
      pattern: '{client}_{seq:3}',
      folders: DEFAULT_FOLDER_PLAN,
      seqBy: 'shoot',
    };
    show(<Plans settings={settings({ plans: [plan], plan: 'p' })} sample={sample} />);
    expect(text()).toContain('mill-stage_001.dng');
    expect(text()).toContain('chosen at first for each card');
    // The one that is chosen at first cannot be taken off the list.
    expect(host.querySelector<HTMLButtonElement>('[aria-label="Remove: By client"]')!.disabled).toBe(true);
    show(<Plans settings={settings()} sample={null} />);
    expect(text()).toMatch(/As Arkiv comes.*harbour-regatta/);
  });

  it('show what a template says of the newest shoot’s first frame, with stars and label', () => {
    const template = {
      ...{ id: 't', name: 'Stage', mode: 'fill', keywords: 'theatre, {client}', stars: 2, label: 'P' },
      fields: { headline: '{shoot} for {client}' },
    };
    show(<Templates settings={settings({ templates: [template], template: null })} sample={sample} />);
    expect(text()).toContain('Press night for Mill Stage · theatre · Mill Stage · 2★ · label P Press');
    show(
      <Templates
        settings={settings({ templates: [{ ...template, fields: {}, keywords: '', stars: 0, label: null }] })}
        sample={null}
      />,
    );
    expect(text()).toContain('It says nothing yet.');
  });

  it('make frames of the newest shoot look as they lay on their card', () => {
    const frames = planFrames(sample);
    expect(frames[0]!.files.map((f) => f.path)).toEqual([
      'DCIM/100OCKHM/OCK_0001.DNG',
      'DCIM/100OCKHM/OCK_0001.JPG',
    ]);
    expect(frames[0]!.facts).toMatchObject({ model: 'Ockham Five', orientation: 1, iso: null });
    const plan = planIntake(
      {
        ...{
          frames,
          extras: [],
          shoot: sample.shoot,
          creator: '',
          card: 'c',
          pattern: '{capture:HHmmss}_{body}',
        },
        ...{ folders: DEFAULT_FOLDER_PLAN, seqStart: 1, zoneMinutes: 0, dayStartHour: 4 },
      },
      () => false,
    );
    expect(plan.problems).toEqual([]);
    expect(plan.frames[0]!.name).toBe('194501_ockham-five');
    expect(sampleWords(sample, 'Ines')).toMatchObject({
      shoot: 'Press night',
      creator: 'Ines',
      original: 'OCK_0001',
    });
    expect(planFrames(null)).toHaveLength(2);
    expect(countMatching(sample, { field: 'stars', atLeast: 1 })).toBe(1);
  });

  describe('a drive on the Desk', () => {
    const drive = (change: Partial<Api['VolumeDto']> = {}): Api['VolumeDto'] => ({
      ...{
        id: 'b',
        name: 'Blue',
        role: 'backup',
        online: true,
        silent: false,
        belongsTo: null,
        heldBy: null,
        ejectable: false,
        free: 5e11,
        total: 1e12,
      },
      ...{ device: 'disk 1', deviceUnknown: false, stated: null, files: 0, onlyHere: 0, damaged: 0 },
      ...{ oldestProof: null, failures: 0 },
      ...{ readOnly: false, nearlyFull: false },
      ...change,
    });
    const first = drive({ id: 'a', name: 'Red', role: 'working' });

    it('says when it lies on the disk of the main copies, and where to change that', () => {
      show(<DriveRow volume={drive()} others={[first, drive()]} />);
      expect(text()).toContain('On the same disk as Red: together they count as one copy.');
      expect(host.querySelector('a')!.getAttribute('href')).toBe('/studio#drives');
      show(<DriveRow volume={drive({ device: 'disk 2' })} others={[first]} />);
      expect(text()).not.toContain('same disk');
    });

    it('says when nobody knows on which disk it lies', () => {
      show(<DriveRow volume={drive({ device: '?', deviceUnknown: true })} others={[first]} />);
      expect(text()).toContain('Its disk is not known');
    });

    it('that does not answer is told apart from one that is not connected', () => {
      show(<DriveRow volume={drive({ online: false, silent: true })} others={[]} />);
      expect(text()).toContain('It does not answer.');
      show(<DriveRow volume={drive({ online: false })} others={[]} />);
      expect(text()).toContain('Not connected.');
    });

    it('is ejected where it can be', async () => {
      show(<DriveRow volume={drive({ ejectable: true })} others={[]} />);
      await act(async () => host.querySelector<HTMLButtonElement>('[aria-label="Eject: Blue"]')!.click());
      expect(jest.mocked(fetch).mock.calls.at(-1)![0]).toBe('/api/volumes/b/eject');
      show(<DriveRow volume={drive({ files: 1 })} others={[]} />);
      expect(host.querySelector('[aria-label="Eject: Blue"]')).toBeNull();
    });
  });
});
