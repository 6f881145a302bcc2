import fc from 'fast-check';
import { codedOf, linearOf } from '../colour/srgb';
import { applyMark, finishChanges, finishKind, isMarkValue, markOf, UNMARKED } from '../marks/marks';
import { EMPTY_SIDECAR, readSidecar, writeSidecar } from '../xmp/sidecar';
import { balanceAt, lightIn, matchedTo } from './balance';
import { finishesProblem, putOn } from './named';
import { cropFrom, moved, pulled, sized, turnedBy, type Held } from './cropping';
import {
  beforeTurn,
  cropFor,
  finishedSize,
  inFile,
  inShown,
  levelAngle,
  pointBelow,
  shapeOf,
  type FinishShape,
} from './shape';
import { BY_MIRED, gainsOf, toner } from './tone';
import {
  cropOf,
  cropText,
  FINISH_FIELDS,
  FINISH_RANGES,
  finishedKey,
  finishOf,
  finishText,
  isFinishValue,
  keptNumber,
  keyParts,
  MONOS,
  withFinishValue,
  type Finish,
  type RangedField,
} from './values';

const share = fc.integer({ min: 0, max: 10_000 }).map((n) => n / 10_000);
const crops = fc
  .record({
    shape: fc.option(
      fc.record({ width: fc.integer({ min: 1, max: 20 }), height: fc.integer({ min: 1, max: 20 }) }),
      { nil: null },
    ),
    x: share,
    y: share,
    size: fc.integer({ min: 100, max: 10_000 }).map((n) => n / 10_000),
  })
  .map(cropText);
const ranged = (field: RangedField) => {
  const { least, most, step } = FINISH_RANGES[field];
  return fc
    .integer({ min: Math.round(least / step), max: Math.round(most / step) })
    .map((n) => keptNumber(field, n * step) ?? undefined);
};
const finishes: fc.Arbitrary<Finish> = fc
  .record({
    ...Object.fromEntries((Object.keys(FINISH_RANGES) as RangedField[]).map((f) => [f, ranged(f)])),
    turn: fc.constantFrom(undefined, 1, 2, 3),
    crop: fc.option(crops, { nil: undefined }),
    mono: fc.constantFrom(undefined, ...MONOS),
  })
  .map((finish) => Object.fromEntries(Object.entries(finish).filter(([, v]) => v !== undefined)) as Finish);
const sizes = fc.record({
  width: fc.integer({ min: 2, max: 6000 }),
  height: fc.integer({ min: 2, max: 6000 }),
});

