import {
  cropFrom,
  cropOf,
  finishOf,
  finishText,
  FINISH_FIELDS,
  FINISH_RANGES,
  keptNumber,
  largestIn,
  MONOS,
  shapeOf,
  turnedBy,
  type Crop,
  type Finish,
  type FinishField,
  type Mono,
  type RangedField,
} from '@arkiv/core';
import { useState } from 'react';
import type { Api } from '../../../data/http';
import { many } from '../../../data/format';
import { fileSize, type LoadedFrame } from '../../../data/frames';
import { useSettings } from '../../../data/live';
import { changeSettings } from '../../../data/settings';
import type { CullCommand } from '../../../keys/actions';
import { useKeptState } from '../../../parts/useKeptState';
import type { FinishMode as Mode } from '../cullState';
import drawer from '../FilterDrawer.module.css';
import { KeptPart } from '../KeptPart';
import { isNamed } from './CropOver';
import { lastFinish } from './finishCommands';
import {
  FINISH_GROUPS,
  FINISH_WORDS,
  MONO_WORDS,
  shownValue,
  typedValue,
  type FinishGroup,
} from './finishWords';
import type { Finishing } from './finishing';
import styles from './FinishPanel.module.css';

interface Props {
  frame: LoadedFrame | null;
  finishing: Finishing;
  mode: Mode;
  /** frames stand side by side */
  beside: boolean;
  /** how many frames the current one's take has */
  take: number;
  onMode: (mode: Mode | null) => void;
  onRun: (command: CullCommand) => void;
  /** puts values on what is marked */
  onPut: (
    finish: Finish,
    fields: readonly FinishField[],
    from: { width: number; height: number } | null,
  ) => void;
  keyOf: (action: string) => string;
}

/** The shapes that prints and screens have, the long side first. */
const SHAPES = ['1:1', '5:4', '4:3', '7:5', '3:2', '16:9'] as const;

const TONES = ['exposure', 'contrast', 'highlights', 'shadows'] as const satisfies readonly RangedField[];
const BALANCE = ['temperature', 'tint'] as const satisfies readonly RangedField[];

/** How fine a slider steps: half a hundredth of a stop nobody sees, and a hand cannot hold. */
const STEPS: Readonly<Partial<Record<RangedField, number>>> = { exposure: 0.05, angle: 0.1 };

