// @vitest-environment jsdom
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import type { Shore } from '../../api/client';
import { queries } from '../../api/queries';
import { useNotices } from '../../shared/Notices';
import { shown } from '../../testing/page';
import ShoresPage from './ShoresPage';

const shore = (id: string, name: string) =>
  ({
    id,
    name,
    note: 'For the yard.',
    frame: { metresPerUnit: 0.01, up: 'PLUS_Z', front: 'MINUS_Y', handedness: 'RIGHT' },
    formats: ['glb'],
    budgets: {
      triangles: 0,
      vertices: 0,
      materials: 0,
      textureSize: 0,
      influences: 4,
      fileBytes: 0,
      parts: 0,
      joints: 0,
      skinMove: 1,
    },
    wishes: { embedTextures: true, triangulate: false },
    names: { allowed: '', longest: 0, unique: true },
    tolerances: { apart: null, turned: 0.5, uv: null, values: null, seenFrom: null },
    reasons: { frame: 'Makers work in centimetres.' },
  }) as unknown as Shore;

function page(builtIn: boolean) {
  const shores = [
    { shore: shore('yard', 'The yard'), builtIn },
    { shore: shore('loft', 'The loft'), builtIn: true },
  ];
  return shown(
    <ShoresPage />,
    [
      { queryKey: queries.shores().queryKey, data: shores },
      {
        queryKey: queries.formats().queryKey,
        data: [
          { key: 'glb', label: 'GLB', writes: true },
          { key: 'fbx', label: 'FBX', writes: true },
          { key: 'collada', label: 'COLLADA', writes: false },
        ],
      },
    ],
    {
      // Asked for again after every change.
      'GET /api/shores': shores,
      'POST /api/shores': { shore: shore('new', 'The yard, copy'), builtIn: false },
      '/api/shores/yard': {},
    },
  );
}

test('a built-in shore is shown and cannot be changed', () => {
  page(true);
  expect(screen.getByRole('heading', { name: 'The yard' })).toBeTruthy();
  expect(screen.queryByText('Save')).toBeNull();
  expect(screen.queryByText('Delete')).toBeNull();
  expect(document.querySelector<HTMLFieldSetElement>('.shore-grid')?.disabled).toBe(true);
  expect(screen.getByText('Makers work in centimetres.')).toBeTruthy();
  expect(screen.getAllByText('built in')).toHaveLength(2);
});

test('a shore of one’s own is saved as a whole once it is changed', async () => {
  const sent = page(false).sent;
  expect(screen.getByText<HTMLButtonElement>('Save').disabled).toBe(true);
  fireEvent.change(screen.getByLabelText('Name'), { target: { value: 'North yard' } });
  fireEvent.change(screen.getByLabelText('Metres a unit'), { target: { value: '1' } });
  fireEvent.change(screen.getByLabelText('Up'), { target: { value: 'PLUS_Y' } });
  fireEvent.change(screen.getByLabelText('Hand'), { target: { value: 'LEFT' } });
  fireEvent.change(screen.getByLabelText('Longest'), { target: { value: '31' } });
  fireEvent.click(screen.getByLabelText('Each name once'));
  fireEvent.click(screen.getByLabelText('FBX'));
  fireEvent.click(screen.getByText('Save'));
  await waitFor(() => expect(sent.some((s) => s.method === 'PUT')).toBe(true));
  const saved = sent.find((s) => s.method === 'PUT');
  expect(saved?.path).toBe('/api/shores/yard');
  expect(saved?.body).toMatchObject({
    id: 'yard',
    name: 'North yard',
    note: 'For the yard.',
    frame: { metresPerUnit: 1, up: 'PLUS_Y', front: 'MINUS_Y', handedness: 'LEFT' },
    names: { allowed: '', longest: 31, unique: false },
    formats: ['glb', 'fbx'],
  });
});

test('formats that are only read are no shore’s, the first is the best', () => {
  page(false);
  expect(screen.queryByLabelText('COLLADA')).toBeNull();
  expect(screen.getByLabelText('GLB, the best')).toBeTruthy();
  fireEvent.click(screen.getByLabelText('FBX'));
  fireEvent.click(screen.getByLabelText('GLB, the best'));
  expect(screen.getByLabelText('FBX, the best')).toBeTruthy();
});

test('a copy is named as one and deleted ones go', async () => {
  const sent = page(false).sent;
  fireEvent.click(screen.getByText('Copy'));
  await waitFor(() => expect(sent.some((s) => s.method === 'POST')).toBe(true));
  expect((sent.find((s) => s.method === 'POST')?.body as Shore).name).toBe('The yard, copy');
  fireEvent.click(screen.getByText('Delete'));
  await waitFor(() =>
    expect(sent.some((s) => s.method === 'DELETE' && s.path === '/api/shores/yard')).toBe(true),
  );
});

test('a file that is no shore is refused by its name', async () => {
  page(false);
  const file = new File(['not json'], 'yard.json');
  fireEvent.change(screen.getByLabelText('Shore file'), { target: { files: [file] } });
  await waitFor(() =>
    expect(useNotices.getState().notices.map((n) => n.text)).toContain(
      '“yard.json” is no shore: a JSON file as the schema says is needed.',
    ),
  );
});

test('a file of a shore is added', async () => {
  const sent = page(false).sent;
  const file = new File([JSON.stringify(shore('x', 'Brought'))], 'yard.json');
  fireEvent.change(screen.getByLabelText('Shore file'), { target: { files: [file] } });
  await waitFor(() => expect(sent.some((s) => s.method === 'POST')).toBe(true));
  expect((sent.find((s) => s.method === 'POST')?.body as Shore).name).toBe('Brought');
});