describe('values of finishing', () => {
  it('are kept as one text that an address holds as it is, and read again', () => {
    expect(finishText({ exposure: 0.35, angle: -1.25, mono: 'red' })).toBe(
      'angle=-1.25,exposure=0.35,mono=red',
    );
    fc.assert(
      fc.property(finishes, (finish) => {
        const text = finishText(finish);
        expect(finishOf(text)).toEqual(finish);
        expect(new URL(`http://a/${finishedKey('abc', text)}/thumb`).pathname).toBe(
          `/${finishedKey('abc', text)}/thumb`,
        );
        expect(keyParts(finishedKey('abc', text))).toEqual({ picture: 'abc', finish: text });
      }),
    );
  });

  it('leave out what they cannot be, whoever wrote it', () => {
    expect(finishOf('exposure=9,contrast=x,mono=blue,crop=4:5,new=1,tint=12')).toEqual({ tint: 12 });
    expect(finishOf('exposure=0,angle=0.001,temperature=1.5')).toEqual({});
    for (const [field, value] of [
      ['exposure', 4.01],
      ['exposure', '1'],
      ['turn', 4],
      ['crop', '400:1:0.5:0.5:1'],
      ['crop', 'own:0.5:0.5:0.001'],
      ['mono', true],
    ] as const)
      expect(isFinishValue(field, value)).toBe(false);
  });

  it('are kept on their steps, within their ranges, and not where they change nothing', () => {
    expect(keptNumber('exposure', 0.349999)).toBe(0.35);
    expect(keptNumber('exposure', 12)).toBe(4);
    expect(keptNumber('angle', 0.004)).toBeNull();
    expect(keptNumber('temperature', -3.4)).toBe(-3);
  });

  it('are marks, each given and taken by itself', () => {
    let marks = applyMark(UNMARKED, { kind: finishKind('exposure'), to: 0.5 });
    marks = applyMark(marks, { kind: finishKind('mono'), to: 'plain' });
    expect(marks.finish).toBe('exposure=0.5,mono=plain');
    marks = applyMark(marks, { kind: finishKind('exposure'), to: null });
    expect(marks.finish).toBe('mono=plain');
    expect(markOf(marks, finishKind('mono'))).toBe('plain');
    expect(isMarkValue(finishKind('contrast'), 101)).toBe(false);
    expect(() => applyMark(UNMARKED, { kind: finishKind('exposure'), to: true })).toThrow(TypeError);
    expect(withFinishValue('mono=plain', 'mono', null)).toBe('');
  });

  it('go through a sidecar as they are, and what changed there comes back value by value', () => {
    fc.assert(
      fc.property(finishes, finishes, (one, other) => {
        const [from, to] = [finishText(one), finishText(other)];
        const read = readSidecar(writeSidecar({ ...EMPTY_SIDECAR, finish: to || null }));
        expect(read.ok && read.model.finish).toBe(to || null);
        const marks = finishChanges(from, to).reduce(applyMark, { ...UNMARKED, finish: from });
        expect(marks.finish).toBe(to);
      }),
    );
  });
});

const everyByte = () => Uint8Array.from({ length: 256 * 3 }, (_, i) => Math.floor(i / 3));
const toned = (finish: Finish, pixels: Uint8Array): Uint8Array => {
  toner(finish)(pixels, 3);
  return pixels;
};

