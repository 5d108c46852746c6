// @vitest-environment jsdom
import { fireEvent, screen } from '@testing-library/react';
import { expect, test } from 'vitest';
import type { Atlas } from '../../api/client';
import { queries } from '../../api/queries';
import { shown } from '../../testing/page';
import AtlasPage from './AtlasPage';

const cell = (format: string, written: string, how = '') => ({
  format,
  read: 'KEPT',
  written,
  how,
});
const atlas = {
  formats: [
    { format: 'a', label: 'Alpha', versions: '1', frames: 'stated in the file' },
    { format: 'b', label: 'Beta', versions: '2', frames: 'not stated' },
  ],
  rows: [
    {
      capability: 'UVS',
      label: 'UVs',
      group: 'Geometry',
      formats: [cell('a', 'KEPT'), cell('b', 'LOST', 'It holds points only.')],
    },
    {
      capability: 'CLIPS',
      label: 'Clips',
      group: 'Motion',
      formats: [cell('a', 'NONE'), cell('b', 'LOST', 'The format has none.')],
    },
  ],
} as unknown as Atlas;

const layers = [
  { label: 'clearcoat', fates: { a: 'KEPT' } },
  { label: 'sheen', fates: { a: 'LOST', b: 'CHANGED' } },
];
const page = () =>
  shown(<AtlasPage />, [
    { queryKey: queries.atlas().queryKey, data: atlas },
    { queryKey: queries.layers().queryKey, data: layers },
  ]);

test('layers of materials stand below, by format', () => {
  const { container } = page();
  const cells = (layer: string) =>
    [...container.querySelectorAll(`tr[data-layer="${layer}"] td`)].map((td) => td.textContent);
  expect(cells('clearcoat')).toEqual(['clearcoat', 'kept', '—']);
  expect(cells('sheen')).toEqual(['sheen', 'lost', 'changed']);
  fireEvent.change(screen.getByLabelText('Find a capability'), { target: { value: 'sheen' } });
  expect(container.querySelectorAll('tr[data-layer]')).toHaveLength(1);
});

test('tells how a capability fares, and why where the word alone does not', () => {
  page();
  expect(screen.getByText('It holds points only.')).toBeTruthy();
  expect(screen.queryByText('The format has none.')).toBeNull();
  expect(screen.getByText('not stated')).toBeTruthy();
});

test('columns are taken away and brought back', () => {
  const { container } = page();
  const uvs = () => container.querySelectorAll('tr[data-capability="UVS"] td').length;
  expect(uvs()).toBe(5);
  fireEvent.click(screen.getByRole('button', { name: 'Beta' }));
  expect(uvs()).toBe(3);
  expect(screen.queryByText('It holds points only.')).toBeNull();
  fireEvent.click(screen.getByRole('button', { name: 'Beta' }));
  expect(uvs()).toBe(5);
});

test('a search goes over names and headings', () => {
  const { container } = page();
  const search = screen.getByLabelText('Find a capability');
  fireEvent.change(search, { target: { value: 'motion' } });
  expect(container.querySelectorAll('tr[data-capability]')).toHaveLength(1);
  fireEvent.change(search, { target: { value: 'sail' } });
  expect(screen.getByText(/No capability has “sail”/)).toBeTruthy();
});
