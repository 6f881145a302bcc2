import { Injectable } from '@nestjs/common';
import { pileKind, STUDIO, stamped, type MarkOperation } from '@arkiv/core';
import { LongReading } from '../db/longReading';
import { PLACED_FRAME, placedFrame, type PlacedFrame, type PlacedRow } from '../frames/placedFrame';
import { MarksService } from '../marks/marks.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { PileStore, type ShownPile } from '../marks/pileStore';

/** Frames that a pile's own screen shows: more is no pile any more, and each of its shoots shows its own part whole. */
const MOST = 2000;
/** In the journal, what was made by the server for a window that asked. */
const WINDOW = 'server';

/** What is done with a pile as a whole, over all shoots. */
@Injectable()
export class PilesService {
  constructor(
    private readonly store: PileStore,
    private readonly marks: MarksService,
    private readonly long: LongReading,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  async shown(id: string): Promise<ShownPile & { shown: PlacedFrame[] }> {
    const { name, number } = await this.store.get(id);
    const [{ frames = 0 } = {}] = await this.long.rows<{ frames: number }>(
      `SELECT COUNT(*) AS frames FROM frame_here f WHERE f.piles <> '' AND instr(f.piles, ?) > 0`,
      [id],
    );
    const rows = await this.long.rows<PlacedRow>(
      `${PLACED_FRAME} WHERE f.piles <> '' AND instr(f.piles, ?) > 0
       ORDER BY s.date DESC, s.id, f.instant IS NULL, f.instant, f.name LIMIT ?`,
      [id, MOST],
    );
    return { id, name, number, frames, shown: rows.map(placedFrame) };
  }

  /** Takes all frames out of a pile: an operation each, so that it can be taken back in each shoot. */
  async empty(id: string): Promise<{ frames: number; group: string }> {
    await this.store.get(id);
    const frames = await this.long.rows<{ id: string }>(
      `SELECT f.id FROM frame f WHERE f.piles <> '' AND instr(f.piles, ?) > 0`,
      [id],
    );
    const stamp = { newId: () => this.ids.newId(), at: this.clock.now(), window: WINDOW, by: STUDIO };
    const shared = stamped(stamp);
    const operations = frames.map(({ id: subject }): MarkOperation => ({
      ...{ id: this.ids.newId(), kind: pileKind(id), subject, from: true, to: false },
      ...shared,
    }));
    await this.marks.apply(operations);
    return { frames: operations.length, group: shared.group };
  }

  async remove(id: string): Promise<void> {
    await this.empty(id);
    await this.store.remove(id);
  }
}