describe('what finishing does to pixels', () => {
  it('is nothing where nothing is given', () => {
    expect(toned({}, everyByte())).toEqual(everyByte());
    expect(toned({ angle: 2, crop: 'own:0.5:0.5:0.5' }, everyByte())).toEqual(everyByte());
  });

  it('never turns two tones about, and keeps black black', () => {
    fc.assert(
      fc.property(finishes, (finish) => {
        const made = toned(finish, everyByte());
        expect([made[0], made[1], made[2]]).toEqual([0, 0, 0]);
        for (let i = 3; i < made.length; i++) expect(made[i]).toBeGreaterThanOrEqual(made[i - 3]!);
      }),
    );
  });

  it('makes a stop twice the light in mid tones, and leaves in the brightest what there is to tell apart', () => {
    const grey = 100;
    const [made] = toned({ exposure: 1 }, Uint8Array.of(grey, grey, grey));
    expect(linearOf(made! / 255) / linearOf(grey / 255)).toBeCloseTo(2, 1);
    const bright = toned({ exposure: 1 }, Uint8Array.of(255, 235, 215));
    expect(bright[0]).toBe(255);
    expect(bright[0]! - bright[1]!).toBeGreaterThanOrEqual(3);
    expect(bright[1]! - bright[2]!).toBeGreaterThanOrEqual(3);
  });

  it('keeps the light of a grey when only its colour is changed', () => {
    for (const temperature of [-150, 40, 200])
      for (const tint of [-60, 0, 80]) {
        const [r, g, b] = gainsOf({ temperature, tint });
        expect(0.2126 * r + 0.7152 * g + 0.0722 * b).toBeCloseTo(1, 10);
        expect(r / b > 1).toBe(temperature > 0);
      }
  });

  it('leaves white what was blown, whatever the balance', () => {
    for (const finish of [
      { temperature: -180, tint: -40 },
      { temperature: 200, exposure: 1 },
      { tint: 90, exposure: -1 },
    ]) {
      const [r, g, b] = toned(finish, Uint8Array.of(255, 255, 255));
      expect([r, g]).toEqual([g, b]);
      if ((finish.exposure ?? 0) >= 0) expect(r).toBe(255);
    }
  });

  it('takes warmth from Planck’s law, in sRGB’s primaries', () => {
    // Colour matching functions of CIE 1931 as sums of bell curves (Wyman, Sloan, Shirley 2013).
    const bell = (x: number, middle: number, below: number, above: number) =>
      Math.exp(-0.5 * ((x - middle) * (x < middle ? below : above)) ** 2);
    const x = (l: number) =>
      0.362 * bell(l, 442, 0.0624, 0.0374) +
      1.056 * bell(l, 599.8, 0.0264, 0.0323) -
      0.065 * bell(l, 501.1, 0.049, 0.0382);
    const y = (l: number) => 0.821 * bell(l, 568.8, 0.0213, 0.0247) + 0.286 * bell(l, 530.9, 0.0613, 0.0322);
    const z = (l: number) => 1.217 * bell(l, 437, 0.0845, 0.0278) + 0.681 * bell(l, 459, 0.0385, 0.0725);
    const planck = (l: number, kelvin: number) =>
      (l * 1e-9) ** -5 / (Math.exp(1.4387769e-2 / (l * 1e-9 * kelvin)) - 1);
    const logs = (mired: number) => {
      let [X, Y, Z] = [0, 0, 0];
      for (let l = 380; l <= 780; l++) {
        const p = planck(l, 1e6 / mired);
        [X, Y, Z] = [X + p * x(l), Y + p * y(l), Z + p * z(l)];
      }
      const red = 3.2406 * X - 1.5372 * Y - 0.4986 * Z;
      const green = -0.9689 * X + 1.8758 * Y + 0.0415 * Z;
      const blue = 0.0557 * X - 0.204 * Y + 1.057 * Z;
      return [Math.log(red / green), Math.log(blue / green)] as const;
    };
    const [near, far] = [logs(154), logs(229)];
    expect((far[0] - near[0]) / 75).toBeCloseTo(BY_MIRED.red, 4);
    expect((far[1] - near[1]) / 75).toBeCloseTo(BY_MIRED.blue, 4);
  });

  it('makes black and white of the light of all channels, and leaves a fourth one alone', () => {
    const four = Uint8ClampedArray.of(200, 40, 90, 7, 12, 250, 3, 9);
    toner({ mono: 'plain' })(four, 4);
    expect([four[0], four[1], four[3], four[7]]).toEqual([four[2], four[2], 7, 9]);
    const light = 0.2126 * linearOf(200 / 255) + 0.7152 * linearOf(40 / 255) + 0.0722 * linearOf(90 / 255);
    expect(Math.abs(four[0]! - codedOf(light) * 255)).toBeLessThanOrEqual(1);
    const [green, red] = [
      toned({ mono: 'green' }, Uint8Array.of(20, 220, 20)),
      toned({ mono: 'red' }, Uint8Array.of(20, 220, 20)),
    ];
    expect(green[0]).toBeGreaterThan(red[0]!);
  });
});

