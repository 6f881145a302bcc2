import {
  cropFor,
  cropFrom,
  cropOf,
  finishKind,
  FINISH_FIELDS,
  finishOf,
  finishText,
  keptNumber,
  keyParts,
  matchedTo,
  moved,
  shapeOf,
  sized,
  TONE_FIELDS,
  type Finish,
  type FinishField,
  type FinishValue,
  type LinearLight,
  type MarkKind,
  type MarkValue,
} from '@arkiv/core';
import { many } from '../../../data/format';
import { fileSize, numberOf, previewUrl, type LoadedFrame } from '../../../data/frames';
import { lightOfPicture } from '../../../data/pixels';
import type { CullCommand, FinishCommand } from '../../../keys/actions';
import { targetsOf, type Seen } from '../seen';

type Change = { id: string; field: MarkKind; to: MarkValue };

/** What was given to a frame last in this browser: what the next one may be finished as. */
export interface LastFinish {
  values: string;
  /** upright pixels of the picture that it was made on: a crop is put on others by how they were held */
  width: number;
  height: number;
}

const LAST = 'arkiv.lastFinish';

export function lastFinish(): LastFinish | null {
  try {
    const text = localStorage.getItem(LAST);
    return text === null ? null : (JSON.parse(text) as LastFinish);
  } catch {
    return null;
  }
}

export function rememberFinish(frame: LoadedFrame, values: string): void {
  const size = fileSize(frame) ?? { width: 3, height: 2 };
  try {
    localStorage.setItem(LAST, JSON.stringify({ values, ...size }));
  } catch {
    // Without room in the browser's store there is no last one after a reload.
  }
}

/** Frames whose look can be changed: those that show a picture of their own. */
const canBeFinished = (frame: LoadedFrame): boolean => frame.picture !== null && frame.role !== 'clip';

/** What changing finishing goes to: as marks go, or beside each other all that stand there, where that is wanted. */
export function finishTargets(
  seen: Pick<Seen, 'state' | 'selected' | 'current' | 'shoot'>,
  all: boolean,
): LoadedFrame[] {
  const ids = seen.state.view === 'side' && all ? seen.state.panes : targetsOf(seen as Seen);
  return ids.flatMap((id) => seen.shoot.byId.get(id) ?? []).filter(canBeFinished);
}

/** Gives values to frames, as one step of the history; null takes one away. Nothing steps on. */
export function giveValues(
  values: readonly (readonly [FinishField, FinishValue | null])[],
  frames: readonly LoadedFrame[],
  seen: Pick<Seen, 'store' | 'current' | 'dispatch'>,
): number {
  return give(
    frames.flatMap(({ id }) => values.map(([field, to]) => ({ id, field: finishKind(field), to }))),
    frames,
    seen,
  );
}

function give(
  changes: readonly Change[],
  frames: readonly LoadedFrame[],
  { store, current, dispatch }: Pick<Seen, 'store' | 'current' | 'dispatch'>,
): number {
  if (current === null) return 0;
  const ids = frames.map(({ id }) => id);
  const operations = store.markEach([...changes], { current, selection: ids.length > 1 ? ids : [] });
  if (ids.length > 0) dispatch({ type: 'marked', held: ids });
  return new Set(operations.map(({ subject }) => subject)).size;
}

/** Puts some of the values that were made on one picture on other frames; what they say nothing of stays as it is there. */
export function putFinish(
  finish: Finish,
  fields: readonly FinishField[],
  from: { width: number; height: number } | null,
  frames: readonly LoadedFrame[],
  seen: Pick<Seen, 'store' | 'current' | 'dispatch'>,
): number {
  const changes = frames.flatMap((frame) =>
    FINISH_FIELDS.flatMap((field): Change[] => {
      const value = finish[field];
      if (value === undefined || !fields.includes(field)) return [];
      const size = fileSize(frame);
      const to = field === 'crop' && from && size ? cropFor(value as string, from, size) : value;
      return [{ id: frame.id, field: finishKind(field), to }];
    }),
  );
  return give(changes, frames, seen);
}

/** Takes all values from frames: they are shown as their cameras took them. */
export const resetFinish = (
  frames: readonly LoadedFrame[],
  seen: Pick<Seen, 'store' | 'current' | 'dispatch'>,
): number =>
  giveValues(
    FINISH_FIELDS.map((field) => [field, null]),
    frames,
    seen,
  );

/** Exposure and white balance of each frame so that it looks as its lead does. Resolves with how many were changed. */
export async function matchTake(
  lead: LoadedFrame,
  others: readonly LoadedFrame[],
  seen: Pick<Seen, 'store' | 'current' | 'dispatch'>,
): Promise<number> {
  const leads = finishOf(lead.finish);
  const light = await lightIn(lead);
  const changes: Change[] = [];
  for (const frame of others) {
    const {
      exposure = null,
      temperature = null,
      tint = null,
    } = matchedTo(light, leads, await lightIn(frame));
    for (const [field, to] of Object.entries({ exposure, temperature, tint }))
      changes.push({ id: frame.id, field: finishKind(field as FinishField), to });
  }
  return give(changes, others, seen);
}

