// @vitest-environment jsdom
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import type { ForecastItem, LandingOptions } from '../../../api/client';
import { queries } from '../../../api/queries';
import { shown } from '../../../testing/page';
import { useView } from '../../../view3d/viewState';
import { ForecastTable } from './ForecastTable';

const options = { format: 'glb' } as LandingOptions;
const NO_CACHES = { caches: 0, bytes: 0, bytesPerSecond: 0, forms: [] };
const item = (change: Partial<ForecastItem>) =>
  ({
    capability: 'MORPHS',
    fate: 'LOST',
    label: 'Morph targets',
    measured: '2 meshes',
    where: 'heron',
    how: 'The format has none.',
    nodeIds: [],
    offers: [],
    ...change,
  }) as ForecastItem;

function table(items: ForecastItem[], onOption = vi.fn(), cost: object = NO_CACHES) {
  const handling = { revision: 4, steps: [], canUndo: false, canRedo: false };
  const page = shown(
    <ForecastTable id="c" options={options} onOption={onOption} />,
    [
      { queryKey: queries.handling('c').queryKey, data: handling },
      { queryKey: queries.forecast('c', 4, options).queryKey, data: { items, cost } },
    ],
    { '/api/crossings/c/handling/offers': handling },
  );
  return { ...page, onOption };
}

test('counts what will be lost apart from what will change', () => {
  table([item({}), item({ capability: 'PIVOTS', fate: 'CHANGED', label: 'Pivots' })]);
  expect(screen.getByText('1 will be lost')).toBeTruthy();
  expect(screen.getByText('1 will change')).toBeTruthy();
});

test('says so when everything is held', () => {
  table([]);
  expect(screen.getByText(/holds everything as it is/)).toBeTruthy();
});

test('an offered option goes to the form, an offered step to the handling', async () => {
  const option = {
    action: 'option',
    kind: 'influences',
    label: 'Keep all joints',
    params: { value: 0 },
  };
  const step = { action: 'step', kind: 'split', label: 'Split by face set', params: { by: 'set' } };
  const { onOption, sent } = table([
    item({ offers: [option, step] as unknown as ForecastItem['offers'] }),
  ]);
  fireEvent.click(screen.getByText('Keep all joints'));
  expect(onOption).toHaveBeenCalledWith('influences', 0);
  fireEvent.click(screen.getByText('Split by face set'));
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0]).toMatchObject({ method: 'POST', path: '/api/crossings/c/handling/offers' });
  expect(sent[0]?.body).toMatchObject({ revision: 4, offers: [{ kind: 'split' }] });
});

test('a row selects the parts that it is about, by click and by key', () => {
  table([item({ nodeIds: [7, 9] })]);
  const row = screen.getByText('Morph targets').closest('tr') as HTMLElement;
  useView.getState().set({ selected: [] });
  fireEvent.click(row);
  expect(useView.getState().selected).toEqual([7, 9]);
  useView.getState().set({ selected: [] });
  fireEvent.keyDown(row, { key: 'Enter' });
  expect(useView.getState().selected).toEqual([7, 9]);
});

test('caches are weighed against cheaper forms, each one click away', async () => {
  const offer = { action: 'step', kind: 'cacheToNodes', label: 'Move the parts', params: {} };
  const forms = [{ label: 'Stiff ones as moving parts', how: '3 of 4', bytes: 2400, offer }];
  const cost = { caches: 4, bytes: 3_500_000, bytesPerSecond: 1_200_000, forms };
  const { sent } = table([], vi.fn(), cost);
  const note = document.querySelector('.cache-cost')?.textContent;
  expect(note).toContain('4 caches: 3.50 MB of positions, 1.20 MB to decode for each second');
  expect(note).toContain('Stiff ones as moving parts: ');
  fireEvent.click(screen.getByText('Move the parts'));
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0]?.body).toMatchObject({ offers: [{ kind: 'cacheToNodes' }] });
});