describe('what part of a picture is shown', () => {
  it('never reaches beyond the picture, whatever the values, and whatever picture they are put on', () => {
    fc.assert(
      fc.property(finishes, sizes, (finish, size) => {
        const shape = shapeOf(finish, size);
        for (const [x, y] of [
          [0, 0],
          [1, 0],
          [0, 1],
          [1, 1],
        ] as const) {
          const at = pointBelow(shape, { x, y });
          // A rectangle of one pixel at the very edge may lie half outside.
          const [dx, dy] = [1 / shape.width, 1 / shape.height];
          expect(at.x).toBeGreaterThanOrEqual(-dx - 1e-9);
          expect(at.x).toBeLessThanOrEqual(1 + dx + 1e-9);
          expect(at.y).toBeGreaterThanOrEqual(-dy - 1e-9);
          expect(at.y).toBeLessThanOrEqual(1 + dy + 1e-9);
        }
      }),
    );
  });

  it('has the shape that was asked for, as large as it may be', () => {
    expect(finishedSize({}, { width: 6000, height: 4000 })).toEqual({ width: 6000, height: 4000 });
    expect(finishedSize({ turn: 1 }, { width: 6000, height: 4000 })).toEqual({ width: 4000, height: 6000 });
    expect(finishedSize({ crop: '4:5:0.5:0.5:1' }, { width: 6000, height: 4000 })).toEqual({
      ...{ width: 3200, height: 4000 },
    });
    // The largest upright 3:2 within a 3:2 that lies askew by t: 1 / (cos t + 1.5 sin t).
    const by = 1 / (Math.cos(Math.PI / 60) + 1.5 * Math.sin(Math.PI / 60));
    expect(finishedSize({ angle: 3 }, { width: 6000, height: 4000 })).toEqual({
      ...{ width: Math.round(6000 * by), height: Math.round(4000 * by) },
    });
    expect(cropOf('4:5:0.5:0.48:0.9')).toEqual({
      ...{ shape: { width: 4, height: 5 }, x: 0.5, y: 0.48, size: 0.9 },
    });
  });

  it('finds where a point of it lies in the file', () => {
    const size = { width: 600, height: 400 };
    const shape = shapeOf({ crop: 'own:0.25:0.25:0.5' }, size);
    expect(pointBelow(shape, { x: 0, y: 0 })).toEqual({ x: 0, y: 0 });
    expect(pointBelow(shape, { x: 1, y: 1 })).toEqual({ x: 0.5, y: 0.5 });
    // Turned clockwise, what was at the upper left is at the upper right.
    expect(beforeTurn(1, { x: 1, y: 0 })).toEqual({ x: 0, y: 0 });
    expect(beforeTurn(2, { x: 1, y: 0 })).toEqual({ x: 0, y: 1 });
    expect(beforeTurn(3, { x: 1, y: 0 })).toEqual({ x: 1, y: 1 });
    // Turned by 90° bit by bit as by a quarter at once.
    const askew = pointBelow(
      { turn: 0, angle: 45, width: 100, height: 100, box: { x: 50, y: 50, width: 40, height: 40 } },
      { x: 1, y: 0.5 },
    );
    expect(askew.x).toBeCloseTo(0.5 + 0.2 * Math.SQRT1_2);
    expect(askew.y).toBeCloseTo(0.5 - 0.2 * Math.SQRT1_2);
  });

  it('lies level by a line that was drawn along what is level, or upright', () => {
    expect(levelAngle(0, { x: 0, y: 0 }, { x: 100, y: 0 })).toBeCloseTo(0);
    // It falls to the right: the picture is turned back.
    expect(levelAngle(0, { x: 0, y: 0 }, { x: 100, y: 5 })).toBeCloseTo(-2.862, 2);
    expect(levelAngle(-2.5, { x: 100, y: 5 }, { x: 0, y: 0 })).toBeCloseTo(-5.362, 2);
    expect(levelAngle(0, { x: 0, y: 0 }, { x: 3, y: 100 })).toBeCloseTo(1.718, 2);
  });

  it('lies along the frame that it is put on, if it did on its own', () => {
    const [wide, high] = [
      { width: 6000, height: 4000 },
      { width: 4000, height: 6000 },
    ];
    expect(cropFor('5:4:0.4:0.5:1', wide, high)).toBe('4:5:0.5:0.4:1');
    expect(cropFor('4:5:0.4:0.5:1', wide, high)).toBe('4:5:0.4:0.5:1');
    expect(cropFor('own:0.4:0.5:1', wide, high)).toBe('own:0.4:0.5:1');
    expect(cropFor('5:4:0.4:0.5:1', wide, wide)).toBe('5:4:0.4:0.5:1');
  });
});