/** The light in a frame's own picture: its thumbnail has it all. Throws where there is none to be had. */
async function lightIn(frame: LoadedFrame): Promise<LinearLight> {
  const answer = await fetch(previewUrl(keyParts(frame.picture!).picture, 'thumb'));
  if (!answer.ok) throw new Error(`The picture of ${frame.name} cannot be read: its drive may be away.`);
  return lightOfPicture(await createImageBitmap(await answer.blob()));
}

/** How many were changed, in words. */
export const finishedWords = (frames: number, words: string): string =>
  frames === 0 ? 'They look so already' : `${words}: ${many(frames, 'frame')}`;

/** Values that are to be put on what is marked. */
export interface FinishWish {
  finish: Finish;
  fields: readonly FinishField[];
  /** upright pixels of the picture that they were made on; null: any */
  from: { width: number; height: number } | null;
  words: string;
}

export function putWish({ finish, fields, from, words }: FinishWish, seen: Seen): void {
  const targets = finishTargets(seen, seen.finishing.all);
  if (targets.length === 0) return seen.notices.say('There is no picture to finish');
  seen.finishing.settle();
  seen.notices.say(finishedWords(putFinish(finish, fields, from, targets, seen), words));
  if (targets[0]) rememberFinish(targets[0], finishText(finish));
}

/** What a key does with finishing. */
export function finishCommand(command: FinishCommand, lead: string | null, seen: Seen): void {
  const { state, dispatch, notices, shoot, finishing, current } = seen;
  switch (command.do) {
    case 'finish':
      return dispatch({ type: 'finishing', as: state.finishing === null ? 'tones' : null });
    case 'finishCrop':
      if (current === null || !canBeFinished(shoot.byId.get(current)!))
        return notices.say('There is no picture to finish');
      return dispatch({ type: 'finishing', as: state.finishing === 'crop' ? 'tones' : 'crop' });
    case 'finishLast': {
      const last = lastFinish();
      if (!last) return notices.say('Nothing was finished here yet');
      const finish = finishOf(last.values);
      return putWish({ finish, fields: TONE_FIELDS, from: last, words: 'As the last one' }, seen);
    }
    case 'finishNamed': {
      const its = seen.finishes[command.number - 1];
      if (!its) return notices.say(`No finish ${command.number} is kept: the panel keeps one by its name`);
      const finish = finishOf(its.values);
      return putWish({ finish, fields: FINISH_FIELDS, from: null, words: `Finished as “${its.name}”` }, seen);
    }
    case 'finishNone': {
      finishing.settle();
      const targets = finishTargets(seen, finishing.all);
      return notices.say(finishedWords(resetFinish(targets, seen), 'As the camera took it'));
    }
    case 'finishMatch': {
      finishing.settle();
      const stands = lead === null ? undefined : shoot.byId.get(lead);
      const take = current === null ? [] : seen.takes.idsWith(current);
      const others = take
        .flatMap((id) => (id === lead ? [] : (shoot.byId.get(id) ?? [])))
        .filter(canBeFinished);
      if (!stands || !canBeFinished(stands) || others.length === 0)
        return notices.say('It is alone in its take: there is nothing to match');
      return void matchTake(stands, others, seen).then(
        (frames) => notices.say(finishedWords(frames, `Matched to ${numberOf(stands.name)}`)),
        (error: Error) => notices.say(error.message),
      );
    }
  }
}

/** A hundredth of the picture; and degrees, and how much larger: the least that is seen. */
const [NUDGE, LEVELLED, LARGER] = [0.01, 0.1, 1.02];

/** While a crop is drawn: what moves elsewhere moves the rectangle. Whether the command meant that. */
export function cropCommand(command: CullCommand, { shoot, current, finishing, dispatch }: Seen): boolean {
  const frame = current === null ? undefined : shoot.byId.get(current);
  const size = frame && fileSize(frame);
  const { values, attempt } = finishing;
  if (!size || !values) return false;
  const shape = shapeOf(values, size);
  const crop = values.crop === undefined ? null : cropOf(values.crop);
  const kept = (next: typeof shape) => attempt({ crop: cropFrom(next, crop?.shape ?? 'own') });
  switch (command.do) {
    case 'step':
      kept(moved(shape, { x: command.by * shape.width * NUDGE, y: 0 }));
      return true;
    case 'row':
      kept(moved(shape, { x: 0, y: command.by * shape.height * NUDGE }));
      return true;
    case 'extend':
      if (command.row) return true;
      attempt({ angle: keptNumber('angle', (values.angle ?? 0) + command.by * LEVELLED) });
      return true;
    case 'size':
      kept(sized(shape, command.by === 1 ? LARGER : 1 / LARGER));
      return true;
    case 'view':
      if (command.to !== 'single') return false;
      dispatch({ type: 'finishing', as: 'tones' });
      return true;
    default:
      return false;
  }
}
