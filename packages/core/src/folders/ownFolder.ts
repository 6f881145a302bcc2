import { collisionKey, shownName, toNamePart } from '../naming/legalName';

/** The title of the other shoot whose folder this is; null: nobody's, or one's own. */
export type FolderOwner = (folder: string) => string | null;

/** Folders of other shoots, by their titles; `workFolder`: one more, for what goes out of it. A folder is the same however a disk may write it. `before`: whose they are else. */
export function folderOwner(
  shoots: Iterable<{ title: string; folders: readonly string[]; workFolder?: string | null }>,
  before: FolderOwner = () => null,
): FolderOwner {
  const owners = new Map<string, string>();
  for (const { title, folders, workFolder } of shoots)
    for (const folder of workFolder ? [...folders, workFolder] : folders)
      owners.set(collisionKey(folder), title);
  return (folder) => owners.get(collisionKey(folder)) ?? before(folder);
}

/** Whether both titles are the same in the name of a folder. */
const isSame = (title: string, other: string): boolean =>
  toNamePart(title) !== '' && collisionKey(toNamePart(title)) === collisionKey(toNamePart(other));

/**
 * A folder belongs to one shoot: what it says of itself, and what lies in its sub-folders, is of that shoot alone. Where another
 * shoot has it (a plan that makes a folder of each day has two for a day with two shoots), a number follows.
 */
export function ownFolder(folder: string, owner: FolderOwner): string {
  let own = folder;
  for (let n = 2; owner(own) !== null; n++) own = `${folder}_${n}`;
  return own;
}

/** What is wrong where a new shoot would be called as the one whose folder it would come into; null: nothing. */
export function sameShoot(folder: string, title: string, owner: FolderOwner): string | null {
  const other = owner(folder);
  if (other === null || !isSame(title, other)) return null;
  return `“${folder}” is the folder of the shoot “${shownName(other)}” already. Put these frames into that shoot, or give this one another title.`;
}
