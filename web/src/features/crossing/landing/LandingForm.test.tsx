// @vitest-environment jsdom
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import type { FormatView, LandingOptions, LandingView, Shore } from '../../../api/client';
import { queries } from '../../../api/queries';
import { shown } from '../../../testing/page';
import { LandingForm } from './LandingForm';

const flag = (name: string, label: string, standard: boolean) => ({
  name,
  label,
  type: 'flag',
  unit: '',
  min: null,
  max: null,
  options: [],
  standard,
  help: `${label}.`,
  group: 'Inside',
  when: '',
});

const formats = [
  {
    key: 'glb',
    name: 'GLB',
    label: 'GLB, one file',
    writes: true,
    holdsPlaces: true,
    frames: 'metres, Y up',
    fields: [flag('embedTextures', 'Textures inside', true), flag('quantize', 'Small', false)],
  },
  {
    key: 'stl',
    name: 'STL',
    label: 'STL',
    writes: true,
    holdsPlaces: false,
    frames: 'nothing',
    fields: [flag('text', 'As text', false)],
  },
  { key: 'collada', name: 'COLLADA', label: 'COLLADA', writes: false, fields: [], frames: '' },
] as unknown as FormatView[];

const shore = { id: 'yard', name: 'The yard', note: '', formats: ['glb'] } as unknown as Shore;

const standard = (format: string, options: object) =>
  ({
    format,
    options,
    transforms: 'DATA',
    doubleSided: false,
    fileName: null,
    parts: {
      each: false,
      pattern: '{asset}_{part}',
      origin: 'PIVOT',
      clips: false,
      rest: 'NONE',
    },
    contents: { only: '', without: [] },
  }) as unknown as LandingOptions;

const landing = (id: string, more: object = {}) =>
  ({
    id,
    state: 'done',
    options: standard('glb', {}),
    mainFile: 'crate.glb',
    files: [{ path: 'crate.glb', size: 2048 }],
    proof: { file: 'crate.glb', kept: 30, changed: 2, lost: 1, rows: [] },
    problem: null,
    current: true,
    createdAt: '2026-01-01T12:00:00Z',
    ...more,
  }) as unknown as LandingView;

async function form(landings: LandingView[] = []) {
  const page = shown(
    <LandingForm id="c" />,
    [
      { queryKey: queries.landings('c').queryKey, data: landings },
      { queryKey: queries.crossing('c').queryKey, data: { state: 'ready', farShore: 'yard' } },
      { queryKey: queries.survey('c').queryKey, data: { farShore: 'yard', findings: [] } },
      { queryKey: queries.shores().queryKey, data: [{ shore, builtIn: true }] },
      { queryKey: queries.formats().queryKey, data: formats },
      { queryKey: queries.jobs().queryKey, data: [] },
      {
        queryKey: queries.handling('c').queryKey,
        data: { revision: 1, steps: [], canUndo: false, canRedo: false },
      },
    ],
    {
      '/api/shores/yard/landing?format=glb': standard('glb', {
        embedTextures: true,
        quantize: false,
      }),
      '/api/shores/yard/landing?format=stl': standard('stl', { text: false }),
      '/api/crossings/c/forecast': {
        items: [],
        cost: { caches: 0, bytes: 0, bytesPerSecond: 0, forms: [] },
      },
      'POST /api/crossings/c/landings': landing('n'),
      'GET /api/crossings/c/landings': landings,
      '/api/landings/a': {},
    },
  );
  await waitFor(() => expect(screen.getByText('Land as GLB')).toBeTruthy());
  await waitFor(() => expect(screen.getByLabelText('Textures inside')).toBeTruthy());
  return page;
}

const posted = async (page: ReturnType<typeof shown>) => {
  const wanted = (s: { method: string; path: string }) =>
    s.method === 'POST' && s.path === '/api/crossings/c/landings';
  await waitFor(() => expect(page.sent.some(wanted)).toBe(true));
  return page.sent.find(wanted)?.body as LandingOptions;
};

test('offers the formats that are written, the shore’s first one chosen', async () => {
  await form();
  expect(screen.getByLabelText<HTMLInputElement>('GLB, one file').checked).toBe(true);
  expect(screen.queryByLabelText('COLLADA')).toBeNull();
  expect(screen.getByText('Unit and axes in GLB: metres, Y up.')).toBeTruthy();
});

test('lands with what was chosen and nothing else', async () => {
  const page = await form();
  fireEvent.click(screen.getByLabelText('Small'));
  fireEvent.change(screen.getByLabelText('Name of the files'), { target: { value: 'box' } });
  fireEvent.click(screen.getByLabelText('On one root part: numbers stay'));
  fireEvent.click(screen.getByLabelText('Show both sides'));
  fireEvent.click(screen.getByLabelText('Cameras'));
  fireEvent.change(screen.getByLabelText('Only parts named'), { target: { value: 'crate*' } });
  fireEvent.click(screen.getByText('Land as GLB'));
  expect(await posted(page)).toMatchObject({
    format: 'glb',
    options: { embedTextures: true, quantize: true },
    transforms: 'ROOT',
    doubleSided: true,
    fileName: 'box',
    contents: { only: 'crate*', without: ['CAMERAS'] },
  });
});

