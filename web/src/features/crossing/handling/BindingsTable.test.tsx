// @vitest-environment jsdom
import { act, fireEvent, screen, waitFor } from '@testing-library/react';
import { beforeEach, expect, test } from 'vitest';
import { queries } from '../../../api/queries';
import { shown } from '../../../testing/page';
import { useView } from '../../../view3d/viewState';
import { HandlingTable } from './HandlingTable';

const step = {
  step: { id: 's', kind: 'putLook', params: { look: 1 }, enabled: true },
  figure: '1 set bound, 1 not',
  failure: null,
  notes: [],
  nodeIds: [2],
  missing: [],
};
const state = { revision: 4, steps: [step], canUndo: true, canRedo: false };
const row = (change: object) => ({
  nodeId: 2,
  path: 'take/head',
  key: 'lips',
  set: 'lips',
  faces: 12,
  materialId: 8,
  material: 'wax',
  confidence: 0.7,
  reasons: ['its name', 'as many faces'],
  how: 'as found',
  hand: false,
  ...change,
});
const rows = [
  row({}),
  row({ key: '*', set: '', materialId: -1, material: '', confidence: 0, how: 'not bound' }),
];
const materials = [
  { id: 8, name: 'wax', colour: '#aa8844' },
  { id: 9, name: 'glass', colour: '#88aacc' },
];

function table() {
  return shown(
    <HandlingTable id="c" />,
    [
      { queryKey: queries.handling('c').queryKey, data: state },
      { queryKey: queries.stepKinds().queryKey, data: [] },
      { queryKey: queries.states('c').queryKey, data: [] },
      { queryKey: queries.looks('c', 's', 4).queryKey, data: { rows, materials } },
    ],
    {
      'PUT /api/crossings/c/looks/s': state,
      '/api/crossings/c/looks/s/row?node=2&face=5': 1,
    },
  );
}

beforeEach(() => act(() => useView.getState().reset()));

test('a step that puts a look on shows its bindings while it is open', () => {
  table();
  expect(screen.queryByText('Bindings')).toBeNull();
  act(() => useView.getState().set({ openStone: 's' }));
  expect(screen.getByText('1 of 2 bound')).toBeTruthy();
  expect(screen.getByText('as found · its name, as many faces')).toBeTruthy();
  expect(screen.getByText('70 %')).toBeTruthy();
  expect(screen.getByText('CSV').getAttribute('href')).toBe('/api/crossings/c/looks/s/table.csv');
  fireEvent.click(screen.getByText('All steps'));
  expect(screen.queryByText('Bindings')).toBeNull();
});

test('a row is bound to another material, to nothing, and to what is found', async () => {
  act(() => useView.getState().set({ openStone: 's' }));
  const { sent } = table();
  const list = screen.getByLabelText('Material of other faces on take/head');
  fireEvent.change(list, { target: { value: 'is glass' } });
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0]?.body).toEqual({ revision: 4, key: '*', path: 'take/head', material: 'glass' });
  fireEvent.change(list, { target: { value: 'nothing' } });
  await waitFor(() => expect(sent).toHaveLength(2));
  expect(sent[1]?.body).toMatchObject({ material: '-' });
  fireEvent.change(screen.getByLabelText('Material of lips on take/head'), {
    target: { value: 'nothing' },
  });
  await waitFor(() => expect(sent).toHaveLength(3));
  expect(sent[2]?.body).toMatchObject({ key: 'lips', material: '-' });
});

test('a click on the surface marks its row and puts the keyboard there', async () => {
  act(() => useView.getState().set({ openStone: 's' }));
  table();
  fireEvent.click(screen.getByText('Click the surface'));
  expect(useView.getState().pickMode).toBe('face');
  const pick = { side: 'far' as const, nodeId: 2, face: 5, vertex: 0, position: [], triangle: [] };
  act(() => useView.getState().set({ picks: [pick] }));
  const list = screen.getByLabelText('Material of other faces on take/head');
  await waitFor(() => expect(list.closest('tr')?.dataset.marked).toBe('true'));
  expect(document.activeElement).toBe(list);
  fireEvent.click(screen.getByText('Materials apart'));
  expect(useView.getState().shading).toBe('materials');
});
