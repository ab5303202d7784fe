/** A dropped or chosen file with its path inside the dropped folder. */
export interface NamedFile {
  file: File;
  name: string;
}

/** All files of a drop, folders walked. */
export async function droppedFiles(data: DataTransfer): Promise<NamedFile[]> {
  const entries = [...data.items].map((i) => i.webkitGetAsEntry()).filter((e): e is FileSystemEntry => e !== null);
  if (!entries.length) return [...data.files].map((file) => ({ file, name: file.name }));
  const found: NamedFile[] = [];
  for (const entry of entries) await walk(entry, '', found);
  return found;
}

/** Files of an input, with their relative path when a folder was chosen. */
export function chosenFiles(list: FileList | null): NamedFile[] {
  return [...(list ?? [])].map((file) => ({ file, name: file.webkitRelativePath || file.name }));
}

async function walk(entry: FileSystemEntry, prefix: string, found: NamedFile[]): Promise<void> {
  if (entry.name.startsWith('.')) return;
  if (entry.isFile) {
    const file = await new Promise<File>((yes, no) => (entry as FileSystemFileEntry).file(yes, no));
    found.push({ file, name: prefix + entry.name });
    return;
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((yes, no) => reader.readEntries(yes, no));
    if (!some.length) return;
    for (const child of some) await walk(child, `${prefix}${entry.name}/`, found);
  }
}
