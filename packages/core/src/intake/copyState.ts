/** Where one target's copy of a file stands. */
export type TargetState = 'todo' | 'verified' | 'failed';

export interface TargetFate {
  state: TargetState;
  reason?: string;
  /** milliseconds since 1970 UTC when it was read back and identical */
  verifiedAt?: number;
  /** whether the reading back went past the page cache */
  pastCache?: boolean;
}

/** What became of one file of a card. */
export type Fate = 'todo' | 'copied' | 'partly' | 'already-here' | 'failed' | 'left-out';

export interface FileProgress {
  sha256: string | null;
  targets: Readonly<Record<string, TargetFate>>;
  alreadyHere: string | null;
  /** why the source could not be read */
  sourceError: string | null;
  /** bytes of the source that cannot be read, from … up to, not including, to */
  unreadable?: readonly { from: number; to: number }[];
}

export type CopyEvent =
  | { type: 'hashed'; sha256: string }
  | { type: 'verified'; target: string; at: number; pastCache: boolean }
  | { type: 'target-failed'; target: string; reason: string }
  | { type: 'source-failed'; reason: string; unreadable?: readonly { from: number; to: number }[] }
  | { type: 'already-here'; path: string }
  | { type: 'retry' };

export function startProgress(targets: readonly string[]): FileProgress {
  return {
    sha256: null,
    targets: Object.fromEntries(targets.map((id) => [id, { state: 'todo' as const }])),
    alreadyHere: null,
    sourceError: null,
  };
}

/** The next state; a target that is verified stays so. Throws on a second, different checksum of one file. */
export function advance(progress: FileProgress, event: CopyEvent): FileProgress {
  switch (event.type) {
    case 'hashed':
      if (progress.sha256 !== null && progress.sha256 !== event.sha256) {
        throw new Error(
          `expected ${progress.sha256}, found ${event.sha256}: the source changed between two readings`,
        );
      }
      return { ...progress, sha256: event.sha256, sourceError: null, unreadable: undefined };
    case 'verified':
      return withTarget(progress, event.target, {
        state: 'verified',
        verifiedAt: event.at,
        pastCache: event.pastCache,
      });
    case 'target-failed':
      if (progress.targets[event.target]?.state === 'verified') return progress;
      return withTarget(progress, event.target, { state: 'failed', reason: event.reason });
    case 'source-failed':
      return { ...progress, sourceError: event.reason, unreadable: event.unreadable };
    case 'already-here':
      return { ...progress, alreadyHere: event.path };
    case 'retry':
      return {
        ...progress,
        sourceError: null,
        unreadable: undefined,
        targets: Object.fromEntries(
          Object.entries(progress.targets).map(([id, t]) => [
            id,
            t.state === 'verified' ? t : { state: 'todo' as const },
          ]),
        ),
      };
  }
}

function withTarget(progress: FileProgress, target: string, fate: TargetFate): FileProgress {
  return { ...progress, targets: { ...progress.targets, [target]: fate } };
}

/** One word for a file. `partly`: at least one copy is verified and at least one failed. */
export function fateOf(progress: FileProgress): Fate {
  if (progress.alreadyHere !== null) return 'already-here';
  const states = Object.values(progress.targets).map((t) => t.state);
  if (states.length > 0 && states.every((s) => s === 'verified')) return 'copied';
  if (progress.sourceError !== null && !states.includes('verified')) return 'failed';
  if (states.includes('todo')) return 'todo';
  return states.includes('verified') ? 'partly' : 'failed';
}
