import { applyMark, type MarkOperation, type Marks } from '@arkiv/core';

/** Marks of this browser that the server has not said yet, by the frame that they lie over, in the order made. */
export class OverMarks {
  private readonly byFrame = new Map<string, Map<string, MarkOperation>>();
  private readonly frames = new Map<string, string>();

  has(id: string): boolean {
    return this.frames.has(id);
  }

  add(operation: MarkOperation): void {
    const its = this.byFrame.get(operation.subject) ?? new Map<string, MarkOperation>();
    this.byFrame.set(operation.subject, its.set(operation.id, operation));
    this.frames.set(operation.id, operation.subject);
  }

  /** Whether it was one of them. */
  delete(id: string): boolean {
    const frame = this.frames.get(id);
    if (frame === undefined) return false;
    const its = this.byFrame.get(frame)!;
    its.delete(id);
    if (its.size === 0) this.byFrame.delete(frame);
    return this.frames.delete(id);
  }

  /** Those that lie over one frame. */
  of(frame: string): MarkOperation[] {
    return [...(this.byFrame.get(frame)?.values() ?? [])];
  }

  /** What a frame's marks are with what lies over them. */
  over(frame: string, marks: Marks): Marks {
    return this.of(frame).reduce(applyMark, marks);
  }

  get ids(): string[] {
    return [...this.frames.keys()];
  }

  get all(): MarkOperation[] {
    return [...this.byFrame.values()].flatMap((its) => [...its.values()]);
  }
}
