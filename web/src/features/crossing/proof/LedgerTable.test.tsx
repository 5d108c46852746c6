// @vitest-environment jsdom
import { fireEvent, screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import type { LedgerPage, LedgerRow } from '../../../api/client';
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

const some = (fitting: number, found = rows): LedgerPage => ({
  rows: found,
  fitting,
  kept: 1,
  changed: 1,
  lost: 1,
});

test('rows stand under their headings; more are asked for, and none is said', () => {
  const onMore = vi.fn();
  const page = shown(<LedgerTable id="c" page={some(9)} onMore={onMore} />);
  expect(page.container.querySelectorAll('.group-row')).toHaveLength(2);
  expect(page.container.querySelectorAll('tr[data-verdict]')).toHaveLength(3);
  expect(screen.getByText(/6 more/)).toBeTruthy();
  fireEvent.click(screen.getByText('Show more'));
  expect(onMore).toHaveBeenCalledOnce();
  page.unmount();
  const whole = shown(<LedgerTable id="c" page={some(3)} onMore={onMore} />);
  expect(screen.queryByText('Show more')).toBeNull();
  whole.unmount();
  const none = shown(<LedgerTable id="c" page={some(0, [])} onMore={onMore} />);
  expect(screen.getByText('No fact fits the filter.')).toBeTruthy();
  none.unmount();
  shown(<LedgerTable id="c" page={undefined} onMore={onMore} />);
  expect(screen.queryByText('No fact fits the filter.')).toBeNull();
});

test('a fact selects its part and opens; one about nothing single only opens', () => {
  useView.getState().set({ selected: [3] });
  shown(<LedgerTable id="c" page={some(3)} onMore={() => {}} />);
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
