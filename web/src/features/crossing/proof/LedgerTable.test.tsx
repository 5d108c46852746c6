// @vitest-environment jsdom
import { fireEvent, screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import type { LedgerRow } from '../../../api/client';
import { shown } from '../../../testing/page';
import { useView } from '../../../view3d/viewState';
import { LedgerTable, VerdictPills } from './LedgerTable';

const row = (fact: string, verdict: LedgerRow['verdict'], group = 'Meshes', nodeId = -1) =>
  ({
    group,
    fact,
    nodeId,
    near: '4',
    far: '4',
    landed: '3',
    differs: '-1',
    verdict,
    note: 'corners are missing',
  }) as LedgerRow;

const rows = [
  row('Vertices', 'KEPT'),
  row('UVs', 'LOST'),
  row('Length of sway', 'CHANGED', 'Motion', 12),
];

test('rows stand under their headings, filtered by verdict and by words', () => {
  const page = shown(<LedgerTable id="c" rows={rows} only={null} wanted="" />);
  expect(page.container.querySelectorAll('.group-row')).toHaveLength(2);
  expect(page.container.querySelectorAll('tr[data-verdict]')).toHaveLength(3);
  page.unmount();
  const lost = shown(<LedgerTable id="c" rows={rows} only="LOST" wanted="" />);
  expect(lost.container.querySelectorAll('tr[data-verdict]')).toHaveLength(1);
  lost.unmount();
  const found = shown(<LedgerTable id="c" rows={rows} only={null} wanted=" SWAY " />);
  expect(found.container.querySelectorAll('tr[data-verdict]')).toHaveLength(1);
  found.unmount();
  shown(<LedgerTable id="c" rows={rows} only="KEPT" wanted="sway" />);
  expect(screen.getByText('No fact fits the filter.')).toBeTruthy();
});

test('a fact selects its part and opens; one about nothing single only opens', () => {
  useView.getState().set({ selected: [3] });
  shown(<LedgerTable id="c" rows={rows} only={null} wanted="" />);
  const uvs = screen.getByText('UVs').closest('tr') as HTMLElement;
  fireEvent.click(uvs);
  expect(uvs.className).toBe('open');
  expect(useView.getState().selected).toEqual([3]);
  fireEvent.keyDown(screen.getByText('Length of sway').closest('tr') as HTMLElement, {
    key: 'Enter',
  });
  expect(useView.getState().selected).toEqual([12]);
});

test('a pill shows its verdict alone and gives the others back', () => {
  const onOnly = vi.fn();
  const page = shown(<VerdictPills count={() => 2} only={null} onOnly={onOnly} />);
  fireEvent.click(screen.getByText('2 lost'));
  expect(onOnly).toHaveBeenLastCalledWith('LOST');
  page.unmount();
  shown(<VerdictPills count={() => 0} only="LOST" onOnly={onOnly} />);
  const pill = screen.getByText('0 lost');
  expect(pill.getAttribute('aria-pressed')).toBe('true');
  expect(pill.className).toContain('pill-plain');
  fireEvent.click(pill);
  expect(onOnly).toHaveBeenLastCalledWith(null);
});
