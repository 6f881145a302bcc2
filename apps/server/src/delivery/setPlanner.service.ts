import path from 'node:path';
import { Injectable } from '@nestjs/common';
import {
  AlbumTree,
  ArkivError,
  keyParts,
  BAG_PAYLOAD,
  collisionKey,
  correctedLocal,
  describePatternProblem,
  endingOf,
  freeName,
  lineFilter,
  matches,
  nameFactsOf,
  namedAlbums,
  nameProblem,
  parsePattern,
  partsOfLine,
  renderName,
  toNamePart,
  usesOriginal,
  type Filter,
  type NameFacts,
  type OutputFolders,
  type PatternToken,
  type QueryField,
} from '@arkiv/core';
import { FindService } from '../find/find.service';
import type { PlacedAsset } from '../frames/asset.entity';
import type { Frame } from '../frames/frame.entity';
import { FramesService } from '../frames/frames.service';
import { queryFrame } from '../frames/queryFrame';
import { OpenJobs } from '../jobs/openJobs.service';
import { ArrivalLedger } from '../ledger/arrivalLedger';
import { RAW_PART, RAW_SIDECAR_PART, type Delivery, type DeliveryFile } from '../ledger/delivery.entity';
import { OutLedger } from '../ledger/outLedger';
import { SettingsService } from '../settings/settings.service';
import { workFolders, type Shoot } from '../shoots/shoot.entity';
import { ShootsService } from '../shoots/shoots.service';
import { payloadOf, specsOf, type DeliveryRequest, type PlannedFile } from './deliverySet';
import { finishedOf } from './finishedFiles.service';

/** What is known of a frame only where all drives and clients are asked. */
const NOT_WITH_IT: readonly QueryField[] = ['away', 'delivered', 'drives'];

/** A set as it would be made now. */
export interface PlannedSet {
  shoot: Shoot;
  folder: string;
  files: PlannedFile[];
  /** its frames, in its order */
  frames: Frame[];
  /** frames of which nothing can go as it is, where a spec asks for that */
  unfinished: number;
  /** keepers that are finished here, of which a file as it is shows nothing */
  withoutFinish: number;
  /** bytes of the raws that go along */
  rawBytes: number;
  rule: Filter;
}

/** What was made of a set before, whose frames keep their names and numbers. */
interface Before {
  folder: string;
  files: readonly DeliveryFile[];
}

/** Decides which files a set has, and what they are called. */
@Injectable()
export class SetPlanner {
  constructor(
    private readonly shoots: ShootsService,
    private readonly frames: FramesService,
    private readonly find: FindService,
    private readonly settings: SettingsService,
    private readonly arrivals: ArrivalLedger,
    private readonly ledger: OutLedger,
    private readonly open: OpenJobs,
  ) {}

  /** Throws `delivery.old` where a set was brought up to date since, or is being so. */
  async mustBeNewest({ id, name, volumeId, folder }: Delivery): Promise<void> {
    const into = await this.ledger.deliveriesInto(volumeId, folder);
    const later = into.filter(({ follows }) => follows === id);
    if (
      later.some(({ finishedAt }) => finishedAt !== null) ||
      (await this.open.isAnyOpen(later.map((one) => one.id)))
    )
      throw new ArkivError('delivery.old', { name });
  }

  /** A new set. */
  async anew(shootId: string, request: DeliveryRequest): Promise<PlannedSet> {
    const shoot = await this.shoots.withWorkFolder(shootId);
    const [home] = workFolders(shoot);
    const part = toNamePart(request.name);
    if (!part || nameProblem(part))
      throw new ArkivError('request.invalid', { reason: 'the delivery’s name cannot be a folder name' });
    const { raws } = request.along;
    if (raws !== null && nameProblem(raws))
      throw new ArkivError('request.invalid', { reason: `the raws’ folder cannot be called “${raws}”` });
    return this.plan(shootId, request, { folder: `${home}/${shoot.plan.delivery}/${part}`, files: [] });
  }

  /** A set that was made, as it would be now. */
  again(delivery: Delivery, files: readonly DeliveryFile[]): Promise<PlannedSet> {
    const { name, volumeId, line, along, folder } = delivery;
    const request = { name, volumeId, line, along, specs: specsOf(delivery) };
    return this.plan(delivery.shootId, request, { folder, files });
  }

  /** The keepers that a line means. */
  async chosen(shootId: string, line: string): Promise<{ frames: Frame[]; rule: Filter }> {
    const rule = await this.ruleOf(line, await this.shoots.get(shootId));
    return { frames: await this.frames.select(shootId, rule), rule };
  }

