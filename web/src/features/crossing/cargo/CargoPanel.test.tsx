// @vitest-environment jsdom
import { fireEvent, screen, within } from '@testing-library/react';
import { beforeEach, expect, test } from 'vitest';
import type { PartView, SideView, SurveyView } from '../../../api/client';
import { queries } from '../../../api/queries';
import { shown } from '../../../testing/page';
import { useView } from '../../../view3d/viewState';
import { CargoPanel } from './CargoPanel';

const node = (id: number, name: string, parent: number, more: object = {}) => ({
  id,
  name,
  path: name,
  parent,
  kind: 'mesh',
  mesh: `m${id}`,
  matrix: [],
  pivot: [],
  skin: -1,
  weights: [],
  drawn: true,
  level: -1,
  ...more,
});

const side = {
  heightDoubtful: false,
  metresPerUnit: 0.01,
  bounds: [0, 0, 0, 100, 250, 50],
  nodes: [
    node(1, 'crane', -1, { kind: 'group', mesh: '' }),
    node(2, 'mast', 1),
    node(3, 'hook', 1, { drawn: false }),
    node(4, 'hut', -1),
  ],
  materials: [],
  skins: [],
  clips: [],
  cameras: [{ name: 'eye' }],
  lights: [{ name: '', kind: 'spot' }],
  textures: [],
  looks: ['oak', 'elm'],
  changing: [],
} as unknown as SideView;

const mesh = {
  faces: 12,
  quads: 12,
  larger: 0,
  vertices: 1234,
  pieces: 2,
  closed: true,
  uvSets: 1,
  hasNormals: false,
  materials: 3,
  meanEdge: 4.5,
};

const survey = {
  inventory: {
    triangles: 20000,
    faces: 12,
    quadFaces: 12,
    vertices: 1234,
    pieces: 2,
    materials: 3,
    textures: 4,
    texturesMissing: 1,
    lines: 0,
    points: 0,
    perMesh: [mesh, { ...mesh, faces: 9, quads: 4, larger: 1 }, { ...mesh, faces: 7, quads: 0 }],
  },
  findings: [
    { code: 'a', severity: 'FIX', state: 'open', nodeIds: [2, 3] },
    { code: 'b', severity: 'LOOK', state: 'open', nodeIds: [2] },
    { code: 'c', severity: 'NOTE', state: 'open', nodeIds: [2] },
    { code: 'd', severity: 'FIX', state: 'answered', nodeIds: [2] },
  ],
} as unknown as SurveyView;

const part = {
  translation: [100, 0, -50],
  rotationDegrees: [0, 90, 0],
  quaternion: [0, 0.6, 0, 0.8],
  scale: [1, 1, 2],
  metresPerUnit: 0.01,
  skins: [{ name: 's', joints: 12, mostInfluences: 6, overFour: 40 }],
  morphs: [],
  clips: ['wade', ''],
  notes: { 'Rotation pivot': '1, 2, 3' },
  properties: { age: '7' },
} as unknown as PartView;

beforeEach(() => useView.setState({ selected: [], hidden: [] }));

function panel() {
  return shown(<CargoPanel id="c" ready />, [
    { queryKey: queries.near('c').queryKey, data: side },
    { queryKey: queries.survey('c').queryKey, data: survey },
    { queryKey: queries.part('c', 2).queryKey, data: part },
    { queryKey: queries.part('c', 3).queryKey, data: part },
    { queryKey: queries.part('c', 4).queryKey, data: { ...part, skins: [], clips: [] } },
  ]);
}

const rows = () => screen.getAllByRole('treeitem');
const named = (name: string) =>
  rows().find((r) => r.querySelector('.name')?.textContent === name) as HTMLElement;

test('lists the parts with what is open of each', () => {
  panel();
  expect(screen.getByText('4 parts')).toBeTruthy();
  expect(rows().map((r) => r.querySelector('.name')?.textContent)).toEqual([
    'crane',
    'mast',
    'hook',
    'hut',
  ]);
  // Two open findings; what is only to know and what a step answers do not count.
  expect(within(named('mast')).getByText('2')).toBeTruthy();
  expect(within(named('hook')).getByText('1')).toBeTruthy();
  expect(named('hut').querySelector('b')).toBeNull();
});

test('says what the file hides and what the user hid', () => {
  useView.setState({ hidden: [4] });
  panel();
  expect(within(named('hook')).getByText('hidden in the file')).toBeTruthy();
  expect(within(named('hut')).getByText('hidden')).toBeTruthy();
});

