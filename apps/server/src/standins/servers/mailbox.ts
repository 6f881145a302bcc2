import path from 'node:path';
import type { Address } from 'postal-mime';
import type { Disk } from '../../disk/disk';

/** A message that the simulated mail server took. */
export interface StandInMail {
  /** of its file */
  name: string;
  from: string;
  to: string;
  subject: string;
  text: string;
  /** names of the files beside it */
  files: string[];
}

/** Bytes of a message at most: above, no mail server takes one. */
const LARGEST = 50e6;

/** What lies in a folder of messages (RFC 5322), the newest first. */
export async function readMailbox(disk: Disk, folder: string): Promise<StandInMail[]> {
  if (!(await disk.facts(folder))) return [];
  const names = (await disk.names(folder)).map(String).filter((name) => name.endsWith('.eml'));
  const { default: PostalMime } = await import('postal-mime');
  const all: StandInMail[] = [];
  for (const name of names.sort().reverse()) {
    const bytes = await disk.readAll(path.join(folder, name), LARGEST);
    const { from, to = [], subject = '', text = '', attachments } = await PostalMime.parse(bytes);
    all.push({
      ...{ name, from: from ? shown(from) : '', to: to.map(shown).join(', '), subject, text },
      files: attachments.map(({ filename }) => filename ?? ''),
    });
  }
  return all;
}

const shown = ({ name, address = '' }: Address): string => (name ? `${name} <${address}>` : address);
