// @vitest-environment jsdom
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { beforeEach, expect, test } from 'vitest';
import type { FindingView, HandlingState } from '../../../api/client';
import { queries } from '../../../api/queries';
import { shown } from '../../../testing/page';
import { useView } from '../../../view3d/viewState';
import { ReadingsTable } from './ReadingsTable';
import { SurveyTable } from './SurveyTable';

const offer = (label: string, more: object = {}) => ({
  label,
  action: 'step',
  kind: label,
  params: {},
  nodeIds: [],
  asks: false,
  first: [],
  ...more,
});

let next = 0;
const finding = (code: string, more: object = {}) =>
  ({
    index: next++,
    code,
    severity: 'FIX',
    where: `part of ${code}`,
    message: `${code} was found.`,
    measured: '3',
    evidence: 'its faces',
    nodeIds: [4],
    hasMarks: false,
    offers: [],
    state: 'open',
    bundle: '',
    ...more,
  }) as unknown as FindingView;

const handling = {
  revision: 2,
  steps: [],
  canUndo: false,
  canRedo: false,
} as unknown as HandlingState;

function table(findings: FindingView[]) {
  return shown(
    <SurveyTable id="c" tabs={null} />,
    [
      { queryKey: queries.survey('c').queryKey, data: { findings, checks: 40 } },
      { queryKey: queries.handling('c').queryKey, data: handling },
    ],
    {
      '/api/crossings/c/handling/offers': handling,
      '/api/crossings/c/bindings': {},
      '/api/crossings/c/reading': {},
    },
  );
}

const accepted = async (page: ReturnType<typeof shown>) => {
  const path = '/api/crossings/c/handling/offers';
  await waitFor(() => expect(page.sent.some((s) => s.path === path)).toBe(true));
  const all = page.sent.filter((s) => s.path === path);
  return (all[all.length - 1]?.body as { offers: { label: string }[] }).offers.map((o) => o.label);
};

beforeEach(() => {
  next = 0;
  useView.setState({ selected: [], finding: null });
});

test('counts what is open by what to do with it', () => {
  table([
    finding('holes'),
    finding('flipped', { severity: 'LOOK' }),
    finding('empty', { severity: 'NOTE' }),
    finding('gone', { state: 'answered' }),
  ]);
  expect(screen.getByText('1 to put right')).toBeTruthy();
  expect(screen.getByText('1 to look at')).toBeTruthy();
  expect(screen.getByText('1 to know')).toBeTruthy();
  expect(screen.queryByText('gone was found.')).toBeNull();
  fireEvent.click(screen.getByLabelText('1 answered by steps'));
  expect(screen.getByText('gone was found.')).toBeTruthy();
  expect(screen.getByText('answered')).toBeTruthy();
});

test('a sound cargo and one that is put right are told apart', () => {
  const page = table([]);
  expect(screen.getByText(/Nothing was found/)).toBeTruthy();
  expect(screen.getByText('40 checks')).toBeTruthy();
  page.unmount();
  table([finding('gone', { state: 'answered' })]);
  expect(screen.getByText(/answered by steps\.$/)).toBeTruthy();
});

test('all offers leave out what is only to know and what takes something away', async () => {
  const page = table([
    finding('holes', { offers: [offer('close'), offer('close otherwise')] }),
    finding('parts', { offers: [offer('remove', { asks: true })] }),
    finding('uvs', { severity: 'NOTE', offers: [offer('unwrap')] }),
    finding('old', { state: 'answered', offers: [offer('again')] }),
    finding('flipped', { severity: 'LOOK', offers: [offer('turn')] }),
  ]);
  fireEvent.click(screen.getByText('Accept all offers'));
  expect(await accepted(page)).toEqual(['close', 'turn']);
});

test('the offers of a severity are accepted together, each by itself too', async () => {
  const page = table([
    finding('holes', { offers: [offer('close')] }),
    finding('flipped', { offers: [offer('turn')] }),
  ]);
  fireEvent.click(screen.getByText('Accept these 2'));
  expect(await accepted(page)).toEqual(['close', 'turn']);
  fireEvent.click(screen.getByText('turn'));
  await waitFor(async () => expect(await accepted(page)).toEqual(['turn']));
});

