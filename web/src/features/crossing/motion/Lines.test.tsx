// @vitest-environment jsdom
import { act, fireEvent, screen, waitFor } from '@testing-library/react';
import { beforeEach, expect, test } from 'vitest';
import type { SideView } from '../../../api/client';
import { queries } from '../../../api/queries';
import { shown } from '../../../testing/page';
import { useSpots } from '../../../view3d/data/spots';
import { useTime } from '../../../view3d/data/time';
import { useView } from '../../../view3d/viewState';
import { Apart } from './Apart';
import { Tracks } from './Tracks';

const clip = { id: 7, startSeconds: 0, endSeconds: 2, framesPerSecond: 10, frames: 21 };
const nodes = [
  { id: 3, name: 'sail', mesh: 'm' },
  { id: 4, name: 'mast', mesh: '' },
] as unknown as SideView['nodes'];
const found = {
  seconds: [0, 1, 2],
  most: [0, 0.02, 0.01],
  mean: [0, 0.004, 0.001],
  spots: [0, 0, 0, 1, 0, 0, 2, 0, 0],
  otherSpots: [0, 0, 0, 0, 0, 0, 0, 0, 0],
  parts: [{ nodeId: 3, name: 'sail', metres: 0.02, seconds: 1 }],
  left: 1,
};
const ask = { a: 'near', b: 'now', clip: 7, sameSpot: false, starts: false, node: -1 };

beforeEach(() => {
  act(() => useView.getState().reset());
  act(() => useTime.getState().open(clip));
});

function apart(...known: { queryKey: readonly unknown[]; data: unknown }[]) {
  return shown(<Apart id="c" nodes={nodes} revision={5} />, known);
}

test('how far both views lie apart is read at the moment, and the worst can be gone to', () => {
  apart({ queryKey: queries.apart('c', ask, 5).queryKey, data: found });
  expect(screen.getByText('farthest').nextSibling?.textContent).toBe('0 m');
  act(() => useTime.getState().set({ seconds: 1.5 }));
  expect(screen.getByText('farthest').nextSibling?.textContent).toBe('15 mm');
  expect(screen.getByText('mean').nextSibling?.textContent).toBe('2.5 mm');
  expect(screen.getByText('1 part is not comparable')).toBeTruthy();
  fireEvent.click(screen.getByText('sail'));
  expect(useTime.getState().seconds).toBe(1);
  expect(useView.getState().selected).toEqual([3]);
});

test('roots on one spot are asked for anew and hold both views while it is on', async () => {
  const page = apart(
    { queryKey: queries.apart('c', ask, 5).queryKey, data: found },
    { queryKey: queries.apart('c', { ...ask, sameSpot: true }, 5).queryKey, data: found },
  );
  expect(useSpots.getState().spots).toBeNull();
  fireEvent.click(screen.getByLabelText('Roots on one spot'));
  await waitFor(() => expect(useSpots.getState().spots?.near).toEqual(found.spots));
  page.unmount();
  expect(useSpots.getState().spots).toBeNull();
});

test('one selected part with a surface is compared alone; a refusal is shown', async () => {
  act(() => useView.getState().set({ selected: [3] }));
  const { sent } = apart();
  await screen.findByText('not found');
  expect(sent[0]?.path).toContain('a=near&b=now&clip=7&sameSpot=false&starts=false&node=3');
});

test('tracks show what moves each part and select it', () => {
  const rows = [
    {
      nodeId: 3,
      name: 'sail',
      what: 'points',
      detail: 'wind',
      start: 0,
      end: 2,
      count: 49,
      rate: 24,
      marks: [0, 1, 2],
    },
    {
      nodeId: 4,
      name: 'mast',
      what: 'keys',
      detail: 'turn',
      start: 0.5,
      end: 1,
      count: 2,
      rate: 0,
      marks: [0.5, 1],
    },
  ];
  shown(<Tracks id="c" revision={5} />, [
    { queryKey: queries.tracks('c', 'now', 7, 5).queryKey, data: { rows, left: 2 } },
  ]);
  expect(screen.getByText('points · wind')).toBeTruthy();
  expect(screen.getByText('0.00–2.00 s · 49 samples, 24/s')).toBeTruthy();
  expect(screen.getByText('0.50–1.00 s · 2 keys')).toBeTruthy();
  expect(screen.getByText('and 2 more parts that move')).toBeTruthy();
  const bar = screen.getByLabelText('mast: keys over the clip').querySelector('rect');
  expect(bar?.getAttribute('x')).toBe('250');
  expect(bar?.getAttribute('width')).toBe('250');
  fireEvent.click(screen.getByText('mast'));
  expect(useView.getState().selected).toEqual([4]);
});