describe('a rectangle that is drawn', () => {
  const ways = fc.record({
    x: fc.integer({ min: -3000, max: 3000 }),
    y: fc.integer({ min: -3000, max: 3000 }),
  });
  const holds = fc.constantFrom<Held[]>(
    ...([-1, 0, 1] as const).flatMap((x) => ([-1, 0, 1] as const).map((y) => ({ x, y }))),
  );
  const large = fc.record({
    width: fc.integer({ min: 400, max: 6000 }),
    height: fc.integer({ min: 400, max: 6000 }),
  });
  const angles = fc.integer({ min: -4500, max: 4500 }).map((n) => n / 100);
  const stays = (shape: FinishShape) => {
    for (const [x, y] of [
      [0, 0],
      [1, 1],
      [0, 1],
      [1, 0],
    ] as const) {
      const at = pointBelow(shape, { x, y });
      expect(Math.min(at.x, at.y)).toBeGreaterThanOrEqual(-0.001);
      expect(Math.max(at.x, at.y)).toBeLessThanOrEqual(1.001);
    }
  };

  it('stays within the picture however it is pulled, moved or sized, and keeps its shape where it is to', () => {
    fc.assert(
      fc.property(large, angles, holds, ways, fc.boolean(), (size, angle, held, way, locked) => {
        const shape = shapeOf({ angle, crop: '3:2:0.5:0.5:0.6' }, size);
        const made = pulled(shape, held, way, locked ? 1.5 : null);
        stays(made);
        if (locked) expect(made.box.width / made.box.height).toBeCloseTo(1.5, 3);
        stays(moved(shape, way));
        stays(sized(shape, 1 + way.x / 3000));
        // What is kept of it shows the same again.
        const again = shapeOf({ angle, crop: cropFrom(made, 'free') }, size);
        expect(Math.abs(again.box.width - made.box.width)).toBeLessThan(size.width * 0.002 + 1);
        expect(Math.abs(again.box.x - made.box.x)).toBeLessThan(size.width * 0.001 + 1);
      }),
    );
  });

  it('is no longer than the picture, askew or not, and is kept as it was drawn', () => {
    const size = { width: 400, height: 450 };
    const shape = shapeOf({ angle: -34.23, crop: '3:2:0.5:0.5:0.6' }, size);
    for (const made of [pulled(shape, { x: 1, y: -1 }, { x: 162, y: 139 }, null), sized(shape, 9)]) {
      expect(made.box.width).toBeLessThanOrEqual(400.001);
      const again = shapeOf({ angle: -34.23, crop: cropFrom(made, 'free') }, size);
      expect(Math.abs(again.box.width - made.box.width)).toBeLessThan(1);
    }
  });

  it('leaves in place what lies across from where it is held', () => {
    const shape = shapeOf({ crop: '1:1:0.5:0.5:0.5' }, { width: 600, height: 400 });
    const { box } = pulled(shape, { x: 1, y: 1 }, { x: 40, y: 10 }, null);
    expect([box.x - box.width / 2, box.y - box.height / 2]).toEqual([200, 100]);
    expect([box.width, box.height]).toEqual([240, 210]);
    expect(moved(shape, { x: 1000, y: -20 }).box).toMatchObject({ x: 500, y: 180 });
    expect(sized(shape, 10).box.width).toBe(400);
  });

  it('turns along with the picture, and four turns are none', () => {
    const size = { width: 600, height: 400 };
    const finish = { crop: 'own:0.3:0.4:0.4', exposure: 1 };
    const turned = turnedBy(finish, 1, size);
    expect(turned).toEqual({ crop: 'own:0.6:0.3:0.4', exposure: 1, turn: 1 });
    const once = shapeOf(turned, size);
    // The same corner of the file.
    const [a, b] = [inFile(shapeOf(finish, size), { x: 0, y: 0 }), inFile(once, { x: 1, y: 0 })];
    expect(a.x).toBeCloseTo(b.x);
    expect(a.y).toBeCloseTo(b.y);
    const four = [1, 2, 3, 4].reduce<Finish>((now) => turnedBy(now, 1, size), finish);
    expect(four).toEqual(finish);
    expect(turnedBy(turnedBy(finish, 1, size), -1, size)).toEqual(finish);
  });

  it('finds points of the file in what is shown, and back', () => {
    fc.assert(
      fc.property(finishes, large, share, share, (finish, size, x, y) => {
        const shape = shapeOf(finish, size);
        const back = inShown(shape, inFile(shape, { x, y }));
        expect(back.x).toBeCloseTo(x, 6);
        expect(back.y).toBeCloseTo(y, 6);
      }),
    );
  });
});