  private async plan(shootId: string, request: DeliveryRequest, before: Before): Promise<PlannedSet> {
    const shoot = await this.shoots.get(shootId);
    const { frames, rule } = await this.chosen(shootId, request.line);
    const pictures = await this.frames.pictures(shootId);
    // A clip is shown by one of its pictures; that is no picture to deliver.
    const pictureFor = ({ id, role }: Frame) => (role === 'clip' ? null : (pictures.get(id) ?? null));
    const asIs = request.specs.some(({ format }) => format === 'asis');
    const finished = asIs
      ? await this.finished(frames.flatMap((frame) => pictureFor(frame) ?? []))
      : new Map<string, string>();
    const raws = request.along.raws === null ? new Map<string, PlacedAsset>() : await this.raws(frames);
    const { creator } = await this.settings.all();
    const cards = await this.arrivals.cards(shootId);
    const albums = request.specs.some(({ folders }) => folders === 'album')
      ? await this.albumFolders(frames, shoot)
      : new Map<string, string>();
    const names = new SetNames(request, before, (frame, folders) => {
      if (folders === 'none') return '';
      return folders === 'day' ? `/${dayOf(frame)}` : (albums.get(frame.id) ?? '');
    });
    const files: PlannedFile[] = [];
    for (const [item, frame] of frames.entries()) {
      const number = names.numberOf(frame.id);
      const facts = factsOf(shoot, frame, number, creator, cards.get(frame.id) ?? '');
      const picture = pictureFor(frame);
      const ending = (picture !== null && finished.get(picture)) || 'jpg';
      const its = { item, number, frameId: frame.id, from: frame.name };
      for (const [spec, { format }] of request.specs.entries())
        files.push({ ...its, spec, picture, to: names.of(frame, spec, facts, endingOf(format, ending)) });
      const raw = raws.get(frame.id);
      if (!raw) continue;
      const first = files.at(-request.specs.length)!.to;
      const [of, beside] = names.ofRaw(frame, first, path.posix.extname(raw.at).slice(1));
      files.push({ ...its, spec: RAW_PART, picture: null, to: of });
      files.push({ ...its, spec: RAW_SIDECAR_PART, picture: null, to: beside });
    }
    const unfinished = asIs ? frames.filter((frame) => !finished.has(pictureFor(frame) ?? '')).length : 0;
    const asTaken = (frame: Frame) => {
      const picture = pictureFor(frame) ?? '';
      return keyParts(picture).finish !== '' && finished.has(picture);
    };
    const withoutFinish = asIs ? frames.filter(asTaken).length : 0;
    const rawBytes = [...raws.values()].reduce((sum, { size }) => sum + size, 0);
    return { shoot, folder: before.folder, files, frames, unfinished, withoutFinish, rawBytes, rule };
  }

  /** The keepers that a line means. Throws `request.invalid` for a part of it that says nothing. */
  private async ruleOf(line: string, shoot: Shoot): Promise<Filter> {
    const { keeper } = (await this.settings.all()).rules;
    if (line.trim() === '') return keeper;
    const context = { ...(await this.find.context()), unknown: NOT_WITH_IT, shoot };
    const parts = partsOfLine(line, {
      ...context,
      albums: namedAlbums(new AlbumTree(context.albums), context),
    });
    const wrong = parts.find(({ problem }) => problem !== undefined);
    if (wrong) throw new ArkivError('request.invalid', { reason: wrong.problem! });
    return { all: [keeper, lineFilter(parts)] };
  }

  /**
   * The folder of the first album that a frame of the set is in, in their order, with those around it; by frame. A rule that cannot be followed
   * fills no folder.
   */
  private async albumFolders(frames: readonly Frame[], shoot: Shoot): Promise<Map<string, string>> {
    const context = { ...(await this.find.context()), unknown: NOT_WITH_IT, shoot };
    const tree = new AlbumTree(context.albums);
    const own = new Map(namedAlbums(tree, context).map((album) => [album.id, album.own]));
    const asked = frames.map((frame) => [frame.id, queryFrame(frame)] as const);
    const folders = new Map<string, string>();
    for (const { album } of tree.inOrder()) {
      const its = own.get(album.id)!();
      if (typeof its === 'string') continue;
      const parts = tree.path(album.id).map(({ id, name }) => {
        const part = toNamePart(name);
        return part === '' || nameProblem(part) ? id : part;
      });
      for (const [id, frame] of asked)
        if (!folders.has(id) && matches(its, frame)) folders.set(id, `/${parts.join('/')}`);
    }
    return folders;
  }

  /** How the names of pictures end that can go as they are, by picture. */
  private async finished(pictures: readonly string[]): Promise<Map<string, string>> {
    const found = new Map<string, string>();
    for (const picture of new Set(pictures)) {
      const asset = finishedOf(await this.frames.ofPicture(picture));
      if (asset) found.set(picture, path.posix.extname(asset.at).slice(1).toLowerCase());
    }
    return found;
  }

