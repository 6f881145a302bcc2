import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  collisionKey,
  planArrange,
  sidecarOf,
  type ArrangeInput,
  type Arrangement,
  type MovePlan,
} from '@arkiv/core';
import { SettingsService } from '../settings/settings.service';
import { mayGetFrames, type Shoot } from '../shoots/shoot.entity';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { MoveFrames } from './moveFrames';
import { asInto, chosenOf, placesOf, type MoveRequest } from './moveRequest';
import { TakenPlaces } from './takenPlaces';

/** Plans frames under other names, in another folder of their shoot, or in another shoot: themselves, or copies of them. */
@Injectable()
export class Arrangements {
  constructor(
    private readonly frames: MoveFrames,
    private readonly shoots: ShootsService,
    private readonly taken: TakenPlaces,
    private readonly settings: SettingsService,
    private readonly clock: Clock,
  ) {}

  async of(asked: MoveRequest, from: Shoot): Promise<{ into: Shoot; plan: MovePlan }> {
    const { frameIds, pattern, name, below, seqStart, due, copies = false } = asked;
    const all = await this.frames.of(from);
    const frames = chosenOf(all, 'arrange', frameIds);
    const elsewhere = asked.into !== undefined && asked.into !== from.id;
    if (pattern === undefined && name === undefined && below === undefined && !elsewhere)
      throw new ArkivError('move.nothing', { reason: 'neither a name nor a folder is given' });
    if (name !== undefined && frames.length !== 1)
      throw new ArkivError('move.nothing', { reason: 'one name is for one frame' });
    const into = elsewhere ? await this.shoots.get(asked.into!) : from;
    if (elsewhere) mayGetFrames(into);
    const how: Arrangement = {
      ...{ pattern: pattern ?? null, name: name ?? null, below: below ?? null },
      ...{ seqStart: seqStart ?? null, today: this.today(), due: due ?? null },
    };
    const chosen = new Set(frames.map(({ id }) => id));
    const others = (elsewhere ? await this.frames.of(into) : all).filter(
      ({ id }) => id !== null && (copies || !chosen.has(id)),
    );
    const { creator } = await this.settings.all();
    const home = elsewhere ? (into.folders[0] ?? null) : null;
    const input: ArrangeInput = { frames, others, shoot: asInto(into), home, how, creator, copies };
    // What moves leaves its place to the others; what is copied does not.
    const leaves = new Set(
      (copies ? [] : frames)
        .flatMap((frame) => [...frame.files.map((f) => f.path), sidecarOf(frame.place, frame.name)])
        .map(collisionKey),
    );
    const taken = await this.taken.by((exists) => placesOf(planArrange(input, exists)), leaves);
    return { into, plan: planArrange(input, (to) => taken.has(collisionKey(to))) };
  }

  /** The day where the server stands, YYYY-MM-DD. */
  private today(): string {
    const now = new Date(this.clock.now());
    const two = (n: number): string => String(n).padStart(2, '0');
    return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
  }
}
