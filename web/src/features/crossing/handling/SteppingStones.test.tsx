// @vitest-environment jsdom
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { beforeEach, expect, test } from 'vitest';
import type { HandlingState, Step, StepKind } from '../../../api/client';
import { queries } from '../../../api/queries';
import { shown } from '../../../testing/page';
import { useView } from '../../../view3d/viewState';
import { HandlingTable } from './HandlingTable';
import { SteppingStones } from './SteppingStones';

const field = {
  name: 'factor',
  label: 'Factor',
  type: 'number',
  unit: '×',
  min: 0.001,
  max: 1000,
  options: [],
  standard: 1,
  help: 'How much.',
  group: '',
  when: '',
};

const kinds = [
  { kind: 'scale', label: 'Scale', group: 'Place', help: 'Larger or smaller.', fields: [field] },
  { kind: 'ground', label: 'Drop on the ground', group: 'Place', help: 'Down.', fields: [] },
  { kind: 'weld', label: 'Weld', group: 'Surface', help: 'Joins vertices.', fields: [] },
].map((k) => ({ takesSelection: k.kind === 'weld', ...k })) as unknown as StepKind[];

const stone = (id: string, kind: string, more: object = {}) => ({
  step: {
    id,
    kind,
    params: kind === 'scale' ? { factor: 2 } : {},
    enabled: true,
    nodeIds: [],
    pattern: '',
    ofKind: '',
    parts: [],
    paramParts: {},
  },
  figure: `${kind} done`,
  failure: null,
  notes: [],
  nodeIds: [],
  missing: [],
  ...more,
});

const handling = (steps: object[], more: object = {}) =>
  ({ revision: 4, steps, canUndo: true, canRedo: false, ...more }) as unknown as HandlingState;

function river(steps: object[], more: object = {}) {
  const state = handling(steps, more);
  return shown(
    <SteppingStones id="c" ready />,
    [
      { queryKey: queries.handling('c').queryKey, data: state },
      { queryKey: queries.stepKinds().queryKey, data: kinds },
    ],
    {
      '/api/crossings/c/handling': state,
      '/api/crossings/c/handling/undo': state,
      '/api/crossings/c/handling/redo': state,
    },
  );
}

/** The stone of a step; the menu of steps has its name too. */
const named = (name: string) =>
  screen.getAllByText(name).find((e) => e.className === 'stone-name') as HTMLElement;

type Sent = { revision: number; steps: Step[] };

async function saved(page: ReturnType<typeof shown>): Promise<Sent> {
  await waitFor(() => expect(page.sent.some((s) => s.method === 'PUT')).toBe(true));
  const put = page.sent.filter((s) => s.method === 'PUT');
  expect(put[put.length - 1]?.path).toBe('/api/crossings/c/handling');
  return put[put.length - 1]?.body as Sent;
}

beforeEach(() => useView.setState({ selected: [], openStone: null, hoveredStone: null }));

test('says what a river without stones is for', () => {
  river([], { canUndo: false });
  expect(screen.getByText(/Nothing is changed yet/)).toBeTruthy();
  expect(screen.getByText<HTMLButtonElement>('Undo').disabled).toBe(true);
  expect(screen.getByText<HTMLButtonElement>('Redo').disabled).toBe(true);
});

test('each stone says what it changed, or why not', () => {
  river([stone('a', 'scale'), stone('b', 'ground', { failure: 'There is no part.' })]);
  expect(screen.getByText('scale done')).toBeTruthy();
  expect(screen.getByText('There is no part.').className).toContain('loss');
});

test('a stone is switched off, keeping the others', async () => {
  const page = river([stone('a', 'scale'), stone('b', 'ground')]);
  fireEvent.click(screen.getByLabelText('Scale in effect'));
  const body = await saved(page);
  expect(body.revision).toBe(4);
  expect(body.steps.map((s) => [s.id, s.enabled])).toEqual([
    ['a', false],
    ['b', true],
  ]);
});

test('a stone is moved by keys and removed by Delete', async () => {
  const page = river([stone('a', 'scale'), stone('b', 'ground'), stone('d', 'weld')]);
  fireEvent.keyDown(named('Drop on the ground'), { key: 'ArrowUp', altKey: true });
  expect((await saved(page)).steps.map((s) => s.id)).toEqual(['b', 'a', 'd']);
  fireEvent.keyDown(named('Scale'), { key: 'ArrowDown', altKey: true });
  await waitFor(() => expect(page.sent.filter((s) => s.method === 'PUT')).toHaveLength(2));
  fireEvent.keyDown(named('Weld'), { key: 'Delete' });
  await waitFor(() => expect(page.sent.filter((s) => s.method === 'PUT')).toHaveLength(3));
  expect((await saved(page)).steps.map((s) => s.id)).not.toContain('d');
});

test('the first stone does not move further up', async () => {
  const page = river([stone('a', 'scale'), stone('b', 'ground')]);
  fireEvent.keyDown(named('Scale'), { key: 'ArrowUp', altKey: true });
  expect((await saved(page)).steps.map((s) => s.id)).toEqual(['a', 'b']);
});

test('a stone is dragged to another place', async () => {
  const page = river([stone('a', 'scale'), stone('b', 'ground'), stone('d', 'weld')]);
  const stones = [...document.querySelectorAll('.stone')];
  const dataTransfer = { effectAllowed: '' };
  fireEvent.dragStart(stones[2] as Element, { dataTransfer });
  fireEvent.dragOver(stones[0] as Element, { dataTransfer });
  expect(stones[0]?.className).toContain('stone-drop');
  fireEvent.drop(stones[0] as Element, { dataTransfer });
  expect((await saved(page)).steps.map((s) => s.id)).toEqual(['d', 'a', 'b']);
});

