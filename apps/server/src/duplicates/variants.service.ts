import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  correctionOf,
  correctionText,
  markEach,
  picturesOf,
  SAME_PICTURE,
  toldOf,
  UNMARKED,
  type Correction,
  type MomentFrame,
} from '@arkiv/core';
import { LongReading } from '../db/longReading';
import { Reading } from '../db/unitOfWork';
import { FeaturesService } from '../features/features.service';
import { PictureHashes } from '../features/pictureHashes.service';
import { PICTURE } from '../frames/frameColumns';
import { MarksService } from '../marks/marks.service';
import { PictureMaker } from '../pictures/pictureMaker';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { ownStamp } from './ownStamp';
import { grouped } from '../system/grouped';
import { UsedFrames, type UsedFrame } from './usedFrames.service';

/** One of several frames that are one picture, processed in several ways. */
export interface VariantFrame extends UsedFrame {
  /** as its file was called by the camera, or by who processed it */
  original: string;
  /** pixels of its picture, before orientation; null: not known */
  width: number | null;
  height: number | null;
  /** what was said of its place among takes */
  take: string | null;
}

/** Frames that are one picture. */
export interface VariantGroup {
  /** id of the first */
  id: string;
  frames: VariantFrame[];
  /** those of one shoot, where it has several: these can be one take */
  ofShoots: VariantsOfShoot[];
}

export interface VariantsOfShoot {
  shootId: string;
  frameIds: string[];
  /** whether somebody has said already that they are one take */
  together: boolean;
}

export interface Variants {
  groups: VariantGroup[];
  /** pictures that nobody had looked at yet, and are looked at now: what they show is known later */
  waiting: number;
  /** what to ask for next; null: that was all */
  next: string | null;
}

/** Moments, or frames without a time, that are looked at in one question. */
const PART = 200;
/** Groups from which a page is full, and questions after which it ends with what it has: bursts of whole seconds have none. */
const [FULL, ROUNDS] = [50, 25];
/**
 * Frames of one moment that are compared by what they show: of more, which only a camera without a clock has, names alone
 * tell.
 */
const MOST_OF_A_MOMENT = 12;
/** Of the pictures that look like one, how many are compared with it: a burst's frames all do. */
const NEAREST = 6;

interface Row extends MomentFrame {
  local: string | null;
  millis: number;
  picture: string | null;
}

/**
 * Frames that are one picture processed in several ways, anywhere in the archive: a crop, a print in black and white, one made small,
 * another format. By the camera's own time and number; where a file has lost these, by what it shows.
 */
