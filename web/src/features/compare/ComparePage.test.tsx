// @vitest-environment jsdom
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import { queries } from '../../api/queries';
import { shown } from '../../testing/page';
import ComparePage from './ComparePage';

const crossing = (id: string, name: string) => ({
  id,
  name,
  state: 'ready',
  problem: null,
  summary: null,
  history: 0,
  thumbnail: null,
  updatedAt: '2026-01-01T12:00:00Z',
});

const row = (group: string, fact: string, verdict: string, more: object = {}) => ({
  group,
  fact,
  nodeId: -1,
  near: '',
  far: '1',
  landed: '2',
  differs: '',
  verdict,
  note: '',
  ...more,
});

const compared = (changed: number) => ({
  proof: {
    kept: 9,
    changed,
    lost: 0,
    within: 0,
    beyond: 0,
    rows: [
      row('Whole scene', 'Width', 'KEPT'),
      ...(changed > 0
        ? [
            row('buoy/flag', 'Surface distance, largest', 'CHANGED', {
              nodeId: 4,
              differs: '1.000 mm',
              measure: { unit: 'm', differs: 0.001 },
            }),
          ]
        : []),
    ],
  },
  firstParts: ['buoy/flag', 'buoy/bell'],
  secondParts: ['buoy/flag', 'buoy/gong'],
  firstClips: ['wave'],
  secondClips: ['flutter', 'still'],
});

function page(answers: Record<string, unknown>) {
  return shown(
    <ComparePage />,
    [
      {
        queryKey: queries.crossings().queryKey,
        data: [crossing('a', 'Buoy'), crossing('b', 'Buoy again')],
      },
      { queryKey: queries.formats().queryKey, data: [] },
      {
        queryKey: queries.shores().queryKey,
        data: [{ shore: { id: 'yard', name: 'The yard' }, builtIn: true }],
      },
    ],
    answers,
  );
}

const choose = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });

test('what differs is listed, the rest on demand', async () => {
  page({ '/api/pairs?first=a&second=b': compared(1) });
  choose('First', 'a');
  choose('Second', 'b');
  await waitFor(() => expect(screen.getByText('1 of 10 facts differ')).toBeTruthy());
  expect(screen.getByText('1.000 mm')).toBeTruthy();
  expect(screen.queryByText('Width')).toBeNull();
  fireEvent.click(screen.getByLabelText('What is the same too'));
  expect(screen.getByText('Width')).toBeTruthy();
});

test('a part is matched by hand', async () => {
  const match = encodeURIComponent('{"buoy/bell":"buoy/gong"}');
  const { sent } = page({
    '/api/pairs?first=a&second=b': compared(1),
    [`/api/pairs?first=a&second=b&match=${match}`]: compared(0),
  });
  choose('First', 'a');
  choose('Second', 'b');
  await waitFor(() => expect(screen.getByLabelText('buoy/bell is, by hand')).toBeTruthy());
  choose('buoy/bell is, by hand', 'buoy/gong');
  await waitFor(() => expect(screen.getByText('The same asset')).toBeTruthy());
  expect(sent.some((s) => s.path.includes('buoy%2Fgong'))).toBe(true);
});

test('the far side that an asset came from can be taken, on one spot', async () => {
  const { sent } = page({
    '/api/pairs?first=a&second=b&firstState=now&together=ROOTS': compared(0),
  });
  choose('First', 'a');
  choose('Second', 'b');
  choose('First: which side', 'now');
  choose('The second stands', 'ROOTS');
  await waitFor(() => expect(screen.getByText('The same asset')).toBeTruthy());
  expect(sent.at(-1)?.path).toContain('firstState=now');
});

test('where they lie apart is shown, of one part too', async () => {
  page({ '/api/pairs?first=a&second=b': compared(1) });
  choose('First', 'a');
  choose('Second', 'b');
  await waitFor(() => expect(screen.getByAltText('From the front')).toBeTruthy());
  fireEvent.click(screen.getByText('where'));
  const picture = screen.getByAltText('From the front, buoy/flag') as HTMLImageElement;
  expect(picture.src).toContain('part=buoy%2Fflag');
  fireEvent.click(screen.getByText('show all'));
  expect(screen.getByAltText('From the front')).toBeTruthy();
});

test('a take is held against a take, as a shore lets them differ', async () => {
  const { sent } = page({
    '/api/pairs?first=a&second=b': compared(1),
    '/api/pairs?first=a&second=b&firstClip=wave&secondClip=flutter': compared(1),
    '/api/pairs?first=a&second=b&firstClip=wave&secondClip=still': compared(0),
    '/api/pairs?first=a&second=b&firstClip=wave&secondClip=still&shore=yard': compared(0),
  });
  choose('First', 'a');
  choose('Second', 'b');
  await waitFor(() => expect(screen.getByLabelText('Take of the first')).toBeTruthy());
  choose('Take of the first', 'wave');
  await waitFor(() => expect(screen.getByLabelText('Take of the second')).toBeTruthy());
  choose('Take of the second', 'still');
  await waitFor(() => expect(screen.getByText('The same asset')).toBeTruthy());
  choose('What may differ', 'yard');
  await waitFor(() => expect(sent.at(-1)?.path).toContain('shore=yard'));
});
