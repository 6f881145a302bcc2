import type { ChosenFile } from './uploadQueue';

/** Files that somebody chose, folders with their own names kept below what was chosen. */
export function fromInput(files: FileList): ChosenFile[] {
  return [...files].map((file) => ({ path: file.webkitRelativePath || file.name, file }));
}

/** Whether something is dragged that could be sent. */
export const dragsFiles = ({ types }: DataTransfer): boolean => types.includes('Files');

/** Files and folders that were dropped, with all that lies in them. To be called while the drop is being told: it is gone after. */
export function fromDrop({ items, files }: DataTransfer): Promise<ChosenFile[]> {
  const entries = [...items].flatMap((item) => item.webkitGetAsEntry?.() ?? []);
  // A picture that is dragged off a page is a file without an entry in some browsers.
  if (entries.length === 0) return Promise.resolve(fromInput(files));
  return Promise.all(entries.map((entry) => below(entry))).then((found) => found.flat());
}

async function below(entry: FileSystemEntry): Promise<ChosenFile[]> {
  const path = entry.fullPath.replace(/^\//, '');
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) =>
      (entry as FileSystemFileEntry).file(resolve, reject),
    );
    return [{ path, file }];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: ChosenFile[] = [];
  // A folder is told in parts, and its end by an empty one.
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) =>
      reader.readEntries(resolve, reject),
    );
    if (some.length === 0) return found;
    for (const one of some) found.push(...(await below(one)));
  }
}