/** What is changed of how frames look: no file is touched by any of it. */
export function FinishPanel(props: Props) {
  const { frame, finishing, mode, beside, take, onMode, onRun, onPut, keyOf } = props;
  const { values, targets, all, setAll, attempt, settle } = finishing;
  const [groups, setGroups] = useKeptState<FinishGroup[]>('finish.groups', ['tones', 'balance', 'mono']);
  const fields = FINISH_GROUPS.filter(({ id }) => groups.includes(id)).flatMap((its) => [
    ...its.fields,
  ]) as FinishField[];
  const { data: settings } = useSettings();
  const given = values !== null && FINISH_FIELDS.some((field) => values[field] !== undefined);
  const last = lastFinish();
  const size = frame && fileSize(frame);
  const kept = values && pick(values, fields);
  const goes = targets.length === 1 ? 'this frame' : many(targets.length, 'frame');
  return (
    <aside className={styles.panel} aria-label="Finish" data-stays>
      <div className={styles.head}>
        <h2>Finish</h2>
        <span style={{ color: 'var(--soft)' }}>{targets.length === 0 ? '' : goes}</span>
        <button type="button" className={drawer.away} aria-label="Close Finish" onClick={() => onMode(null)}>
          ×
        </button>
      </div>
      {beside && (
        <section className={drawer.part}>
          <label className={drawer.check}>
            <input type="checkbox" checked={all} onChange={(event) => setAll(event.target.checked)} />
            all that stand side by side
          </label>
        </section>
      )}
      {values === null ? (
        <p className={`${drawer.part} ${drawer.hint}`}>Of this frame there is no picture to finish.</p>
      ) : (
        <>
          {frame?.edited && (
            <p className={`${drawer.part} ${drawer.hint}`}>
              An edit of this frame came back and is shown as it is. What is given here shows on the camera’s
              picture only.
            </p>
          )}
          <section className={drawer.part}>
            {TONES.map((field) => (
              <Value key={field} field={field} value={values[field] ?? 0} onTry={attempt} onSettle={settle} />
            ))}
          </section>
          <section className={drawer.part}>
            <h2>White balance</h2>
            {BALANCE.map((field) => (
              <Value key={field} field={field} value={values[field] ?? 0} onTry={attempt} onSettle={settle} />
            ))}
            <div className={styles.buttons}>
              <button
                type="button"
                className={drawer.small}
                aria-pressed={mode === 'grey'}
                onClick={() => onMode(mode === 'grey' ? 'tones' : 'grey')}
              >
                Point to what should be grey
              </button>
            </div>
          </section>
          <section className={drawer.part}>
            <h2>Black and white</h2>
            <select
              aria-label="Black and white"
              className={drawer.select}
              style={{ width: '100%' }}
              value={values.mono ?? ''}
              onChange={(event) => {
                attempt({ mono: (event.target.value || null) as Mono | null });
                settle();
                event.target.blur();
              }}
            >
              <option value="">in colour</option>
              {MONOS.map((mono) => (
                <option key={mono} value={mono}>
                  {MONO_WORDS[mono]}
                </option>
              ))}
            </select>
          </section>
          {size && frame && (
            <ShapePart
              finish={values}
              size={size}
              mode={mode}
              crops={keyOf('finish-crop')}
              onMode={onMode}
              onTry={attempt}
              onSettle={settle}
            />
          )}
          <section className={drawer.part}>
            <h2>Put on {goes}</h2>
            {FINISH_GROUPS.map(({ id, words }) => (
              <label key={id} className={drawer.step}>
                <input
                  type="checkbox"
                  checked={groups.includes(id)}
                  onChange={(event) =>
                    setGroups((now) =>
                      event.target.checked ? [...now, id] : now.filter((one) => one !== id),
                    )
                  }
                />
                {words}
              </label>
            ))}
            <div className={styles.buttons}>
              <button
                type="button"
                className={drawer.small}
                disabled={last === null || fields.length === 0}
                title={`What was given to a frame last is put on ${goes}. ${keyOf('finish-last')}`}
                onClick={() => last && onPut(finishOf(last.values), fields, last)}
              >
                As the last one
              </button>
              {take > 1 && (
                <button
                  type="button"
                  className={drawer.small}
                  title={`Exposure and white balance of the take’s other frames, so that they look as its lead does. ${keyOf('finish-match')}`}
                  onClick={() => onRun({ do: 'finishMatch' })}
                >
                  Match the take to its lead
                </button>
              )}
              <button
                type="button"
                className={drawer.small}
                disabled={!given && targets.length < 2}
                title={`As the camera took it. ${keyOf('finish-none')}`}
                onClick={() => onRun({ do: 'finishNone' })}
              >
                Reset
              </button>
            </div>
          </section>
          <KeptPart
            list="finishes"
            title="Finishes"
            kept={(settings?.finishes ?? []).map(asKept)}
            now={kept && finishText(kept) !== '' ? { values: finishText(kept) } : null}
            keys={[1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => keyOf(`finish-${n}`))}
            change={(next) =>
              changeSettings((now) => ({ finishes: next(now.finishes.map(asKept)).map(asFinish) }))
            }
            onChoose={(its: { values: string }) => onPut(finishOf(its.values), FINISH_FIELDS, size)}
          />
        </>
      )}
    </aside>
  );
}

const asKept = ({ name, values }: Api['NamedFinishDto']): Api['KeptByNameDto'] => ({
  name,
  value: { values },
});
const asFinish = ({ name, value }: Api['KeptByNameDto']): Api['NamedFinishDto'] => ({
  name,
  values: String(value.values),
});

const pick = (finish: Finish, fields: readonly FinishField[]): Finish =>
  Object.fromEntries(Object.entries(finish).filter(([field]) => fields.includes(field as FinishField)));

interface ValueProps {
  field: RangedField;
  value: number;
  onTry: Finishing['attempt'];
  onSettle: () => void;
}

/** One value: its slider, its number to type, and its name, a press on which takes it away. */
function Value({ field, value, onTry, onSettle }: ValueProps) {
  const { least, most, step } = FINISH_RANGES[field];
  const [typed, setTyped] = useState<string | null>(null);
  const words = FINISH_WORDS[field];
  const give = () => {
    const number = typed === null ? null : typedValue(typed);
    setTyped(null);
    if (number === null) return;
    onTry({ [field]: keptNumber(field, number) });
    onSettle();
  };
  return (
    <div className={styles.value} data-given={value !== 0 || undefined}>
      <button
        type="button"
        title={value === 0 ? words : `${words}: back to 0`}
        onClick={() => {
          onTry({ [field]: null });
          onSettle();
        }}
      >
        {words}
      </button>
      <input
        type="range"
        aria-label={words}
        aria-valuetext={shownValue(field, value)}
        min={least}
        max={most}
        step={STEPS[field] ?? step}
        value={value}
        onChange={(event) => onTry({ [field]: keptNumber(field, Number(event.target.value)) })}
        onPointerUp={(event) => {
          onSettle();
          // A hand that has drawn it goes back to the keys.
          const slider = event.currentTarget;
          requestAnimationFrame(() => slider.blur());
        }}
      />
      <input
        type="text"
        inputMode="decimal"
        aria-label={`${words}, as a number`}
        value={typed ?? shownValue(field, value)}
        onFocus={(event) => event.target.select()}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={give}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur();
          if (event.key === 'Escape') setTyped(null);
        }}
      />
    </div>
  );
}

