import { execFile } from 'node:child_process';
import { Injectable } from '@nestjs/common';

/** Milliseconds: one frame of the largest clips in use is decoded in under two seconds. */
const TIME_LIMIT = 30_000;
/** Seconds into a clip: the first frames are often black or blurred. A shorter clip gives its first frame. */
const INTO = 1;
const MAX_POSTER = 64 * 1024 * 1024;

/** One frame of a clip, through `ffmpeg` where the machine has it. */
@Injectable()
export class Posters {
  private there: Promise<boolean> | null = null;

  /** A JPEG of the clip's size, upright; null where there is no `ffmpeg`, or it cannot read the clip. */
  async of(file: string): Promise<Buffer | null> {
    this.there ??= run(['-version']).then((answer) => answer !== null);
    if (!(await this.there)) return null;
    return (await frameAt(file, INTO)) ?? frameAt(file, 0);
  }
}

async function frameAt(file: string, seconds: number): Promise<Buffer | null> {
  const bytes = await run([
    ...['-hide_banner', '-loglevel', 'error', '-nostdin', '-ss', String(seconds)],
    // Nothing that a clip names is fetched: files only.
    ...['-protocol_whitelist', 'file', '-i', `file:${file}`],
    ...['-frames:v', '1', '-q:v', '2', '-f', 'image2pipe', '-c:v', 'mjpeg', '-'],
  ]);
  return bytes && bytes.length > 0 ? bytes : null;
}

function run(args: string[]): Promise<Buffer | null> {
  return new Promise((resolve) => {
    execFile(
      'ffmpeg',
      args,
      { encoding: 'buffer', timeout: TIME_LIMIT, killSignal: 'SIGKILL', maxBuffer: MAX_POSTER },
      (error, stdout) => resolve(error ? null : stdout),
    );
  });
}
