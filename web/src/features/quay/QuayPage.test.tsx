// @vitest-environment jsdom
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import { queries } from '../../api/queries';
import { useNotices } from '../../shared/Notices';
import { shown } from '../../testing/page';
import { QuayPage } from './QuayPage';

const crossing = (name: string) => ({
  id: name,
  name,
  state: 'ready',
  problem: null,
  summary: null,
  history: 0,
  thumbnail: null,
  updatedAt: '2026-01-01T12:00:00Z',
});

function quay(names: string[], answers: Record<string, unknown> = {}) {
  return shown(
    <QuayPage />,
    [
      { queryKey: queries.crossings().queryKey, data: names.map(crossing) },
      { queryKey: queries.jobs().queryKey, data: [] },
      {
        queryKey: queries.formats().queryKey,
        data: ['GLB', 'FBX', 'OBJ'].map((name) => ({ name, reads: true })),
      },
      {
        queryKey: queries.storage().queryKey,
        data: { heldBytes: 5_000_000, freeBytes: 7_000_000_000, freedBytes: 0 },
      },
    ],
    answers,
  );
}

beforeEach(() => useNotices.setState({ notices: [] }));

test('an empty quay says what a crossing is', () => {
  quay([]);
  expect(screen.getByText(/A crossing carries one asset/)).toBeTruthy();
  expect(screen.queryByLabelText('Find a crossing')).toBeNull();
});

test('what can be brought is named from the formats', () => {
  quay([]);
  expect(screen.getByText(/GLB, FBX or OBJ, with materials/)).toBeTruthy();
});

test('crossings are found by their names, whatever the case', () => {
  quay(['Heron', 'Capstan', 'Iron bollard']);
  fireEvent.change(screen.getByLabelText('Find a crossing'), { target: { value: ' ron ' } });
  expect(screen.getAllByRole('link').map((a) => a.textContent)).toEqual(
    expect.arrayContaining(['Heron', 'Iron bollard']),
  );
  expect(screen.queryByText('Capstan')).toBeNull();
  fireEvent.change(screen.getByLabelText('Find a crossing'), { target: { value: 'sail' } });
  expect(screen.getByText('No crossing has “sail” in its name.')).toBeTruthy();
});

test('the slash goes to the search', () => {
  quay(['Heron']);
  fireEvent.keyDown(window, { key: '/' });
  expect(document.activeElement).toBe(screen.getByLabelText('Find a crossing'));
});

/** Stands for the browser's sending of files, which tells how far it is. */
class Sender {
  static paths: string[] = [];
  static answer = { status: 200, text: '' };
  upload: { onprogress?: (event: { loaded: number }) => void } = {};
  status = 0;
  responseText = '';
  onload = () => {};
  onabort = () => {};
  open(_method: string, path: string) {
    Sender.paths.push(path);
  }
  setRequestHeader() {}
  abort() {
    this.onabort();
  }
  send(file: File) {
    this.upload.onprogress?.({ loaded: file.size });
    this.status = Sender.answer.status;
    this.responseText = Sender.answer.text;
    this.onload();
  }
}

async function bringing(answer: { status: number; text: string }) {
  Sender.paths = [];
  Sender.answer = answer;
  const page = quay([], {
    'POST /api/crossings': { id: 'n', name: 'Crate' },
    'DELETE /api/crossings/n': {},
    'POST /api/crossings/n/read': { id: 'j' },
  });
  vi.stubGlobal('XMLHttpRequest', Sender);
  const files = [new File(['v 0 0 0'], 'crate.obj'), new File(['newmtl oak'], 'crate.mtl')];
  fireEvent.change(screen.getByTestId('files'), { target: { files } });
  return page;
}

test('files become a crossing and are read', async () => {
  const page = await bringing({ status: 200, text: '{}' });
  await waitFor(() =>
    expect(page.sent.map((s) => `${s.method} ${s.path}`)).toContain('POST /api/crossings/n/read'),
  );
  expect(page.sent[0]?.body).toEqual({ name: 'Crate' });
  expect(Sender.paths).toEqual([
    '/api/crossings/n/files?path=crate.obj',
    '/api/crossings/n/files?path=crate.mtl',
  ]);
});

test('a file that is refused leaves no empty crossing behind', async () => {
  const page = await bringing({ status: 413, text: '{"detail":"The file is too large."}' });
  await waitFor(() =>
    expect(page.sent.map((s) => `${s.method} ${s.path}`)).toContain('DELETE /api/crossings/n'),
  );
  expect(useNotices.getState().notices.map((n) => n.text)).toContain('The file is too large.');
  expect(Sender.paths).toHaveLength(1);
});

test('a crossing that cannot be made is complained of', async () => {
  quay([], {});
  fireEvent.change(screen.getByTestId('files'), {
    target: { files: [new File(['x'], 'crate.obj')] },
  });
  await waitFor(() => expect(useNotices.getState().notices).toHaveLength(1));
  expect(useNotices.getState().notices[0]?.bad).toBe(true);
  // And the next files are taken again.
  expect(screen.getByText('Choose files')).toBeTruthy();
});

test('no files are no crossing', () => {
  const page = quay([]);
  fireEvent.change(screen.getByTestId('files'), { target: { files: [] } });
  expect(page.sent).toHaveLength(0);
});

test('the place to drop shows when files are over the page', () => {
  quay([]);
  const slip = document.querySelector('.slip') as HTMLElement;
  const over = new Event('dragover', { bubbles: true, cancelable: true });
  Object.assign(over, { dataTransfer: { types: ['Files'] } });
  fireEvent(window, over);
  expect(slip.className).toContain('slip-over');
  const leave = new Event('dragleave', { bubbles: true });
  Object.assign(leave, { relatedTarget: null });
  fireEvent(window, leave);
  expect(slip.className).not.toContain('slip-over');
});

test('text that is dragged over the page is none of its business', () => {
  quay([]);
  const over = new Event('dragover', { bubbles: true, cancelable: true });
  Object.assign(over, { dataTransfer: { types: ['text/plain'] } });
  fireEvent(window, over);
  expect(over.defaultPrevented).toBe(false);
  expect(document.querySelector('.slip')?.className).not.toContain('slip-over');
});

test('what nothing uses is freed and said', async () => {
  quay(['Heron'], {
    '/api/storage/sweep': { heldBytes: 4_000_000, freeBytes: 7_001_000_000, freedBytes: 1_000_000 },
  });
  expect(screen.getByText(/^5\S* MB held on disk/)).toBeTruthy();
  fireEvent.click(screen.getByText('Free what nothing uses'));
  await waitFor(() => expect(screen.getByText(/1\S* MB freed/)).toBeTruthy());
  expect(screen.getByText(/^4\S* MB held on disk/)).toBeTruthy();
});
