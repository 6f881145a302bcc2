import { Injectable } from '@nestjs/common';
import { ArkivError, type MovePlan } from '@arkiv/core';
import { FramesService } from '../frames/frames.service';
import { JobsService } from '../jobs/jobs.service';
import { OpenJobs } from '../jobs/openJobs.service';
import type { Shoot } from '../shoots/shoot.entity';
import { ShootsService } from '../shoots/shoots.service';
import { Ids } from '../system/ids';
import { Arrangements } from './arrangements';
import { Companions } from './companions';
import type { DeriveItem, DeriveParams } from './derive.handler';
import type { MoveRequest } from './moveRequest';

/** Copies frames inside the archive: plans it, checks it, and hands it to a job. */
@Injectable()
export class DerivingService {
  constructor(
    private readonly jobs: JobsService,
    private readonly openJobs: OpenJobs,
    private readonly archive: FramesService,
    private readonly shoots: ShootsService,
    private readonly arrangements: Arrangements,
    private readonly companions: Companions,
    private readonly ids: Ids,
  ) {}

  /** What would be copied, with every problem; nothing is touched. */
  async plan(asked: MoveRequest): Promise<MovePlan & { along: string[] }> {
    const { from, plan } = await this.prepare(asked);
    this.companions.forget();
    const { along } = await this.companions.ofPlan(plan.moves, from.id);
    return { ...plan, along };
  }

  async start(asked: MoveRequest): Promise<{ jobId: string; shootId: string }> {
    const { from, into, plan } = await this.prepare(asked);
    const [first] = plan.problems;
    if (first) throw new ArkivError('plan.problems', { count: plan.problems.length, first: first.message });
    for (const { id, title } of new Set([from, into]))
      if (await this.openJobs.onShoots([id])) throw new ArkivError('move.busy', { shoot: title });
    const sizes = new Map((await this.archive.ofShootFiles(from.id)).map(({ id, size }) => [id, size]));
    const items = plan.moves.map((move) => {
      const data: DeriveItem = {
        ...move,
        copy: this.ids.newId(),
        path: `${move.from.place}/${move.from.name}`,
      };
      const size = move.files.reduce((sum, { assetId }) => sum + (sizes.get(assetId) ?? 0), 0);
      return { size, name: data.path, data };
    });
    const id = this.ids.newId();
    const params: DeriveParams = { from: from.id, into: into.id };
    const subjects = [...new Set([from.id, into.id])].map((shoot) => ({
      ...{ kind: 'shoot' as const, id: shoot, deed: 'moves' as const },
    }));
    const job = { id, kind: 'derive' as const, title: from.title, shootId: into.id, params, subjects };
    await this.jobs.begin([{ job, items }]);
    return { jobId: id, shootId: into.id };
  }

  private async prepare(asked: MoveRequest): Promise<{ from: Shoot; into: Shoot; plan: MovePlan }> {
    const from = await this.shoots.get(asked.shootId);
    return { from, ...(await this.arrangements.of({ ...asked, copies: true }, from)) };
  }
}
