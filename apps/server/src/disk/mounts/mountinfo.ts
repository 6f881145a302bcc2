/** One line of /proc/self/mountinfo, see proc(5). */
export interface MountLine {
  /** major:minor of the device, or of an anonymous one */
  device: string;
  /** which folder of the file system is mounted: `/` unless it is a bind mount or a subvolume */
  root: string;
  point: string;
  readOnly: boolean;
  fsType: string;
  source: string;
}

/** Reads a mountinfo table. Lines that follow no rule are left out. */
export function parseMountinfo(text: string): MountLine[] {
  return text.split('\n').flatMap((line): MountLine[] => {
    // Optional fields stand before the lone hyphen, as many as there are.
    const [before, after] = line.split(' - ', 2);
    const [, , device, root, point, options] = (before ?? '').split(' ');
    const [fsType, source, superOptions = ''] = (after ?? '').split(' ');
    if (!device || !root || !point || !options || !fsType || source === undefined) return [];
    const readOnly = [options, superOptions].some((list) => list.split(',').includes('ro'));
    return [{ device, root: plain(root), point: plain(point), readOnly, fsType, source: plain(source) }];
  });
}

/** Space, tab, line end and backslash are written as three octal digits; other bytes stand as they are. */
function plain(field: string): string {
  return field.replace(/\\([0-7]{3})/g, (_, digits: string) => String.fromCharCode(parseInt(digits, 8)));
}

/** File systems of the system itself, and those that live in memory: no card and no drive (proc(5), filesystems(5)). */
const OWN_TYPES = new Set(
  `autofs bpf binfmt_misc cgroup cgroup2 configfs debugfs devpts devtmpfs efivarfs fusectl fuse.portal fuse.lxcfs hugetlbfs
  mqueue nsfs overlay proc pstore ramfs rpc_pipefs securityfs selinuxfs squashfs sysfs tmpfs tracefs`.split(
    /\s+/,
  ),
);
/** Places in which only the system keeps its own. */
const OWN_PLACES = /^\/(boot|dev|efi|proc|sys|snap|var\/lib\/(docker|snapd|containers))(\/|$)/;

/** Whether a mounted file system may hold somebody's pictures. */
export function isForeign({ fsType, point }: MountLine): boolean {
  return !OWN_TYPES.has(fsType) && !OWN_PLACES.test(`${point}/`);
}

const NETWORK_TYPES =
  /^(nfs4?|cifs|smb3|smbfs|ncpfs|afs|ceph|9p|glusterfs|fuse\.(sshfs|glusterfs|rclone|davfs|smbnetfs))$/;

/** The server of a network share: all its shares may lie on one disk. Null for what is no network share. */
export function serverOf({ fsType, source }: MountLine): string | null {
  if (!NETWORK_TYPES.test(fsType)) return null;
  const share = /^\/\/([^/]+)/.exec(source)?.[1] ?? /^(?:[^@/]+@)?(\[[^\]]+\]|[^:/]+):/.exec(source)?.[1];
  return share ? share.toLowerCase() : null;
}

export const isNetwork = ({ fsType }: MountLine): boolean => NETWORK_TYPES.test(fsType);
