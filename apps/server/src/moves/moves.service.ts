import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  collisionKey,
  folderOwner,
  orderMoves,
  planAside,
  planMove,
  planNamed,
  sidecarOf,
  wholeWays,
  type MoveFrame,
  type MovePlan,
  type NamedPlace,
  type PlannedMove,
  type PlanProblem,
} from '@arkiv/core';
import { In, type EntityManager } from 'typeorm';
import { Reading } from '../db/unitOfWork';
import { Frame } from '../frames/frame.entity';
import { FramesService } from '../frames/frames.service';
import { OVER, type JobItem } from '../jobs/job.entity';
import { JobStore } from '../jobs/jobStore';
import { OpenJobs } from '../jobs/openJobs.service';
import { JobsService } from '../jobs/jobs.service';
import { mayGetFrames, Shoot } from '../shoots/shoot.entity';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { SettingsService } from '../settings/settings.service';
import { VolumesService } from '../volumes/volumes.service';
import { mayFollow, shootsOf, type MoveItem, type MoveParams, type Naming } from './moveParams';
import { Arrangements } from './arrangements';
import { Companions } from './companions';
import { MoveFrames } from './moveFrames';
import { asInto, chosenOf, placesOf, type MoveRequest } from './moveRequest';
import { Rejects } from './rejects';
import { TakeIn } from './takeIn.service';
import { TakenPlaces } from './takenPlaces';
import { Touches, type Touched } from './touches';

/** A shoot that frames go into. */
interface Destination {
  into: Shoot;
  made: boolean;
  plan: MovePlan;
}

interface Prepared {
  from: Shoot;
  /** one; several where a shoot is split into more than two */
  parts: Destination[];
}

