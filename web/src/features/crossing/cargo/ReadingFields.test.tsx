// @vitest-environment jsdom
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import type { CargoView } from '../../../api/client';
import { shown } from '../../../testing/page';
import { ReadingFields } from './ReadingFields';

const cargo = (fields: unknown[], options: Record<string, unknown> = {}) =>
  ({ files: [], references: [], fields, options }) as unknown as CargoView;

const parts = {
  name: 'partsFrom',
  label: 'What of an OBJ becomes a part',
  type: 'choice',
  unit: '',
  min: null,
  max: null,
  options: [
    { value: 'objects', label: 'Its objects' },
    { value: 'groups', label: 'Its groups' },
  ],
  standard: 'objects',
  help: 'Groups are kept as sets of faces.',
  group: '',
  when: '',
};

const scene = {
  ...parts,
  name: 'scene',
  label: 'Which scene of the file',
  type: 'number',
  options: [],
  min: 0,
  max: 100,
  standard: 0,
};

test('a cargo without choices shows nothing', () => {
  shown(<ReadingFields id="c" cargo={cargo([])} disabled={false} />);
  expect(screen.queryByText('How it is read')).toBeNull();
});

test('shows what was chosen, else the standard', () => {
  shown(<ReadingFields id="c" cargo={cargo([parts])} disabled={false} />);
  expect(screen.getByLabelText<HTMLSelectElement>(parts.label).value).toBe('objects');
  shown(<ReadingFields id="d" cargo={cargo([parts], { partsFrom: 'groups' })} disabled={false} />);
  expect(screen.getAllByLabelText<HTMLSelectElement>(parts.label)[1]?.value).toBe('groups');
});

test('a choice is sent by its name and nothing else with it', async () => {
  const page = shown(<ReadingFields id="c" cargo={cargo([parts, scene])} disabled={false} />);
  fireEvent.change(screen.getByLabelText(parts.label), { target: { value: 'groups' } });
  await waitFor(() => expect(page.sent).toHaveLength(1));
  expect(page.sent[0]).toEqual({
    method: 'PUT',
    path: '/api/crossings/c/reading',
    body: { partsFrom: 'groups' },
  });
});

test('a number is sent when it is finished, not at each key', async () => {
  const page = shown(<ReadingFields id="c" cargo={cargo([scene])} disabled={false} />);
  const box = screen.getByLabelText(scene.label);
  fireEvent.change(box, { target: { value: '2' } });
  expect(page.sent).toHaveLength(0);
  fireEvent.blur(box);
  await waitFor(() => expect(page.sent).toHaveLength(1));
  expect(page.sent[0]?.body).toEqual({ scene: 2 });
});

test('a number out of its range is not sent and says why', () => {
  const page = shown(<ReadingFields id="c" cargo={cargo([scene])} disabled={false} />);
  const box = screen.getByLabelText(scene.label);
  fireEvent.change(box, { target: { value: '-3' } });
  fireEvent.blur(box);
  expect(page.sent).toHaveLength(0);
  expect(screen.getByText('0 to 100')).toBeTruthy();
});

test('nothing can be chosen while the cargo is read', () => {
  shown(<ReadingFields id="c" cargo={cargo([parts])} disabled={true} />);
  expect(screen.getByRole<HTMLFieldSetElement>('group').disabled).toBe(true);
});
