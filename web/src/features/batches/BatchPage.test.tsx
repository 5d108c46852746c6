// @vitest-environment jsdom
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import { queries } from '../../api/queries';
import { shown } from '../../testing/page';
import BatchPage from './BatchPage';

const asset = (name: string, verdict: string | null, more: object = {}) => ({
  crossingId: name,
  name,
  state: verdict ? 'done' : 'waiting',
  opened: false,
  verdict,
  trouble: verdict === 'refused' || verdict === 'lost',
  told: '',
  foretold: 1,
  kept: 9,
  changed: 0,
  lost: 0,
  lostFacts: [],
  landings: verdict === 'refused' ? [] : ['l'],
  hasPicture: false,
  ...more,
});

const batch = (working: boolean) => ({
  id: '',
  name: 'Yard',
  routine: 'Web room',
  version: 2,
  createdAt: '2026-01-01T12:00:00Z',
  assets: 3,
  done: 2,
  trouble: 1,
  working,
});

function page(assets: object[], working = false) {
  return shown(
    <BatchPage />,
    [
      { queryKey: queries.batch('').queryKey, data: { batch: batch(working), assets } },
      { queryKey: queries.formats().queryKey, data: [] },
    ],
    { 'POST /api/batches//retry': { batch: batch(true), assets } },
  );
}

test('what was lost and why an asset was refused is told, and can be shown alone', () => {
  page([
    asset('boat', 'kept'),
    asset('crate', 'refused', { told: 'refused: crate.glb, byte 8: it is cut off.' }),
    asset('label', 'lost', { lost: 1, lostFacts: ['Whole scene, Custom layers'] }),
  ]);
  expect(screen.getByText(/3 assets, 2 to look at/)).toBeTruthy();
  expect(screen.getByText(/byte 8/)).toBeTruthy();
  expect(screen.getByText('Whole scene, Custom layers')).toBeTruthy();
  fireEvent.click(screen.getByLabelText('Only what to look at'));
  expect(screen.queryByText('boat')).toBeNull();
  expect(screen.getByText('label')).toBeTruthy();
});

test('what was refused is tried again at once', async () => {
  const { sent } = page([asset('crate', 'refused'), asset('boat', 'kept')]);
  fireEvent.click(screen.getByText('Try 1 again'));
  await waitFor(() => expect(sent.some((s) => s.path === '/api/batches//retry')).toBe(true));
});

test('work can be cancelled while it goes on', () => {
  page([asset('boat', 'kept'), asset('crate', null)], true);
  expect(screen.getByText('1 of 2')).toBeTruthy();
  expect(screen.getByText('Cancel the rest')).toBeTruthy();
  expect(screen.queryByText(/Try/)).toBeNull();
});
