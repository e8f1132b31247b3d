/** Files and folders that are dropped on the page or pasted into it. */
export type Dropped = { files: File[]; folder: string | null };

type Entry = FileSystemEntry;
const DEEPEST = 4;
const MOST = 2000;

/** Files of a drop or a paste; of folders, those that may be footage, in the order of their names. */
export async function droppedFiles(data: DataTransfer): Promise<Dropped> {
  // Dropped files are available only during the event; entries stay valid.
  const items = [...data.items].filter(({ kind }) => kind === "file");
  const entries = items.map((item) => item.webkitGetAsEntry?.() ?? null);
  const plain = items.flatMap((item, at) => (entries[at]?.isDirectory ? [] : [item.getAsFile()]));
  const folders = entries.filter((entry): entry is Entry => !!entry?.isDirectory);
  const inside = await Promise.all(folders.map((entry) => filesIn(entry, DEEPEST)));
  const files = [...plain.filter((file) => file !== null), ...inside.flat()];
  return { files: files.slice(0, MOST), folder: folders[0]?.name ?? null };
}

/** Those of a folder's files that may be footage. */
export function footageAmong(files: File[]): File[] {
  return files
    .filter(({ name, type }) => !name.startsWith(".") && (type === "" || /^(video|image)\//.test(type)))
    .sort((one, other) => one.name.localeCompare(other.name, undefined, { numeric: true }));
}

async function filesIn(entry: Entry, deep: number): Promise<File[]> {
  if (entry.isFile)
    return [await new Promise<File>((done, fail) => (entry as FileSystemFileEntry).file(done, fail))];
  if (deep === 0) return [];
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: Entry[] = [];
  // A folder is listed in portions, the last of them empty.
  for (;;) {
    const some = await new Promise<Entry[]>((done, fail) => reader.readEntries(done, fail));
    if (some.length === 0 || found.length > MOST) break;
    found.push(...some);
  }
  const files = await Promise.all(found.filter((one) => one.isFile).map((one) => filesIn(one, 0)));
  const folders = await Promise.all(
    found.filter((one) => one.isDirectory).map((one) => filesIn(one, deep - 1)),
  );
  return [...footageAmong(files.flat()), ...folders.flat()];
}
