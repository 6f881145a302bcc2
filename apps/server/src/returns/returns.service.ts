import path from 'node:path';
import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  marksIn,
  markFrames,
  nameProblem,
  PROGRAM,
  standingOf,
  stageAt,
  type MatchedBy,
} from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { FramesService } from '../frames/frames.service';
import { pictureKey } from '../frames/asset.entity';
import { queryFrame } from '../frames/queryFrame';
import { MarksService } from '../marks/marks.service';
import { SettingsService } from '../settings/settings.service';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { VolumesService } from '../volumes/volumes.service';
import type { Returned, ReturnFolder, ReturnState } from './returned.entity';
import { ReturnStore, type OriginalOf } from './returnStore';

/** A frame that an edit was made from, or may have been. */
export type ReturnedFrame = Pick<OriginalOf, 'id' | 'name' | 'picture'>;

/** What came back, as it is listed. */
export interface ReturnListed {
  assetId: string;
  name: string;
  at: number;
  state: ReturnState;
  by: MatchedBy | null;
  /** a frame of it had an edit already */
  second: boolean;
  /** key of its picture; null: its file is gone */
  picture: string | null;
  /** its place below the drive; null: its file is gone */
  place: string | null;
  originals: ReturnedFrame[];
  among: ReturnedFrame[];
}

/** A frame's edits, with what its camera took. */
export interface EditsOfFrame {
  /** the picture that its camera took */
  taken: Pick<OriginalOf, 'picture' | 'width' | 'height' | 'orientation'>;
  /** the newest first */
  edits: (Pick<Returned, 'assetId' | 'name' | 'at' | 'width' | 'height'> & {
    picture: string | null;
    /** frames that it was made from */
    originals: number;
  })[];
}

/** What came back from editing: listed, and said of it by whoever looks. */
@Injectable()
export class ReturnsService {
  constructor(
    private readonly work: UnitOfWork,
    private readonly store: ReturnStore,
    private readonly frames: FramesService,
    private readonly shoots: ShootsService,
    private readonly volumes: VolumesService,
    private readonly settings: SettingsService,
    private readonly marks: MarksService,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  async list(shootId: string): Promise<ReturnListed[]> {
    const all = await this.store.ofShoot(shootId);
    const originals = await this.store.originals(all.map(({ assetId }) => assetId));
    const among = new Map(
      (await this.store.candidates([...new Set(all.flatMap((one) => one.among))])).map((one) => [
        one.id,
        one,
      ]),
    );
    const files = new Map((await this.frames.ofShootFiles(shootId)).map((file) => [file.id, file]));
    const frameOf = ({ id, name, picture }: OriginalOf): ReturnedFrame => ({ id, name, picture });
    return all.map(({ assetId, name, at, state, by, second, among: ids }) => {
      const file = files.get(assetId);
      return {
        ...{ assetId, name, at, state, by, second: second === 1 },
        ...{ picture: file ? pictureKey(file) : null, place: file?.at ?? null },
        originals: originals.filter((one) => one.assetId === assetId).map(frameOf),
        among: ids.flatMap((id) => {
          const frame = among.get(id);
          return frame ? [frameOf(frame)] : [];
        }),
      };
    });
  }

  /** Throws `not-found` where there is no such frame. */
  async editsOf(frameId: string): Promise<EditsOfFrame> {
    const [frame] = await this.store.candidates([frameId]);
    if (!frame) throw new ArkivError('not-found', { what: 'frame', id: frameId });
    const edits: EditsOfFrame['edits'] = [];
    for (const { assetId, name, at, width, height } of await this.store.editsOf(frameId)) {
      const file = await this.frames.asset(assetId);
      if (!file) continue;
      const originals = (await this.store.originals([assetId])).length;
      edits.push({ assetId, name, at, width, height, picture: pictureKey(file), originals });
    }
    const { picture, width, height, orientation } = frame;
    return { taken: { picture, width, height, orientation }, edits };
  }

  /** What an edit was made from, as somebody says; none: of nothing in this shoot. May be said anew at any time. */
  async answer(assetId: string, frameIds: readonly string[]): Promise<void> {
    const returned = await this.store.one(assetId);
    if (!returned || returned.state === 'over')
      throw new ArkivError('not-found', { what: 'edit', id: assetId });
    const here = await this.frames.here(frameIds);
    const unknown = frameIds.find((id) => !here.some((frame) => frame.id === id));
    if (unknown !== undefined) throw new ArkivError('not-found', { what: 'frame', id: unknown });
    await this.match(returned, 'hand', frameIds);
  }

  /** What it was made from is known: keepers come to the stage to which coming back brings them, unless they are further on. */
  async match(
    returned: Pick<Returned, 'assetId' | 'shootId'>,
    by: MatchedBy,
    frameIds: readonly string[],
  ): Promise<void> {
    await this.work.write((manager) => this.store.match(manager, returned, by, frameIds));
    const { stages, rules } = await this.settings.all();
    const to = stages.findIndex((stage) => stage.by === 'return');
    if (to < 0) return;
    const before = (await this.frames.here(frameIds)).filter(
      (frame) => standingOf(rules, queryFrame(frame)) === 'keeper' && stageAt(frame.stage, stages) < to,
    );
    const stamp = { newId: () => this.ids.newId(), at: this.clock.now(), window: 'returns', by: PROGRAM };
    const operations = markFrames(
      before.map((frame) => ({ id: frame.id, marks: marksIn(frame) })),
      'stage',
      stages[to]!.id,
      stamp,
    );
    if (operations.length > 0) await this.marks.apply(operations);
  }

  folders(shootId: string): Promise<ReturnFolder[]> {
    return this.store.folders(shootId);
  }

  /** Folders besides the shoot's own in which edits of it come back. Throws `handoff.folder` for a name that no drive can have. */
  async setFolders(
    shootId: string,
    folders: readonly Omit<ReturnFolder, 'shootId'>[],
  ): Promise<ReturnFolder[]> {
    await this.shoots.get(shootId);
    const kept = new Map<string, Omit<ReturnFolder, 'shootId'>>();
    for (const { volumeId, path: given } of folders) {
      await this.volumes.get(volumeId);
      const at = path.posix.normalize(given.replaceAll('\\', '/')).replace(/^\/+|\/+$/g, '');
      if (
        at === '' ||
        at === '.' ||
        at.split('/').some((part) => part === '..' || nameProblem(part) !== null)
      )
        throw new ArkivError('handoff.folder', {
          folder: given,
          reason: 'some drives cannot have this name',
        });
      kept.set(`${volumeId}/${at}`, { volumeId, path: at });
    }
    await this.work.write((manager) => this.store.setFolders(manager, shootId, [...kept.values()]));
    return this.store.folders(shootId);
  }
}