@Injectable()
export class VariantsService {
  constructor(
    private readonly reading: Reading,
    private readonly long: LongReading,
    private readonly used: UsedFrames,
    private readonly features: FeaturesService,
    private readonly hashes: PictureHashes,
    private readonly maker: PictureMaker,
    private readonly marks: MarksService,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  /**
   * A page of them: first what has a time, in its order, then what has none. `after`: where the last page ended, `t…` or
   * `p…`.
   */
  async page(after: string | null): Promise<Variants> {
    const found: string[][] = [];
    const missing = new Set<string>();
    let next: string | null = after ?? 't';
    for (let round = 0; next !== null && round < ROUNDS && found.length < FULL; round++) {
      const [more, then]: [string[][], string | null] = next.startsWith('t')
        ? await this.ofMoments(next.slice(1), missing)
        : await this.withoutTime(next.slice(1), missing);
      found.push(...more);
      next = then;
    }
    const waiting = this.features.hopeful(missing);
    this.features.later(waiting);
    return { groups: await this.told(found), waiting: waiting.length, next };
  }

  /** All of them stay, as one take of variants. They are of one shoot: a take is. */
  async together(frameIds: readonly string[]): Promise<void> {
    const ids = [...new Set(frameIds)];
    const rows: { id: string; shootId: string; take: string | null }[] = await this.reading.source.query(
      `SELECT id, "shootId", take FROM frame_here WHERE id IN (SELECT value FROM json_each(?))`,
      [JSON.stringify(ids)],
    );
    const byId = new Map(rows.map((row) => [row.id, row]));
    const missing = ids.find((id) => !byId.has(id));
    if (missing) throw new ArkivError('not-found', { what: 'frame', id: missing });
    if (new Set(rows.map(({ shootId }) => shootId)).size > 1) throw new ArkivError('take.shoots', {});
    const [first] = ids;
    const said = (id: string, change: Partial<Correction>) => ({
      ...{ id, field: 'take' as const, marks: { ...UNMARKED, take: byId.get(id)!.take } },
      to: correctionText({ ...correctionOf(byId.get(id)!.take), ...change }),
    });
    await this.marks.apply(
      markEach(
        ids.map((id) =>
          id === first ? said(id, { kind: 'variant' }) : said(id, { place: { with: first! } }),
        ),
        ownStamp(this.ids, this.clock),
      ),
    );
  }

  /** The pictures of some moments, and where to go on. `from`: a local time and milliseconds, or nothing. */
  private async ofMoments(from: string, missing: Set<string>): Promise<[string[][], string]> {
    const [local, millis] = from === '' ? ['', 0] : [from.slice(0, -3), Number(from.slice(-3))];
    const moments = await this.long.rows<{ local: string; millis: number }>(
      `SELECT local, millis FROM frame_here WHERE local IS NOT NULL AND (local, millis) > (?, ?)
       GROUP BY local, millis HAVING COUNT(*) > 1 ORDER BY local, millis LIMIT ?`,
      [local, millis, PART],
    );
    const rows: Row[] = await this.reading.source.query(
      `SELECT f.id, f.original, f.body, f.local, f.millis, ${PICTURE} AS picture
       FROM json_each(?) j JOIN frame_here f ON f.local = j.value ->> 0 AND f.millis = j.value ->> 1 ORDER BY f.id`,
      [JSON.stringify(moments.map((moment) => [moment.local, moment.millis]))],
    );
    const alone = await this.withoutEqual(rows);
    const byMoment = [...grouped(alone, (row) => `${row.local} ${row.millis}`).values()];
    const pairs = byMoment.flatMap((frames) =>
      frames.length > MOST_OF_A_MOMENT ? [] : pairsOf(frames).filter(([a, b]) => toldOf(a, b) === 'looks'),
    );
    const sure = await this.sameness(pairs, missing);
    const alike = (a: string, b: string) => (sure.get(pairKey(a, b)) ?? -Infinity) >= SAME_PICTURE;
    const last = moments.at(-1);
    const next = moments.length === PART ? `t${last!.local}${String(last!.millis).padStart(3, '0')}` : 'p';
    return [byMoment.flatMap((frames) => picturesOf(frames, alike)), next];
  }

  /** What frames without a time look like, and where to go on. `from`: the id of the last one, or nothing. */
  private async withoutTime(from: string, missing: Set<string>): Promise<[string[][], string | null]> {
    const rows = await this.long.rows<Row>(
      `SELECT f.id, f.original, f.body, f.local, f.millis, ${PICTURE} AS picture FROM frame_here f
       WHERE f.local IS NULL AND f.role = 'original' AND f.id > ? ORDER BY f.id LIMIT ?`,
      [from, PART],
    );
    const own = rows.flatMap(({ picture }) => picture ?? []);
    const near = await this.hashes.near(own);
    for (const picture of own) if (!near.has(picture)) missing.add(picture);
    const wanted = new Set([...near.values()].flatMap((pictures) => pictures.slice(0, NEAREST)));
    const others = grouped(await this.shownBy([...wanted]), ({ picture }) => picture!);
    const pairs = rows.flatMap((own) =>
      (near.get(own.picture ?? '') ?? [])
        .slice(0, NEAREST)
        .flatMap((picture) => (others.get(picture) ?? []).map((other) => [own, other] as const)),
    );
    const sure = await this.sameness(pairs, missing);
    // Each goes to the one that has its name, or that it looks like most: all frames of a burst look alike.
    const homes = rows.flatMap((own) => {
      const of = pairs.flatMap(([frame, other]) => {
        const told = toldOf(own, other);
        const it = sure.get(pairKey(own.id, other.id)) ?? -Infinity;
        return frame.id === own.id && told !== 'other' && it >= SAME_PICTURE
          ? [{ id: other.id, named: told === 'same', sure: it }]
          : [];
      });
      of.sort((a, b) => Number(b.named) - Number(a.named) || b.sure - a.sure);
      return of.length > 0 ? [[own.id, of[0]!.id] as const] : [];
    });
    return [united(homes), rows.length === PART ? `p${rows.at(-1)!.id}` : null];
  }

  private shownBy(pictures: readonly string[]): Promise<Row[]> {
    return this.reading.source.query(
      `SELECT f.id, f.original, f.body, f.local, f.millis, ${PICTURE} AS picture
       FROM asset a JOIN frame_here f ON f.id = a."frameId" AND f."shownBy" = a.id
       WHERE a.id IN (SELECT id FROM asset WHERE picture IN (SELECT value FROM json_each(?))
         UNION ALL SELECT id FROM asset WHERE picture IS NULL AND sha256 IN (SELECT value FROM json_each(?)))`,
      [JSON.stringify(pictures), JSON.stringify(pictures)],
    );
  }

  /** How sure it is that two frames show one picture, by {@link pairKey}; what nobody has looked at is `missing`. */
  private async sameness(
    pairs: readonly (readonly [Row, Row])[],
    missing: Set<string>,
  ): Promise<Map<string, number>> {
    const looks = new Map<string, Buffer>();
    for (const picture of new Set(pairs.flatMap(([a, b]) => [a.picture ?? [], b.picture ?? []].flat()))) {
      const look = await this.features.look(picture);
      if (look) looks.set(picture, look);
      else missing.add(picture);
    }
    const lookOf = ({ picture }: Row) => (picture === null ? undefined : looks.get(picture));
    const ready = pairs.filter(([a, b]) => lookOf(a) && lookOf(b));
    if (ready.length === 0) return new Map();
    const found = await this.maker.same(ready.map(([a, b]) => [lookOf(a)!, lookOf(b)!] as const));
    return new Map(ready.map(([a, b], i) => [pairKey(a.id, b.id), found[i] ?? -Infinity]));
  }

  /** Of frames of one moment that share a file the first: they are duplicates. */
  private async withoutEqual(rows: readonly Row[]): Promise<Row[]> {
    const filesOf = await this.used.files(JSON.stringify(rows.map(({ id }) => id)));
    const seen = new Set<string>();
    return rows.filter(({ id }) => {
      const contents = (filesOf.get(id) ?? []).flatMap(({ sha256 }) => sha256 ?? []);
      const known = contents.some((content) => seen.has(content));
      for (const content of contents) seen.add(content);
      return !known;
    });
  }

  private async told(groups: readonly (readonly string[])[]): Promise<VariantGroup[]> {
    const ids = JSON.stringify([...new Set(groups.flat())]);
    const frames = await this.used.of(ids, await this.used.files(ids));
    const more: Pick<VariantFrame, 'id' | 'original' | 'width' | 'height' | 'take'>[] =
      await this.reading.source.query(
        `SELECT id, original, width, height, take FROM frame WHERE id IN (SELECT value FROM json_each(?))`,
        [ids],
      );
    const moreOf = new Map(more.map((row) => [row.id, row]));
    return groups.flatMap((group) => {
      const held = group.flatMap((id) => {
        const frame = frames.get(id);
        return frame ? [{ ...frame, ...moreOf.get(id)! }] : [];
      });
      if (held.length < 2) return [];
      const ofShoots = [...grouped(held, ({ shootId }) => shootId)].flatMap(([shootId, own]) =>
        own.length > 1 ? [{ shootId, frameIds: own.map(({ id }) => id), together: areTogether(own) }] : [],
      );
      return [{ id: held[0]!.id, frames: held, ofShoots }];
    });
  }
}

/** Whether it was said of each but one that it belongs to another of them, over whatever stands between. */
function areTogether(frames: readonly Pick<VariantFrame, 'id' | 'take'>[]): boolean {
  const ids = new Set(frames.map(({ id }) => id));
  const placed = frames.filter(({ id, take }) => {
    const { place } = correctionOf(take);
    return place !== null && typeof place === 'object' && place.with !== id && ids.has(place.with);
  });
  return placed.length >= frames.length - 1;
}

const pairKey = (a: string, b: string): string => (a < b ? `${a} ${b}` : `${b} ${a}`);

const pairsOf = <T>(all: readonly T[]): (readonly [T, T])[] =>
  all.flatMap((a, i) => all.slice(i + 1).map((b) => [a, b] as const));

/** Pairs that share one are one group, in the order in which they come. */
function united(pairs: readonly (readonly [string, string])[]): string[][] {
  const groups: Set<string>[] = [];
  for (const [a, b] of pairs) {
    const touched = groups.filter((group) => group.has(a) || group.has(b));
    const [home = new Set<string>(), ...others] = touched;
    if (touched.length === 0) groups.push(home);
    for (const other of others) {
      for (const id of other) home.add(id);
      groups.splice(groups.indexOf(other), 1);
    }
    // The one with its time stands first.
    home.add(b).add(a);
  }
  return groups.map((group) => [...group]);
}
