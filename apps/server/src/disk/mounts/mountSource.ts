import { LinuxMounts } from './linuxMounts';
import { MacMounts } from './macMounts';
import type { MountSource } from './mounts';
import { WindowsMounts } from './windowsMounts';

/** The class for the operating system that this server runs on. */
export function mountSource(
  platform: NodeJS.Platform,
  env: Readonly<Record<string, string | undefined>>,
): MountSource {
  if (platform === 'darwin') return new MacMounts();
  if (platform === 'win32') return new WindowsMounts(env.SystemDrive ?? 'C:');
  return new LinuxMounts();
}