/** Splits and merges shoots and renames their frames: plans it, checks it, and hands it to a job that can be undone. */
@Injectable()
export class MovesService {
  constructor(
    private readonly reading: Reading,
    private readonly jobs: JobsService,
    private readonly items: JobStore,
    private readonly archive: FramesService,
    private readonly moveFrames: MoveFrames,
    private readonly arrangements: Arrangements,
    private readonly shoots: ShootsService,
    private readonly openJobs: OpenJobs,
    private readonly taken: TakenPlaces,
    private readonly touches: Touches,
    private readonly companions: Companions,
    private readonly rejects: Rejects,
    private readonly takeIn: TakeIn,
    private readonly volumes: VolumesService,
    private readonly settings: SettingsService,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  /** What would happen, with every problem; nothing is touched. */
  async plan(asked: MoveRequest): Promise<MovePlan & { along: string[] }> {
    const { from, parts } = await this.prepare(asked);
    const { along, taken } = await this.beside(from, parts);
    return {
      along,
      moves: parts.flatMap(({ plan }) => plan.moves),
      folders: [...new Set(parts.flatMap(({ plan }) => plan.folders))],
      nextSeq: parts[0]!.plan.nextSeq,
      problems: [...parts.flatMap(({ plan }) => plan.problems), ...taken],
    };
  }

  /** Settings of other programs that go along, and those that cannot. */
  private async beside(
    from: Shoot,
    parts: readonly Destination[],
  ): Promise<{ along: string[]; taken: PlanProblem[] }> {
    this.companions.forget();
    const moves = parts.flatMap(({ plan }) => plan.moves);
    const { along, taken } = await this.companions.ofPlan(moves, from.id);
    return {
      along,
      taken: taken.map((to): PlanProblem => ({
        kind: 'exists',
        message: `The settings that another program keeps of a frame cannot follow it: “${to}” is there already. Move that file, or choose another name.`,
        to,
      })),
    };
  }

  /** The files and drives that a plan is about, and who has its frames already. */
  touched({ moves }: MovePlan): Promise<Touched> {
    return this.touches.of(
      moves.flatMap(({ id }) => id ?? []),
      moves.flatMap(({ files }) => files.map(({ assetId }) => assetId)),
    );
  }

  /** `claimed`: keys of places that other moves come to, which are no further than planned; those of this one are added. */
  async start(asked: MoveRequest, claimed = new Set<string>()): Promise<{ jobId: string; shootId: string }> {
    const { from, parts } = await this.prepare(asked, claimed);
    const { taken } = await this.beside(from, parts);
    const problems = [...parts.flatMap(({ plan }) => plan.problems), ...taken];
    const [first] = problems;
    if (first) throw new ArkivError('plan.problems', { count: problems.length, first: first.message });
    const [{ into, made, plan }, ...others] = parts as [Destination, ...Destination[]];
    if (plan.moves.length === 0 && others.length === 0)
      throw new ArkivError('move.nothing', { reason: 'no file would change its place' });
    await this.mayMove([from, into]);
    if (!mayFollow(asked.kind)) await this.allHere(from);
    const before = made ? null : await this.shoot(into.id);
    const after = { pattern: into.pattern, nextSeq: plan.nextSeq };
    const { keptIn, sidecars, plan: laidOut } = from;
    const takesIn = asked.kind === 'takeIn';
    const adopted = { as: { keptIn, sidecars, plan: laidOut }, own: into.plan, back: false };
    const bare = takesIn ? await this.takeIn.bare(plan) : null;
    const naming = before && { shootId: into.id, before: namingOf(before), after };
    const params: MoveParams = {
      ...{ kind: asked.kind, from: from.id, into: into.id, made, undoes: null, naming },
      ...(takesIn && { adopted }),
      ...(others.length > 0 && { more: others.map((other) => other.into.id) }),
    };
    const homeOf = new Map(parts.flatMap((part) => part.plan.moves.map((move) => [move, part.into.id])));
    const items = orderMoves(parts.flatMap((part) => part.plan.moves)).map((move): MoveItem => ({
      ...move,
      path: `${move.from.place}/${move.from.name}`,
      fromShoot: from.id,
      // A frame that steps aside first is on the list twice.
      toShoot: homeOf.get(move) ?? into.id,
      ...(bare && { isBare: move.id !== null && bare.has(move.id) }),
    }));
    const jobId = this.ids.newId();
    const folders = [...new Set([...into.folders, ...plan.folders])];
    await this.begin(jobId, from.title, into.id, params, items, async (manager) => {
      if (!made)
        return void (await manager.update(
          Shoot,
          { id: into.id },
          { folders, ...after, ...(takesIn && { plan: into.plan }) },
        ));
      for (const part of parts)
        await this.shoots.create(manager, {
          ...part.into,
          ...{ folders: part.plan.folders, nextSeq: part.plan.nextSeq },
        });
    });
    return { jobId, shootId: into.id };
  }

  /**
   * Gives frames of a shoot names that are said one by one, on every drive; null: none of them would change. Returns ids of those that
   * stay, as another frame has their name. Throws as {@link start} does.
   */
  async startNamed(
    shootId: string,
    wanted: readonly NamedPlace[],
  ): Promise<{ jobId: string | null; taken: string[] }> {
    const shoot = await this.shoot(shootId);
    const { moves, taken } = planNamed(await this.moveFrames.of(shoot), wanted);
    if (moves.length === 0) return { jobId: null, taken };
    await this.mayMove([shoot]);
    await this.allHere(shoot);
    const params: MoveParams = {
      ...{ kind: 'rename', from: shootId, into: shootId, made: false, undoes: null, naming: null },
    };
    const items = orderMoves(moves).map((move): MoveItem => ({
      ...{ ...move, path: `${move.from.place}/${move.from.name}`, fromShoot: shootId, toShoot: shootId },
    }));
    const folders = [...new Set([...shoot.folders, ...moves.map(({ to }) => to.folder)])];
    const jobId = this.ids.newId();
    await this.begin(jobId, shoot.title, shootId, params, items, async (manager) => {
      await manager.update(Shoot, { id: shootId }, { folders });
    });
    return { jobId, taken };
  }

  /** Takes a finished move back: every frame that is still where it was put goes to where it was before. */
  async undo(jobId: string): Promise<{ jobId: string; shootId: string }> {
    const job = await this.jobs.get(jobId);
    if (job.kind !== 'move') throw new ArkivError('move.undone', { reason: 'it moved no files' });
    if (!OVER.includes(job.state)) throw new ArkivError('job.state', { state: job.state, action: 'undone' });
    const { kind, from, into, more, made, naming, adopted } = job.params as MoveParams;
    const shoots = await this.reading.manager.findBy(Shoot, { id: In(shootsOf(job.params as MoveParams)) });
    await this.mayMove(shoots);
    const done: JobItem[] = [];
    for await (const item of this.items.walk(jobId, ['done'])) done.push(item);
    const back: MoveItem[] = [];
    const reversed: PlannedMove[] = [];
    const bare = new Map(done.map((item) => item.data as MoveItem).map(({ id, isBare }) => [id, isBare]));
    const went = new Map(done.map((item) => item.data as MoveItem).map(({ id, toShoot }) => [id, toShoot]));
    for (const way of wholeWays(done.map((item) => item.data as MoveItem))) {
      if (!(await this.isWherePut(way, went.get(way.id) ?? into))) continue;
      const files = way.files.map((file) => ({ assetId: file.assetId, from: file.to, to: file.from }));
      reversed.push({ id: way.id, from: way.to, to: way.from, files });
    }
    for (const way of orderMoves(reversed)) {
      const fromShoot = went.get(way.id) ?? into;
      const isBare = adopted && bare.get(way.id);
      back.push({
        ...{ ...way, path: `${way.from.place}/${way.from.name}`, fromShoot, toShoot: from },
        ...(adopted && { isBare }),
      });
    }
    if (back.length === 0)
      throw new ArkivError('move.undone', { reason: 'its frames have been moved since' });
    if (adopted && !adopted.back) await this.takeIn.mayGoBack(into, back);
    if (!mayFollow(kind)) for (const shoot of shoots) await this.allHere(shoot);
    // Names that were not given back keep their numbers, and a pattern that was changed since stays.
    const named = naming && shoots.find((shoot) => shoot.id === naming.shootId);
    const reverts =
      named && back.length === done.length && sameNaming(namingOf(named), naming.after)
        ? { shootId: named.id, before: naming.after, after: naming.before }
        : null;
    const params: MoveParams = {
      ...{ kind, from: into, into: from, made, undoes: jobId, naming: reverts },
      ...(more && { more }),
      ...(adopted && { adopted: { ...adopted, back: !adopted.back } }),
    };
    const id = this.ids.newId();
    const title = shoots.find((s) => s.id === from)?.title ?? job.title;
    await this.begin(id, title, from, params, back, async (manager) => {
      if (reverts) await manager.update(Shoot, { id: reverts.shootId }, reverts.after);
    });
    return { jobId: id, shootId: from };
  }

  private async isWherePut(data: PlannedMove, shootId: string): Promise<boolean> {
    if (data.id === null) {
      const assets = await Promise.all(data.files.map((f) => this.archive.asset(f.assetId)));
      return assets.every((asset, i) => asset === null || data.files[i]!.to === asset.at);
    }
    const frame = await this.reading.manager.findOneBy(Frame, { id: data.id });
    return frame?.shootId === shootId && frame.place === data.to.place && frame.name === data.to.name;
  }

  private begin(
    id: string,
    title: string,
    shootId: string,
    params: MoveParams,
    items: readonly MoveItem[],
    shoots: (manager: EntityManager) => Promise<void>,
  ): Promise<void> {
    const subjects = shootsOf(params).map((shoot) => ({
      ...{ kind: 'shoot' as const, id: shoot, deed: 'moves' as const },
    }));
    const job = { id, kind: 'move' as const, title, shootId, params, subjects };
    // What the shoots are called, and one that is new, come last: until then nothing has changed.
    return this.jobs.begin(
      [{ job, items: items.map((data) => ({ size: 0, name: data.path, data })) }],
      shoots,
    );
  }

  private async prepare(asked: MoveRequest, claimed = new Set<string>()): Promise<Prepared> {
    const from = await this.shoot(asked.shootId);
    const { creator, dayStartHour } = await this.settings.all();
    const all = await this.moveFrames.of(from);
    if (asked.kind === 'aside' || asked.kind === 'back')
      return this.prepareAside(asked.kind, asked, from, all);
    if (asked.kind === 'arrange') {
      const { into, plan } = await this.arrangements.of(asked, from);
      return { from, parts: [{ into, made: false, plan }] };
    }
    const wanted = [asked, ...(asked.kind === 'split' ? (asked.more ?? []) : [])].map((part) => ({
      ...{ part, frames: chosenOf(all, asked.kind, part.frameIds) },
    }));
    const ids = wanted.flatMap(({ frames }) => frames.map(({ id }) => id));
    if (new Set(ids).size < ids.length)
      throw new ArkivError('move.nothing', { reason: 'a frame is chosen for two shoots' });
    if (asked.kind === 'split' && ids.length === all.filter((f) => f.id !== null).length)
      throw new ArkivError('move.nothing', { reason: 'all frames of the shoot are chosen' });
    const leaves = new Set(
      wanted
        .flatMap(({ frames }) => frames)
        .flatMap((frame) => [...frame.files.map((f) => f.path), sidecarOf(frame.place, frame.name)])
        .map(collisionKey),
    );
    const stays = asked.kind === 'merge' ? asked.into : asked.kind === 'split' ? undefined : from.id;
    let owner = await this.shoots.folderOwner(stays);
    const parts: Destination[] = [];
    for (const { part, frames } of wanted) {
      const { into, made } = await this.destination({ ...asked, ...part }, from);
      const rename = asked.rename || asked.kind === 'rename';
      const inPlace = asked.kind === 'rename';
      const input = {
        ...{ frames, into: asInto(into), source: from.plan, rename, inPlace },
        ...{ creator, dayStartHour, passesTaken: asked.kind === 'takeIn' },
        ...{ owner, isNew: made },
      };
      const taken = await this.taken.by((exists) => placesOf(planMove(input, exists)), leaves);
      const isTaken = (to: string) => taken.has(collisionKey(to)) || claimed.has(collisionKey(to));
      const plan = planMove(input, isTaken);
      for (const { files, to } of plan.moves)
        for (const place of [...files.map((file) => file.to), sidecarOf(to.place, to.name)])
          claimed.add(collisionKey(place));
      parts.push({ into, made, plan });
      if (made) owner = folderOwner([{ title: into.title, folders: plan.folders }], owner);
    }
    return { from, parts };
  }

  /** Rejects by the studio's rules, or frames that are named, into the shoot's place for them, or from there. */
  private async prepareAside(
    kind: 'aside' | 'back',
    { frameIds, undecided }: MoveRequest,
    shoot: Shoot,
    all: readonly MoveFrame[],
  ): Promise<Prepared> {
    const asked = kind === 'back' && !frameIds ? { frameIds: all.flatMap(({ id }) => id ?? []) } : null;
    const ids = await this.rejects.of(shoot.id, asked ?? { frameIds, undecided });
    const frames = all.filter(({ id }) => id !== null && ids.has(id));
    const plan = (exists: (to: string) => boolean) =>
      planAside(kind, frames, shoot.plan, shoot.nextSeq, exists);
    const taken = await this.taken.by((exists) => placesOf(plan(exists)), new Set());
    return {
      from: shoot,
      parts: [{ into: shoot, made: false, plan: plan((to) => taken.has(collisionKey(to))) }],
    };
  }

  private async destination(asked: MoveRequest, from: Shoot): Promise<{ into: Shoot; made: boolean }> {
    if (asked.kind === 'merge') {
      if (asked.into === undefined || asked.into === from.id)
        throw new ArkivError('move.nothing', { reason: 'the other shoot is not named' });
      const into = await this.shoot(asked.into);
      mayGetFrames(into);
      return { into, made: false };
    }
    if (asked.kind === 'rename') {
      const { pattern = from.pattern, seqStart = 1 } = asked;
      return { into: { ...from, pattern, nextSeq: seqStart }, made: false };
    }
    if (asked.kind === 'takeIn') return { into: await this.takeIn.destination(asked, from), made: false };
    const title = asked.title?.trim() ?? '';
    if (title === '') throw new ArkivError('move.nothing', { reason: 'the new shoot has no title' });
    const made: Shoot = {
      ...from,
      ...{ frames: 0, keepers: 0, rejects: 0, files: 0, missingCopies: 0, countedBy: '' },
      // What goes out of an adopted folder is the archive's own, and chosen pictures are those of the shoot that they were chosen in.
      ...{
        keptIn: null,
        workFolder: null,
        sidecars: true,
        leads: null,
        leadsAt: -1,
        chosenLeads: null,
        folderLeads: null,
      },
      id: this.ids.newId(),
      title,
      date: asked.date ?? from.date,
      client: asked.client?.trim() ?? from.client,
      place: asked.place?.trim() ?? from.place,
      folders: [],
      nextSeq: 1,
      createdAt: this.clock.now(),
      revision: 1,
      mergedInto: null,
    };
    return { into: made, made: true };
  }

  private async shoot(id: string): Promise<Shoot> {
    const shoot = await this.reading.manager.findOneBy(Shoot, { id });
    if (!shoot) throw new ArkivError('not-found', { what: 'shoot', id });
    return shoot;
  }

  /** Nothing else may be writing into these shoots' folders. */
  private async mayMove(shoots: readonly Shoot[]): Promise<void> {
    for (const { id, title } of shoots)
      if (await this.openJobs.onShoots([id])) throw new ArkivError('move.busy', { shoot: title });
  }

  /** Copies move together: every volume that holds one must be there. */
  private async allHere(shoot: Shoot): Promise<void> {
    const rows: { id: string; files: number }[] = await this.reading.source.query(
      `SELECT c."volumeId" AS id, COUNT(*) AS files FROM copy c JOIN asset a ON a.id = c."assetId"
       WHERE a."shootId" = ? GROUP BY c."volumeId"`,
      [shoot.id],
    );
    for (const { id, files } of rows) {
      const volume = await this.volumes.get(id);
      if (!(await this.volumes.isOnline(volume)))
        throw new ArkivError('move.away', { files, shoot: shoot.title, volume: volume.name });
    }
  }
}

const namingOf = ({ pattern, nextSeq }: Shoot): Naming => ({ pattern, nextSeq });

const sameNaming = (a: Naming, b: Naming): boolean => a.pattern === b.pattern && a.nextSeq === b.nextSeq;