test('several formats land at once, each as the shore asks', async () => {
  const page = await form();
  fireEvent.change(screen.getByLabelText('Name of the files'), { target: { value: 'box' } });
  const further = screen.getByLabelText<HTMLSelectElement>('Further formats');
  for (const option of further.options) {
    option.selected = option.value === 'stl';
  }
  fireEvent.change(further);
  fireEvent.click(screen.getByText('Land as GLB and 1 more'));
  const wanted = () =>
    page.sent.filter((s) => s.method === 'POST' && s.path === '/api/crossings/c/landings');
  await waitFor(() => expect(wanted()).toHaveLength(2));
  expect(wanted().map((s) => s.body)).toMatchObject([
    { format: 'glb', fileName: 'box' },
    { format: 'stl', fileName: 'box', options: { text: false } },
  ]);
});

test('another format brings its own choices and keeps the common ones', async () => {
  const page = await form();
  fireEvent.change(screen.getByLabelText('Name of the files'), { target: { value: 'box' } });
  fireEvent.click(screen.getByLabelText('STL'));
  await waitFor(() => expect(screen.getByLabelText('As text')).toBeTruthy());
  expect(screen.queryByLabelText('Textures inside')).toBeNull();
  // A format without places of parts has no root to carry a change of frame.
  expect(screen.queryByLabelText('On one root part: numbers stay')).toBeNull();
  fireEvent.click(screen.getByText('Land as STL'));
  expect(await posted(page)).toMatchObject({ format: 'stl', fileName: 'box' });
});

test('each part in its own file asks for names and the origin', async () => {
  const page = await form();
  expect(screen.queryByLabelText('Names of the files')).toBeNull();
  fireEvent.click(screen.getByLabelText('Each part in a file of its own'));
  fireEvent.change(screen.getByLabelText('Names of the files'), {
    target: { value: '{number}-{part}' },
  });
  fireEvent.change(screen.getByLabelText('On the origin'), { target: { value: 'BASE' } });
  fireEvent.click(screen.getByText('Land as GLB'));
  expect((await posted(page)).parts).toEqual({
    each: true,
    pattern: '{number}-{part}',
    origin: 'BASE',
    clips: false,
    rest: 'NONE',
  });
});

test('each clip in its own file asks where the rest pose stands', async () => {
  const page = await form();
  fireEvent.click(screen.getByLabelText('Each clip in a file of its own'));
  fireEvent.change(screen.getByLabelText('Rest pose'), { target: { value: 'FRAME' } });
  fireEvent.click(screen.getByText('Land as GLB'));
  expect((await posted(page)).parts).toMatchObject({
    each: false,
    clips: true,
    pattern: '{asset}_{clip}',
    rest: 'FRAME',
  });
});

test('past landings tell what was kept and can be got', async () => {
  await form([
    landing('a', { current: false }),
    landing('b', { files: [{ size: 1 }, { size: 2 }], mainFile: 'a.gltf' }),
    landing('d', { state: 'failed', problem: 'The disk is full.', proof: null, files: [] }),
  ]);
  expect(screen.getAllByText('30 kept')).toHaveLength(2);
  expect(screen.getAllByText(/before later steps/)).toHaveLength(1);
  expect(screen.getByText<HTMLAnchorElement>('zip of 2 files').href).toContain(
    '/api/landings/b/download',
  );
  expect(screen.getByText(/The disk is full\./)).toBeTruthy();
  expect(screen.getByText('2.05 kB')).toBeTruthy();
});

test('deleting asks twice', async () => {
  const page = await form([landing('a')]);
  fireEvent.click(screen.getByLabelText('Delete the landing crate.glb'));
  expect(page.sent.some((s) => s.method === 'DELETE')).toBe(false);
  fireEvent.blur(screen.getByLabelText('Delete the landing crate.glb for good'));
  fireEvent.click(screen.getByLabelText('Delete the landing crate.glb'));
  fireEvent.click(screen.getByLabelText('Delete the landing crate.glb for good'));
  await waitFor(() =>
    expect(page.sent.some((s) => s.method === 'DELETE' && s.path === '/api/landings/a')).toBe(true),
  );
});

test('while one is landing another cannot begin', async () => {
  const page = shown(<LandingForm id="c" />, [
    {
      queryKey: queries.landings('c').queryKey,
      data: [landing('a', { state: 'running', proof: null })],
    },
    { queryKey: queries.crossing('c').queryKey, data: { state: 'ready', farShore: 'yard' } },
    { queryKey: queries.survey('c').queryKey, data: { farShore: 'yard', findings: [] } },
    { queryKey: queries.shores().queryKey, data: [{ shore, builtIn: true }] },
    { queryKey: queries.formats().queryKey, data: formats },
    { queryKey: queries.jobs().queryKey, data: [] },
  ]);
  expect(screen.getByText<HTMLButtonElement>('Landing …').disabled).toBe(true);
  page.unmount();
});