test('a row opens with all its offers and selects its parts', async () => {
  const page = table([
    finding('holes', { offers: [offer('close'), offer('cap')], nodeIds: [4, 5] }),
    finding('holes', { offers: [offer('close second')] }),
  ]);
  expect(screen.queryByText('cap')).toBeNull();
  fireEvent.click(screen.getAllByText('holes was found.')[0] as HTMLElement);
  expect(useView.getState().selected).toEqual([4, 5]);
  expect(screen.getByText('cap')).toBeTruthy();
  fireEvent.click(screen.getByText('All 2 of this kind'));
  expect(await accepted(page)).toEqual(['close', 'close second']);
});

test('marks are shown in the views by their finding', () => {
  table([finding('edges', { hasMarks: true })]);
  fireEvent.keyDown(screen.getByText('edges was found.').closest('tr') as HTMLElement, {
    key: 'Enter',
  });
  expect(useView.getState().finding).toBe(0);
});

test('a file and another reading are chosen, not handled', async () => {
  const page = table([
    finding('missing', {
      offers: [
        offer('Use it', { action: 'bind', kind: 'oak.png', params: { file: 'tex/oak.png' } }),
      ],
    }),
    finding('scenes', {
      offers: [offer('Read loft', { action: 'read', kind: 'scene', params: { value: 2 } })],
    }),
  ]);
  fireEvent.click(screen.getByText('Use it'));
  fireEvent.click(screen.getByText('Read loft'));
  await waitFor(() => expect(page.sent).toHaveLength(2));
  expect(page.sent[0]).toEqual({
    method: 'PUT',
    path: '/api/crossings/c/bindings',
    body: { reference: 'oak.png', file: 'tex/oak.png' },
  });
  expect(page.sent[1]).toEqual({
    method: 'PUT',
    path: '/api/crossings/c/reading',
    body: { scene: 2 },
  });
});

test('what must come before an offer is said', () => {
  table([finding('size', { offers: [offer('scale', { first: [offer('Read it as cm')] })] })]);
  expect(screen.getByText('scale').title).toBe('First: Read it as cm');
});

test('findings of one cause are one row that opens', () => {
  const same = { bundle: 'missing textures' };
  table([finding('missing', same), finding('missing', same), finding('missing', same)]);
  const row = document.querySelector('tr[data-count="3"]') as HTMLElement;
  expect(row.getAttribute('aria-expanded')).toBe('false');
  expect(document.querySelectorAll('tr[data-code="missing"]')).toHaveLength(1);
  fireEvent.keyDown(row, { key: 'Enter' });
  expect(document.querySelectorAll('tr[data-code="missing"]')).toHaveLength(4);
  expect(row.getAttribute('aria-expanded')).toBe('true');
});

test('readings of unit and axis can be taken instead', async () => {
  const reading = (value: string, chosen: boolean) => ({
    value,
    label: value,
    confidence: chosen ? 0.8 : 0.2,
    reasons: chosen ? ['a door of 2.05 m'] : [],
    chosen,
  });
  const page = shown(
    <ReadingsTable id="c" tabs={null} />,
    [
      {
        queryKey: queries.survey('c').queryKey,
        data: {
          units: [reading('cm', true), reading('m', false)],
          ups: [reading('z', true), reading('y', false)],
          nearShore: 'yard',
          nearFrame: 'Z up · cm',
        },
      },
      {
        queryKey: queries.shores().queryKey,
        data: [{ shore: { id: 'yard', name: 'The yard' }, builtIn: false }],
      },
      { queryKey: queries.handling('c').queryKey, data: handling },
    ],
    { '/api/crossings/c/handling/offers': handling },
  );
  expect(screen.getByText(/Z up · cm; the nearest shore is “The yard”/)).toBeTruthy();
  expect(screen.getAllByText('a door of 2.05 m')).toHaveLength(2);
  expect(screen.getAllByText('how often it is met')).toHaveLength(2);
  fireEvent.click(screen.getAllByText('Read it so')[0] as HTMLElement);
  const path = '/api/crossings/c/handling/offers';
  await waitFor(() => expect(page.sent.some((s) => s.path === path)).toBe(true));
  const sent = page.sent.find((s) => s.path === path)?.body as {
    offers: { kind: string; params: object }[];
  };
  expect(sent.offers[0]).toMatchObject({ kind: 'sourceUnit', params: { unit: 'm' } });
});
