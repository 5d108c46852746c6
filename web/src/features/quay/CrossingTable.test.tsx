// @vitest-environment jsdom
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { expect, test } from 'vitest';
import type { Crossing } from '../../api/client';
import { shown } from '../../testing/page';
import { CrossingTable } from './CrossingTable';

const summary = {
  from: 'FBX',
  files: 1,
  height: '1.6 m',
  toFix: 0,
  toLook: 0,
  landed: null,
  landedFrame: null,
  kept: -1,
  changed: 0,
  lost: 0,
};
const crossing = (name: string, change: object = {}, sum: object = {}) =>
  ({
    id: name,
    name,
    state: 'ready',
    problem: null,
    history: 0,
    thumbnail: null,
    updatedAt: '2026-01-02T03:04:05Z',
    summary: { ...summary, ...sum },
    ...change,
  }) as unknown as Crossing;

const row = (name: string) => screen.getByText(name).closest('tr') as HTMLElement;

test('says in one word how far each crossing is', () => {
  shown(
    <CrossingTable
      crossings={[
        crossing('sound one'),
        crossing('faulty', {}, { toFix: 2, toLook: 5 }),
        crossing('doubtful', {}, { toLook: 1 }),
        crossing('landed', {}, { landed: 'GLB', lost: 0 }),
        crossing('lossy', {}, { landed: 'OBJ', lost: 3 }),
        crossing('broken', { state: 'failed', problem: 'It ends too early.', summary: null }),
        crossing('new', { state: 'empty', summary: null }),
      ]}
    />,
  );
  expect(within(row('sound one')).getByText('sound')).toBeTruthy();
  expect(within(row('faulty')).getByText('2 to put right')).toBeTruthy();
  expect(within(row('doubtful')).getByText('1 to look at')).toBeTruthy();
  expect(within(row('landed')).getByText('proved · nothing lost')).toBeTruthy();
  expect(within(row('lossy')).getByText('proved · 3 lost')).toBeTruthy();
  expect(within(row('broken')).getByText('could not be read').title).toBe('It ends too early.');
  expect(within(row('new')).getByText('empty')).toBeTruthy();
});

test('the route shows the stops that lie behind', () => {
  shown(
    <CrossingTable
      crossings={[
        crossing('read'),
        crossing('handled', { history: 3 }),
        crossing('landed', {}, { landed: 'GLB' }),
        crossing('new', { state: 'empty', summary: null }),
      ]}
    />,
  );
  expect(within(row('read')).getByLabelText('2 of 5 stops')).toBeTruthy();
  expect(within(row('handled')).getByLabelText('3 of 5 stops')).toBeTruthy();
  expect(within(row('landed')).getByLabelText('5 of 5 stops')).toBeTruthy();
  expect(within(row('new')).getByLabelText('0 of 5 stops')).toBeTruthy();
});

test('nothing is deleted before it is confirmed', async () => {
  const { sent } = shown(<CrossingTable crossings={[crossing('barge')]} />, [], {
    '/api/crossings/barge': {},
  });
  fireEvent.click(screen.getByLabelText('Delete barge'));
  expect(screen.getByText(/cannot be undone/)).toBeTruthy();
  fireEvent.click(screen.getByText('Keep it'));
  expect(sent).toHaveLength(0);
  fireEvent.click(screen.getByLabelText('Delete barge'));
  fireEvent.click(screen.getByText('Delete'));
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0]).toMatchObject({ method: 'DELETE', path: '/api/crossings/barge' });
});
