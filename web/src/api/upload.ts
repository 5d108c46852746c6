import { ApiError, type Crossing, type Job, sendJson } from './client';

/** A file on its way in, under its path in the user's folder. */
export interface Incoming {
  path: string;
  file: File;
}

/** Told how many bytes of how many have gone out. */
export type UploadProgress = (sent: number, total: number, path: string) => void;

/** Sends one file with progress; `fetch` has none for uploads. */
function sendFile(
  crossingId: string,
  incoming: Incoming,
  signal: AbortSignal,
  onSent: (bytes: number) => void,
): Promise<void> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    const path = encodeURIComponent(incoming.path);
    request.open('PUT', `/api/crossings/${crossingId}/files?path=${path}`);
    request.setRequestHeader('Content-Type', 'application/octet-stream');
    request.upload.onprogress = (event) => onSent(event.loaded);
    request.onload = () => {
      if (request.status >= 200 && request.status < 300) {
        resolve();
        return;
      }
      let message = `The server answered ${request.status} for ${incoming.path}.`;
      try {
        message = (JSON.parse(request.responseText) as { detail?: string }).detail ?? message;
      } catch {
        // Not a problem document: the plain sentence stands.
      }
      reject(new ApiError(message, request.status));
    };
    request.onerror = () =>
      reject(new ApiError(`${incoming.path} could not be sent: the connection broke.`, 0));
    request.onabort = () => reject(new ApiError('Cancelled.', 0));
    signal.addEventListener('abort', () => request.abort());
    request.send(incoming.file);
  });
}

/** Sends files into a crossing. */
export async function put(
  crossingId: string,
  files: Incoming[],
  signal: AbortSignal,
  onProgress: UploadProgress,
): Promise<void> {
  const total = files.reduce((sum, f) => sum + f.file.size, 0);
  let before = 0;
  for (const incoming of files) {
    await sendFile(crossingId, incoming, signal, (sent) =>
      onProgress(before + sent, total, incoming.path),
    );
    before += incoming.file.size;
  }
}

/** Sends files into a crossing and starts reading. */
export async function bring(
  crossingId: string,
  files: Incoming[],
  signal: AbortSignal,
  onProgress: UploadProgress,
): Promise<Job> {
  await put(crossingId, files, signal, onProgress);
  return sendJson<Job>('POST', `/api/crossings/${crossingId}/read`);
}

/** A name for a new crossing from what was brought. */
export function nameOf(files: Incoming[]): string {
  const first = files[0]?.path ?? 'Crossing';
  const top = first.includes('/') ? first.slice(0, first.indexOf('/')) : first;
  const bare = top
    .replace(/\.[^.]+$/, '')
    .replace(/[_-]+/g, ' ')
    .trim();
  return bare ? bare.charAt(0).toUpperCase() + bare.slice(1, 100) : 'Crossing';
}

/** Makes a crossing of files. */
export async function newCrossing(
  files: Incoming[],
  signal: AbortSignal,
  onProgress: UploadProgress,
  name = nameOf(files),
): Promise<Crossing> {
  const crossing = await sendJson<Crossing>('POST', '/api/crossings', { name });
  try {
    await bring(crossing.id, files, signal, onProgress);
  } catch (error) {
    // Nothing was read: an empty crossing would only be in the way.
    await sendJson('DELETE', `/api/crossings/${crossing.id}`).catch(() => undefined);
    throw error;
  }
  return crossing;
}

/** Files of a drop, folders walked through with their relative paths. */
export async function filesOfDrop(transfer: DataTransfer): Promise<Incoming[]> {
  const entries = [...transfer.items]
    .map((item) => item.webkitGetAsEntry?.() ?? null)
    .filter((entry): entry is FileSystemEntry => entry !== null);
  if (entries.length === 0) {
    return [...transfer.files].map((file) => ({ path: file.name, file }));
  }
  const found: Incoming[] = [];
  for (const entry of entries) {
    await walk(entry, '', found);
  }
  return found;
}

async function walk(entry: FileSystemEntry, folder: string, found: Incoming[]): Promise<void> {
  const path = folder ? `${folder}/${entry.name}` : entry.name;
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) =>
      (entry as FileSystemFileEntry).file(resolve, reject),
    );
    found.push({ path, file });
    return;
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  // A directory reader gives at most a hundred entries a call.
  for (;;) {
    const batch = await new Promise<FileSystemEntry[]>((resolve, reject) =>
      reader.readEntries(resolve, reject),
    );
    if (batch.length === 0) {
      return;
    }
    for (const child of batch) {
      await walk(child, path, found);
    }
  }
}

/** Files of a dialogue; a folder dialogue gives relative paths. */
export function filesOfInput(list: FileList | null): Incoming[] {
  return [...(list ?? [])].map((file) => ({ path: file.webkitRelativePath || file.name, file }));
}
