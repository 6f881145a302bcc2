export interface ManifestLine {
  /** SHA-256, 64 lower-case hexadecimal digits */
  sha256: string;
  /** relative to the folder in which the check is run, with `/` */
  path: string;
}

/**
 * The text that `sha256sum -c` reads (GNU coreutils, "cksum common options"): digest, two blanks, path. A path
 * with a backslash or a line break is escaped and its line begins with a backslash, as coreutils does.
 */
export function manifestText(lines: readonly ManifestLine[]): string {
  return lines
    .map(({ sha256, path }) => {
      const escaped = path.replace(/\\/g, '\\\\').replace(/\n/g, '\\n').replace(/\r/g, '\\r');
      return `${escaped === path ? '' : '\\'}${sha256}  ${escaped}\n`;
    })
    .join('');
}

/** Reads such a text; lines that are none are left out. */
export function parseManifest(text: string): ManifestLine[] {
  const lines: ManifestLine[] = [];
  for (const line of text.split('\n')) {
    const match = /^(\\?)([0-9a-f]{64}) [ *](.+)$/.exec(line);
    if (!match) continue;
    const path = match[1]
      ? match[3]!.replace(/\\(.)/g, (_, c: string) => (c === 'n' ? '\n' : c === 'r' ? '\r' : c))
      : match[3]!;
    lines.push({ sha256: match[2]!, path });
  }
  return lines;
}
