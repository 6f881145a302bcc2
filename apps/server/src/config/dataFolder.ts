import path from 'node:path';

/**
 * Where the operating system wants a program's data: the XDG base directory on Linux, Application Support on macOS,
 * the local application data on Windows (it must not roam: the archive's index belongs to this machine).
 */
export function dataFolder(
  platform: NodeJS.Platform,
  env: Readonly<Record<string, string | undefined>>,
  home: string,
): string {
  if (platform === 'darwin') return path.posix.join(home, 'Library/Application Support/Arkiv');
  if (platform === 'win32')
    return path.win32.join(env.LOCALAPPDATA || path.win32.join(home, 'AppData', 'Local'), 'Arkiv');
  // The base directory specification: a relative path in the variable is to be ignored.
  const base = env.XDG_DATA_HOME?.startsWith('/') ? env.XDG_DATA_HOME : path.posix.join(home, '.local/share');
  return path.posix.join(base, 'arkiv');
}
