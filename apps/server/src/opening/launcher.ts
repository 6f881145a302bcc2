import { spawn } from 'node:child_process';
import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';

export interface Command {
  program: string;
  args: string[];
}

/** What shows a file in its folder: by a system's own program for folders. */
export function folderCommand(file: string, platform: NodeJS.Platform): Command {
  switch (platform) {
    case 'darwin':
      return { program: 'open', args: ['-R', file] };
    case 'win32':
      return { program: 'explorer.exe', args: [`/select,${file}`] };
    default:
      // No common way marks the file in its folder there.
      return { program: 'xdg-open', args: [path.dirname(file)] };
  }
}

/** What is put in place of the files among a program's arguments; where it does not stand, they come last. */
export const FILES = '{files}';

export function programCommand(program: string, args: readonly string[], files: readonly string[]): Command {
  const all = args.includes(FILES) ? args : [...args, FILES];
  return { program, args: all.flatMap((arg) => (arg === FILES ? files : arg)) };
}

/** Starts programs on this computer, which go on by themselves. No shell reads what they are given. */
@Injectable()
export class Launcher {
  readonly platform = process.platform;

  /** Resolves once it runs. Throws `opening.failed`. */
  start({ program, args }: Command): Promise<void> {
    return new Promise((resolve, reject) => {
      const child = spawn(program, args, { detached: true, stdio: 'ignore', windowsHide: true });
      child.once('spawn', () => {
        child.unref();
        resolve();
      });
      child.once('error', (error: NodeJS.ErrnoException) =>
        reject(
          new ArkivError('opening.failed', {
            program,
            reason: error.code === 'ENOENT' ? 'there is no such program' : error.message,
          }),
        ),
      );
    });
  }
}
