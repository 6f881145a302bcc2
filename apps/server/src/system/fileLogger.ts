import path from 'node:path';
import type { Writable } from 'node:stream';
import { ConsoleLogger, type LogLevel } from '@nestjs/common';
import { Clock } from './clock';

/** Bytes of one log file and files kept: some months of a quiet studio, and never more than 50 MB. */
const SIZE = '10M';
const FILES = 5;

/** Says what the console says in `logs/arkiv.log` of the data directory as well, and begins a new file when one is full. */
export class FileLogger extends ConsoleLogger {
  private readonly clock = new Clock();

  protected constructor(
    private readonly stream: Writable,
    logLevels: LogLevel[],
  ) {
    super({ logLevels });
    // A full disk is said where it matters; the log is not what stops the archive.
    this.stream.on('error', () => undefined);
  }

  static async open(dataDir: string, logLevels: LogLevel[]): Promise<FileLogger> {
    return new this(await logIn(dataDir), logLevels);
  }

  protected override printMessages(
    messages: unknown[],
    context?: string,
    logLevel?: LogLevel,
    writeStreamType?: 'stdout' | 'stderr',
    errorStack?: unknown,
  ): void {
    super.printMessages(messages, context, logLevel, writeStreamType, errorStack);
    for (const message of messages) {
      const text = typeof message === 'string' ? message : JSON.stringify(message);
      const stack = typeof errorStack === 'string' ? `\n${errorStack}` : '';
      this.stream.write(
        `${new Date(this.clock.now()).toISOString()} ${logLevel ?? 'log'} ${context ?? ''}: ${text}${stack}\n`,
      );
    }
  }

  /** Returns when all that was said is in the file. */
  close(): Promise<void> {
    return new Promise((resolve) => this.stream.end(resolve));
  }
}

async function logIn(dataDir: string): Promise<Writable> {
  const { createStream } = await import('rotating-file-stream');
  return createStream('arkiv.log', { path: path.join(dataDir, 'logs'), size: SIZE, maxFiles: FILES });
}
