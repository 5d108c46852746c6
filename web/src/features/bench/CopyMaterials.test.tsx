// @vitest-environment jsdom
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import type { Crossing, MaterialBench } from '../../api/client';
import { queries } from '../../api/queries';
import { shown } from '../../testing/page';
import { CopyMaterials } from './CopyMaterials';

const crossing = (id: string, name: string, state = 'ready') =>
  ({ id, name, state }) as unknown as Crossing;

test('materials of another crossing are chosen and copied', async () => {
  const copied = {
    job: {},
    file: 'materials of Lantern.glb',
    materials: ['iron'],
    said: [{ code: 'a', where: 'iron', message: 'Translated.' }],
  };
  const page = shown(
    <CopyMaterials id="here" />,
    [
      {
        queryKey: queries.crossings().queryKey,
        data: [
          crossing('here', 'Post'),
          crossing('there', 'Lantern'),
          crossing('late', 'Barge', 'reading'),
        ],
      },
      {
        queryKey: queries.bench('there', 0).queryKey,
        data: { materials: [{ name: 'iron' }, { name: 'glass' }] } as unknown as MaterialBench,
      },
    ],
    { 'POST /api/crossings/here/bench/copies': copied },
  );
  fireEvent.click(screen.getByRole('button', { name: 'Copy materials …' }));
  const from = screen.getByLabelText('From') as HTMLSelectElement;
  // Neither itself nor one that is not read.
  expect([...from.options].map((o) => o.text)).toEqual(['Choose a crossing', 'Lantern']);
  expect((screen.getByRole('button', { name: /^Copy$/ }) as HTMLButtonElement).disabled).toBe(true);
  fireEvent.change(from, { target: { value: 'there' } });
  fireEvent.click(await screen.findByLabelText('glass'));
  fireEvent.click(screen.getByRole('button', { name: 'Copy 1' }));
  await waitFor(() => expect(screen.getByRole('status').textContent).toContain('Translated.'));
  expect(page.sent.find((s) => s.method === 'POST')?.body).toEqual({
    crossing: 'there',
    materials: ['iron'],
  });
  expect((screen.getByRole('button', { name: 'Copy 1' }) as HTMLButtonElement).disabled).toBe(true);
});