describe('white balance by a spot, and a take by its lead', () => {
  it('makes grey what was pointed to', () => {
    fc.assert(
      fc.property(fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: 70, max: 200 }))), (spot) => {
        const [r, g, b] = spot as [number, number, number];
        const balance = balanceAt([r, g, b])!;
        const within = Object.values(balance).every((v) => Math.abs(v) < 100);
        fc.pre(within);
        const made = toned(balance, Uint8Array.of(r, g, b));
        expect(Math.max(...made) - Math.min(...made)).toBeLessThanOrEqual(2);
      }),
    );
    expect(balanceAt([255, 255, 255])).toBeNull();
    expect(balanceAt([4, 3, 5])).toBeNull();
    expect(balanceAt([128, 128, 128])).toEqual({});
  });

  it('gives a frame of other light the look of its lead', () => {
    const scene = Uint8Array.from({ length: 3 * 900 }, (_, i) => 40 + ((i * 7919) % 150));
    // Darker by half a stop and cooler, as the sun went behind a cloud.
    const cloudy = toned({ exposure: -0.5, temperature: -25, tint: 6 }, scene.slice());
    const leads = { exposure: 0.2, contrast: 30 };
    const found = matchedTo(lightIn(scene, 3), leads, lightIn(cloudy, 3));
    expect(found.exposure).toBeCloseTo(0.7, 1);
    expect(Math.abs(found.temperature! - 25)).toBeLessThanOrEqual(3);
    expect(Math.abs(found.tint! + 6)).toBeLessThanOrEqual(3);
    const [one, other] = [
      lightIn(toned(leads, scene.slice()), 3),
      lightIn(toned({ ...leads, ...found }, cloudy), 3),
    ];
    for (const c of [0, 1, 2] as const) expect(Math.abs(Math.log2(one[c] / other[c]))).toBeLessThan(0.05);
  });
});

describe('finishes by name', () => {
  it.each([
    [[{ name: '', values: 'mono=plain' }], 'needs a name'],
    [[{ name: 'Dusk', values: '' }], 'holds no values'],
    [[{ name: 'Dusk', values: 'exposure=99' }], 'holds no values'],
    [
      [
        { name: 'Dusk', values: 'mono=plain' },
        { name: 'dusk', values: 'mono=red' },
      ],
      'Two finishes',
    ],
    [[{ name: 'x'.repeat(41), values: 'mono=plain' }], 'too long'],
  ])('are refused with words: %j', (finishesGiven, words) => {
    expect(finishesProblem(finishesGiven)).toContain(words);
  });

  it('are put on value by value, and leave alone what they say nothing of', () => {
    expect(finishesProblem([{ name: 'Dusk', values: 'exposure=0.5,temperature=20' }])).toBeNull();
    const finish = finishOf('exposure=0.5,temperature=20');
    expect(putOn(finish, FINISH_FIELDS)).toEqual([
      ['exposure', 0.5],
      ['temperature', 20],
    ]);
    expect(putOn(finish, ['temperature', 'mono'])).toEqual([['temperature', 20]]);
  });
});
