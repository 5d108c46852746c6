// @vitest-environment jsdom
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import type { Job } from '../../api/client';
import { queries } from '../../api/queries';
import { shown } from '../../testing/page';
import { JobsPage } from './JobsPage';

const job = (change: Partial<Job>) =>
  ({
    id: 'j',
    kind: 'read',
    crossingId: 'c',
    title: 'Reading barge',
    state: 'done',
    what: '3 files, 2.1 MB: 9 parts',
    fraction: 1,
    problem: null,
    createdAt: '2026-01-02T03:04:05Z',
    endedAt: '2026-01-02T03:04:07Z',
    ...change,
  }) as Job;

const page = (jobs: Job[]) =>
  shown(<JobsPage />, [{ queryKey: queries.jobs().queryKey, data: jobs }], {
    '/api/jobs/k/cancel': {},
  });

test('a job says what came of it, how long it took, and leads to its crossing', () => {
  page([job({}), job({ id: 'f', title: 'Landing barge', state: 'failed', problem: 'Disk full.' })]);
  expect(screen.getByText('3 files, 2.1 MB: 9 parts')).toBeTruthy();
  expect(screen.getAllByText(/2(\.0+)? s/).length).toBeGreaterThan(0);
  expect(screen.getByText('Disk full.')).toBeTruthy();
  expect(screen.getByText('Reading barge').getAttribute('href')).toBe('/crossings/c');
});

test('what runs stands above with its progress and can be stopped', async () => {
  const { sent } = page([
    job({ id: 'k', state: 'running', what: 'reading crate', fraction: 0.42 }),
  ]);
  expect(screen.getByText('42 %')).toBeTruthy();
  fireEvent.click(screen.getByText('Cancel'));
  await waitFor(() => expect(sent[0]?.path).toBe('/api/jobs/k/cancel'));
});

test('an empty page says what jobs are', () => {
  page([]);
  expect(screen.getByText(/None has run yet/)).toBeTruthy();
});