test('opened, a stone asks what its step needs and saves it when it is finished', async () => {
  const page = river([stone('a', 'scale')]);
  fireEvent.click(named('Scale'));
  expect(useView.getState().openStone).toBe('a');
  expect(screen.getByText('Larger or smaller.')).toBeTruthy();
  const box = screen.getByLabelText('Factor');
  fireEvent.change(box, { target: { value: '5' } });
  expect(page.sent.filter((s) => s.method === 'PUT')).toHaveLength(0);
  fireEvent.keyDown(box, { key: 'Enter' });
  expect((await saved(page)).steps[0]?.params).toEqual({ factor: 5 });
  fireEvent.click(screen.getByText('Remove'));
  await waitFor(() => expect(page.sent.filter((s) => s.method === 'PUT')).toHaveLength(2));
});

test('a part that is not there any more can be replaced by the likeliest', async () => {
  const gone = { path: 'mast', ordinal: 1, count: 1, made: false };
  const likely = { path: 'yard/mast', ordinal: 1, count: 1, made: false };
  const lost = stone('a', 'weld', {
    failure: 'The part mast is not there.',
    missing: [{ label: 'mast', part: gone, likely, likelyLabel: 'yard/mast' }],
  });
  lost.step.parts = [gone] as never[];
  const page = river([lost]);
  fireEvent.click(screen.getByText('Use “yard/mast”'));
  expect((await saved(page)).steps[0]?.parts).toEqual([likely]);
});

test('steps are found by words and the best is added by Enter', async () => {
  useView.setState({ selected: [7, 8] });
  const page = river([stone('a', 'scale')]);
  fireEvent.click(screen.getByText(/Add a step/));
  const search = screen.getByLabelText('Find a step');
  fireEvent.change(search, { target: { value: 'vertices' } });
  expect(
    within(document.querySelector('.step-menu') as HTMLElement).queryByText('Scale'),
  ).toBeNull();
  fireEvent.keyDown(search, { key: 'Enter' });
  const body = await saved(page);
  expect(body.steps).toHaveLength(2);
  expect(body.steps[1]?.kind).toBe('weld');
  expect(body.steps[1]?.nodeIds).toEqual([7, 8]);
  expect(useView.getState().openStone).toBe(body.steps[1]?.id);
});

test('a step for the whole scene takes no selection and its standards', async () => {
  useView.setState({ selected: [7] });
  const page = river([]);
  fireEvent.click(screen.getByText(/Add a step/));
  fireEvent.click(within(document.querySelector('.step-menu') as HTMLElement).getByText('Scale'));
  const body = await saved(page);
  expect(body.steps[0]?.nodeIds).toEqual([]);
  expect(body.steps[0]?.params).toEqual({ factor: 1 });
});

test('a search without a result says so and Enter adds nothing', () => {
  const page = river([]);
  fireEvent.click(screen.getByText(/Add a step/));
  const search = screen.getByLabelText('Find a step');
  fireEvent.change(search, { target: { value: 'teleport' } });
  expect(screen.getByText('No step does that yet.')).toBeTruthy();
  fireEvent.keyDown(search, { key: 'Enter' });
  expect(page.sent.filter((s) => s.method === 'PUT')).toHaveLength(0);
});

test('undo goes to the server', async () => {
  const page = river([stone('a', 'scale')]);
  fireEvent.click(screen.getByText('Undo'));
  await waitFor(() =>
    expect(page.sent.some((s) => s.path === '/api/crossings/c/handling/undo')).toBe(true),
  );
});

test('an opened stone that is undone leaves no form open behind it', async () => {
  useView.setState({ openStone: 'b' });
  const page = river([stone('a', 'scale'), stone('b', 'scale')]);
  expect(screen.getByLabelText('Factor')).toBeTruthy();
  const undone = handling([stone('a', 'scale')]);
  act(() => page.client.setQueryData(queries.handling('c').queryKey, undone));
  await waitFor(() => expect(useView.getState().openStone).toBeNull());
});

test('the table tells each step in words and opens its stone', async () => {
  const notes = [1, 2, 3, 4, 5].map((n) => ({ where: `part ${n}`, message: 'was left.' }));
  const state = handling([
    stone('a', 'scale', { notes }),
    stone('b', 'ground', { failure: 'Nothing to drop.' }),
  ]);
  const page = shown(
    <HandlingTable id="c" />,
    [
      { queryKey: queries.handling('c').queryKey, data: state },
      { queryKey: queries.stepKinds().queryKey, data: kinds },
      { queryKey: queries.states('c').queryKey, data: [] },
    ],
    { '/api/crossings/c/handling': state },
  );
  expect(screen.getByText('1 of 2 in effect')).toBeTruthy();
  expect(screen.getByText('factor 2 ×')).toBeTruthy();
  expect(screen.getByText('Nothing to drop.').className).toContain('loss');
  expect(screen.getByText('and 2 more: open the row')).toBeTruthy();
  act(() => screen.getByText('Scale').click());
  expect(useView.getState().openStone).toBe('a');
  expect(screen.getAllByText(/was left/)).toHaveLength(5);
  fireEvent.click(screen.getByLabelText('Step 2 in effect'));
  expect((await saved(page)).steps[1]?.enabled).toBe(false);
});
