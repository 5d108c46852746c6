// @vitest-environment jsdom
import { fireEvent, screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import type { BenchColumn, BenchRow, BenchSlot, LooseImage } from '../../api/client';
import { queries } from '../../api/queries';
import { shown } from '../../testing/page';
import { BenchGrid } from './BenchGrid';
import { LooseImages } from './LooseImages';
import { SlotEditor } from './SlotEditor';
import { SlotLoss } from './SlotLoss';

const slot = (change: Partial<BenchSlot>): BenchSlot => ({
  image: 'oak_n.png',
  path: 'tex/oak_n.png',
  key: 'k1',
  state: 'file',
  part: '',
  factor: '',
  swatch: '',
  width: 64,
  height: 64,
  bytes: 2000,
  looks: '64 × 64, grey',
  care: '',
  ...change,
});
const columns: BenchColumn[] = [
  { channel: 'BASE_COLOUR', label: 'base colour', space: 'sRGB' },
  { channel: 'NORMAL', label: 'normal', space: 'data' },
];
const row = (name: string, farId: number, far: BenchSlot | null): BenchRow =>
  ({
    name,
    nearId: farId,
    farId,
    shading: 'phong',
    faces: 12,
    nodeIds: [3],
    cells: [
      { channel: 'BASE_COLOUR', near: null, far: null },
      { channel: 'NORMAL', near: null, far },
    ],
  }) as unknown as BenchRow;

const wrong = slot({ care: 'The image is grey: it is no normal map, but may be heights.' });

test('arrows go from cell to cell, Delete takes away, a click opens', () => {
  const choose = vi.fn();
  const take = vi.fn();
  shown(
    <BenchGrid
      id="c"
      columns={columns}
      rows={[row('oak', 1, wrong), row('ash', 2, null)]}
      chosen={null}
      onChoose={choose}
      onTakeAway={take}
    />,
  );
  const first = screen.getByRole('button', { name: 'oak, base colour: nothing' });
  expect(first.tabIndex).toBe(0);
  first.focus();
  fireEvent.keyDown(first, { key: 'ArrowRight' });
  const normal = screen.getByRole('button', { name: /oak, normal: oak_n.png. The image is grey/ });
  expect(document.activeElement).toBe(normal);
  fireEvent.keyDown(normal, { key: 'Delete' });
  expect(take).toHaveBeenCalledWith({ material: 'oak', channel: 'NORMAL' });
  fireEvent.keyDown(normal, { key: 'ArrowDown' });
  expect(document.activeElement).toBe(screen.getByRole('button', { name: 'ash, normal: nothing' }));
  fireEvent.click(normal);
  expect(choose).toHaveBeenCalledWith({ material: 'oak', channel: 'NORMAL' });
});

test('an image is put with the part that is read, taken away, or left as found', () => {
  const put = vi.fn();
  shown(
    <SlotEditor
      id="c"
      revision={1}
      row={row('oak', 1, wrong)}
      column={columns[1] as BenchColumn}
      images={['tex/oak_n.png', 'tex/orm.png']}
      onPut={put}
      onClose={() => {}}
    />,
  );
  expect(screen.getByText(wrong.care)).toBeTruthy();
  fireEvent.change(screen.getByLabelText('Image'), { target: { value: 'tex/orm.png' } });
  fireEvent.change(screen.getByLabelText('What is read'), { target: { value: 'g' } });
  fireEvent.click(screen.getByLabelText('Turn its green: it points down'));
  fireEvent.click(screen.getByText('Put it on'));
  expect(put).toHaveBeenLastCalledWith('tex/orm.png [g, opposite]');
  fireEvent.click(screen.getByText('Take away'));
  expect(put).toHaveBeenLastCalledWith('-');
  fireEvent.click(screen.getByText('As found'));
  expect(put).toHaveBeenLastCalledWith(null);
});

test('two images say by how much they differ, one image on both sides says nothing', () => {
  const near = { ...wrong, key: 'a', part: '', state: 'file' } as BenchSlot;
  const far = { ...near, key: 'b' } as BenchSlot;
  const loss = (decibels: number | null) => [
    { queryKey: queries.imageLoss('c', 'a', 'b').queryKey, data: { decibels } },
  ];
  const page = shown(<SlotLoss id="c" near={near} far={far} />, loss(41.26));
  expect(screen.getByText(/41\.3 dB/)).toBeTruthy();
  expect(screen.getByRole('img').getAttribute('src')).toContain('/b/difference?from=a');
  page.unmount();
  const same = shown(<SlotLoss id="c" near={near} far={far} />, loss(null));
  expect(screen.getByText(/the same pixels/)).toBeTruthy();
  same.unmount();
  shown(<SlotLoss id="c" near={near} far={near} />);
  expect(screen.queryByText('Difference')).toBeNull();
});

test('loose images say where they fit and why, and are put one by one, by material or all', () => {
  const put = vi.fn();
  const all = vi.fn();
  const loose = (image: string, material: string | null): LooseImage =>
    ({
      image,
      width: 8,
      height: 8,
      bytes: 300,
      looks: '8 × 8, colours',
      why: material ? '' : 'neither its name nor its pixels say where it belongs',
      fits: material
        ? [
            {
              material,
              channel: 'BASE_COLOUR',
              label: 'base colour',
              binding: image,
              confidence: 0.976,
              reasons: ['"albedo" in its name'],
            },
          ]
        : [],
    }) as unknown as LooseImage;
  shown(
    <LooseImages
      id="c"
      loose={[loose('a.png', 'oak'), loose('b.png', 'ash'), loose('r.png', null)]}
      onPut={put}
      onPutAll={all}
    />,
  );
  expect(screen.getByText('2 of 3 fit')).toBeTruthy();
  expect(screen.getAllByText('98 %').length).toBe(2);
  expect(screen.getByText(/neither its name/)).toBeTruthy();
  fireEvent.click(screen.getByLabelText('Put b.png on'));
  expect(put).toHaveBeenLastCalledWith([
    { material: 'ash', channel: 'BASE_COLOUR', image: 'b.png' },
  ]);
  fireEvent.click(screen.getByTitle('Put those that fit oak'));
  expect(put).toHaveBeenLastCalledWith([
    { material: 'oak', channel: 'BASE_COLOUR', image: 'a.png' },
  ]);
  fireEvent.click(screen.getByText('Put all that fit'));
  expect(all).toHaveBeenCalled();
});
