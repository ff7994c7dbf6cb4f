import type { SendOut } from '../../contract/send-outs';

/** Finished files written straight into a folder, where the browser lets a page do so. */

interface Folder {
  getFileHandle: (
    name: string,
    options: { create: boolean },
  ) => Promise<{ createWritable: () => Promise<WritableStream> }>;
}
type Picking = typeof globalThis & {
  showDirectoryPicker?: (options: { mode: 'readwrite' }) => Promise<Folder>;
};

export const canWriteFolders = (): boolean => 'showDirectoryPicker' in globalThis;

/** Asks for a folder and writes files into it one after another; how many, or null where no folder was picked. Throws where one fails. */
export async function intoFolder(
  files: readonly Pick<SendOut, 'id' | 'fileName'>[],
  onWritten: (count: number) => void,
): Promise<number | null> {
  let folder: Folder;
  try {
    folder = await (globalThis as Picking).showDirectoryPicker!({ mode: 'readwrite' });
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') return null;
    throw error;
  }
  for (const [i, { id, fileName }] of files.entries()) {
    const answer = await fetch(`/api/send-outs/${id}/file`);
    if (!answer.ok || !answer.body) throw new Error(`${fileName} could not be fetched.`);
    const file = await folder.getFileHandle(fileName, { create: true });
    await answer.body.pipeTo(await file.createWritable());
    onWritten(i + 1);
  }
  return files.length;
}