  /** The raw file of each frame that has one. */
  private async raws(frames: readonly Frame[]): Promise<Map<string, PlacedAsset>> {
    const originals = await this.frames.originals(frames.map(({ id }) => id));
    const raws = originals.filter(({ raw, frameId }) => raw && frameId !== null);
    return new Map(raws.reverse().map((file) => [file.frameId!, file]));
  }
}

/** The names of a set's files. What was in it before keeps its name; what comes is numbered on. */
class SetNames {
  private readonly taken = new Set<string>();
  private readonly before = new Map<string, string>();
  private readonly numbers = new Map<string, number>();
  private readonly tokens: readonly (readonly PatternToken[])[];
  private last = 0;

  constructor(
    private readonly request: DeliveryRequest,
    private readonly old: Before,
    /** the sub-folder of a frame, with the stroke before it; empty: none */
    private readonly folderOf: (frame: Frame, folders: OutputFolders) => string,
  ) {
    this.tokens = request.specs.map(({ pattern }) => tokensOf(pattern));
    for (const { frameId, spec, to, number } of old.files) {
      this.before.set(`${frameId} ${spec}`, to);
      this.taken.add(collisionKey(to));
      this.numbers.set(frameId, number);
      this.last = Math.max(this.last, number);
    }
  }

  numberOf(frameId: string): number {
    const its = this.numbers.get(frameId) ?? ++this.last;
    this.numbers.set(frameId, its);
    return its;
  }

  of(frame: Frame, spec: number, facts: NameFacts, ending: string): string {
    const was = this.before.get(`${frame.id} ${spec}`);
    const { name } = this.request.specs[spec]!;
    const home = `${this.payload()}${this.request.specs.length > 1 ? `/${toNamePart(name)}` : ''}${this.folder(frame, spec)}`;
    // What goes as it is may end otherwise by now, and frames go from album to album.
    if (was !== undefined && path.posix.extname(was) === `.${ending}`) {
      const now = `${home}/${path.posix.basename(was)}`;
      if (now === was || this.taken.has(collisionKey(now))) return was;
      this.taken.add(collisionKey(now));
      return now;
    }
    const tokens = this.tokens[spec]!;
    const at = (base: string) => `${home}/${base}.${ending}`;
    const isTaken = (base: string) => this.taken.has(collisionKey(at(base)));
    const wanted = renderName(tokens, facts);
    // Names that come from cameras may be equal.
    const base = usesOriginal(tokens) ? freeName(wanted, isTaken) : wanted;
    if (nameProblem(`${base}.${ending}`))
      throw new ArkivError('request.invalid', { reason: `“${base}.${ending}” is no legal file name` });
    if (isTaken(base))
      throw new ArkivError('request.invalid', {
        reason: `two files would be called “${base}.${ending}”; add {number:3} to the pattern`,
      });
    this.taken.add(collisionKey(at(base)));
    return at(base);
  }

  /** A raw and its sidecar, called as the first finished file of their frame. */
  ofRaw(frame: Frame, first: string, ending: string): [raw: string, sidecar: string] {
    const was = [RAW_PART, RAW_SIDECAR_PART].map((part) => this.before.get(`${frame.id} ${part}`));
    const home = `${this.payload()}/${this.request.along.raws}${this.folder(frame, 0)}`;
    if (was[0] !== undefined && was[1] !== undefined) {
      const now = was.map((one) => `${home}/${path.posix.basename(one!)}`) as [string, string];
      if (now[0] === was[0] || now.some((one) => this.taken.has(collisionKey(one)))) return [was[0], was[1]];
      for (const one of now) this.taken.add(collisionKey(one));
      return now;
    }
    const base = freeName(path.posix.basename(first, path.posix.extname(first)), (name) =>
      [ending, 'xmp'].some((its) => this.taken.has(collisionKey(`${home}/${name}.${its}`))),
    );
    const both: [string, string] = [`${home}/${base}.${ending}`, `${home}/${base}.xmp`];
    for (const one of both) this.taken.add(collisionKey(one));
    return both;
  }

  private payload(): string {
    return payloadOf(this.old.folder, this.request.along, BAG_PAYLOAD);
  }

  private folder(frame: Frame, spec: number): string {
    return this.folderOf(frame, this.request.specs[spec]!.folders);
  }
}

function tokensOf(pattern: string): readonly PatternToken[] {
  const parsed = parsePattern(pattern);
  if (!parsed.ok)
    throw new ArkivError('request.invalid', { reason: describePatternProblem(pattern, parsed.problem) });
  return parsed.tokens;
}

/** The day on which a frame was taken, by its body's corrected clock. */
const dayOf = (frame: Frame): string =>
  frame.local === null ? 'without a time' : correctedLocal({ ...frame, local: frame.local }).slice(0, 10);

function factsOf(shoot: Shoot, frame: Frame, seq: number, creator: string, card: string): NameFacts {
  const { title, client, place } = shoot;
  return nameFactsOf(frame, { shoot: title, client, place, creator, card, seq });
}