test('finds parts by name and says when there is none', () => {
  panel();
  fireEvent.change(screen.getByLabelText('Find a part'), { target: { value: 'HOO' } });
  expect(rows().map((r) => r.querySelector('.name')?.textContent)).toContain('hook');
  expect(rows().map((r) => r.querySelector('.name')?.textContent)).not.toContain('hut');
  fireEvent.change(screen.getByLabelText('Find a part'), { target: { value: 'anchor' } });
  expect(screen.queryAllByRole('treeitem')).toHaveLength(0);
  expect(screen.getByText(/No part has/)).toBeTruthy();
});

test('a group closes and opens', () => {
  panel();
  fireEvent.click(within(named('crane')).getByLabelText('Close'));
  expect(rows()).toHaveLength(2);
  expect(named('crane').getAttribute('aria-expanded')).toBe('false');
  fireEvent.click(within(named('crane')).getByLabelText('Open'));
  expect(rows()).toHaveLength(4);
});

test('keys go through the rows, close groups and add to the selection', () => {
  panel();
  const tree = screen.getByRole('tree');
  fireEvent.keyDown(tree, { key: 'ArrowDown' });
  expect(useView.getState().selected).toEqual([2]);
  fireEvent.keyDown(tree, { key: 'ArrowDown' });
  fireEvent.keyDown(tree, { key: 'ArrowUp' });
  fireEvent.keyDown(tree, { key: 'ArrowUp' });
  expect(useView.getState().selected).toEqual([1]);
  fireEvent.keyDown(tree, { key: 'ArrowLeft' });
  expect(rows()).toHaveLength(2);
  fireEvent.keyDown(tree, { key: 'ArrowLeft' });
  expect(rows()).toHaveLength(2);
  fireEvent.keyDown(tree, { key: 'ArrowRight' });
  expect(rows()).toHaveLength(4);
  fireEvent.keyDown(tree, { key: ' ' });
  expect(useView.getState().selected).toEqual([]);
  fireEvent.keyDown(tree, { key: 'PageDown' });
  expect(useView.getState().selected).toEqual([4]);
});

test('clicks choose one, more with Ctrl, a run with Shift', () => {
  panel();
  fireEvent.click(named('mast'));
  expect(useView.getState().selected).toEqual([2]);
  fireEvent.click(named('hut'), { ctrlKey: true });
  expect(useView.getState().selected).toEqual([2, 4]);
  fireEvent.click(named('hut'), { ctrlKey: true });
  expect(useView.getState().selected).toEqual([2]);
  fireEvent.click(named('mast'));
  fireEvent.click(named('hut'), { shiftKey: true });
  expect(useView.getState().selected).toEqual([2, 3, 4]);
  expect(screen.getByText('3 parts chosen')).toBeTruthy();
});

const fact = (name: string) =>
  screen.getByText(name).nextElementSibling?.textContent ??
  screen.getByText(name).parentElement?.textContent;

test('without a selection the whole scene is told, in metres', () => {
  panel();
  expect(fact('Size')).toContain('1 × 2.5 × 0.5 m');
  expect(fact('Textures')).toContain('4 · 1 missing');
  expect(fact('Cameras')).toContain('eye');
  expect(fact('Lights')).toContain('(no name), spot');
  expect(fact('Looks')).toContain('oak, elm');
});

test('the faces of a part are told by their corners', () => {
  useView.setState({ selected: [2] });
  panel();
  expect(fact('Faces')).toContain('12 · all quads');
  expect(fact('Normals')).toContain('none');
  expect(fact('Pieces')).toContain('2 · closed');
});

test('mixed faces and triangles too', () => {
  useView.setState({ selected: [3] });
  const page = panel();
  expect(fact('Faces')).toContain('9 · 4 of 3, 4 of 4, 1 larger');
  page.unmount();
  useView.setState({ selected: [4] });
  panel();
  expect(fact('Faces')).toContain('7 · triangles');
});

test('position and rotation come in the unit and form that are wanted', () => {
  useView.setState({ selected: [2] });
  panel();
  expect(fact('Position')).toMatch(/1, 0, .0\.5 m/);
  expect(fact('Rotation')).toContain('0, 90, 0 °');
  fireEvent.change(screen.getByLabelText('Unit of positions'), { target: { value: 'cm' } });
  expect(fact('Position')).toMatch(/100, 0, .50 cm/);
  fireEvent.change(screen.getByLabelText('Form of rotations'), { target: { value: 'quaternion' } });
  expect(fact('Rotation')).toContain('0, 0.6, 0, 0.8');
  expect(fact('Influences')).toContain('up to 6 · 40 vertices over 4');
  expect(fact('Moved by')).toContain('wade, (no name)');
  expect(fact('Rotation pivot')).toContain('1, 2, 3');
  expect(fact('age')).toContain('7');
});