interface ShapeProps {
  finish: Finish;
  size: { width: number; height: number };
  mode: Mode;
  crops: string;
  onMode: (mode: Mode) => void;
  onTry: Finishing['attempt'];
  onSettle: () => void;
}

/** What part of the picture is seen. */
function ShapePart({ finish, size, mode, crops, onMode, onTry, onSettle }: ShapeProps) {
  const crop = finish.crop === undefined ? null : cropOf(finish.crop);
  const shape = shapeOf(finish, size);
  const wide = shape.box.width >= shape.box.height;
  const chosen =
    crop === null ? 'none' : crop.shape === null ? 'own' : isNamed(crop.shape) ? nameOf(crop.shape) : 'free';
  const give = (change: Parameters<Finishing['attempt']>[0]) => {
    onTry(change);
    onSettle();
  };
  const choose = (name: string) => {
    if (name === 'none') return give({ crop: null });
    if (name === 'free') return give({ crop: cropFrom(shape, 'free') });
    if (name === 'own') return give({ crop: 'own:0.5:0.5:1' });
    give({ crop: largestOf(shapeNamed(name, wide), shape) });
  };
  const turn = (by: 1 | -1) => {
    const next = turnedBy(finish, by, size);
    give({ turn: next.turn ?? null, crop: next.crop ?? null });
  };
  const cropping = mode === 'crop' || mode === 'level';
  return (
    <section className={drawer.part}>
      <h2>Crop and level</h2>
      <Value field="angle" value={finish.angle ?? 0} onTry={onTry} onSettle={onSettle} />
      <div className={drawer.row}>
        <select
          aria-label="Shape of the crop"
          className={drawer.select}
          value={chosen}
          onChange={(event) => {
            choose(event.target.value);
            event.target.blur();
          }}
        >
          <option value="none">no crop</option>
          <option value="own">as the picture</option>
          <option value="free">any shape</option>
          {SHAPES.map((name) => (
            <option key={name} value={name}>
              {name}
            </option>
          ))}
        </select>
        <button
          type="button"
          className={drawer.small}
          disabled={crop === null || crop.shape === null}
          title="The shape the other way: upright or across"
          onClick={() =>
            crop?.shape &&
            give({ crop: largestOf({ width: crop.shape.height, height: crop.shape.width }, shape) })
          }
        >
          ⇄
        </button>
        <button
          type="button"
          className={drawer.small}
          aria-label="Turn left"
          title="Turn left"
          onClick={() => turn(-1)}
        >
          ↺
        </button>
        <button
          type="button"
          className={drawer.small}
          aria-label="Turn right"
          title="Turn right"
          onClick={() => turn(1)}
        >
          ↻
        </button>
      </div>
      <div className={styles.buttons}>
        <button
          type="button"
          className={drawer.small}
          aria-pressed={mode === 'crop'}
          title={`Draw what is left of it: drag, pull a corner, arrows, + and −. ${crops}`}
          onClick={() => onMode(mode === 'crop' ? 'tones' : 'crop')}
        >
          {cropping ? 'Done' : 'Draw the crop'}
        </button>
        <button
          type="button"
          className={drawer.small}
          aria-pressed={mode === 'level'}
          title="Draw a line along a horizon or a wall"
          onClick={() => onMode(mode === 'level' ? 'tones' : 'level')}
        >
          Draw a level
        </button>
      </div>
    </section>
  );
}

/** The shape of a name, as the picture lies: across or upright. */
function shapeNamed(name: string, wide: boolean): NonNullable<Crop['shape']> {
  const [long, short] = name.split(':').map(Number) as [number, number];
  return wide ? { width: long, height: short } : { width: short, height: long };
}

function nameOf({ width, height }: { width: number; height: number }): string {
  const [long, short] = [Math.max(width, height), Math.min(width, height)];
  const name = `${long}:${short}`;
  return (SHAPES as readonly string[]).includes(name) ? name : 'free';
}

/** The largest rectangle of a shape in the middle of a picture. */
function largestOf(
  shape: NonNullable<Crop['shape']>,
  of: { width: number; height: number; turn: number; angle: number },
): string {
  const { width, height } = largestIn(shape, of);
  return cropFrom({ ...of, box: { x: of.width / 2, y: of.height / 2, width, height } }, shape);
}
