// @vitest-environment jsdom
import { screen } from '@testing-library/react';
import { expect, test } from 'vitest';
import type { BenchRow } from '../../api/client';
import { queries } from '../../api/queries';
import { shown } from '../../testing/page';
import { RowLoss } from './RowLoss';

const row = (nearId: number): BenchRow =>
  ({ name: 'oak & tar', nearId, farId: 2 }) as unknown as BenchRow;

test('says how far what a material reflects is off, and shows where', () => {
  shown(<RowLoss id="c" revision={4} row={row(1)} />, [
    {
      queryKey: queries.reflectionLoss('c', 4, 'oak & tar').queryKey,
      data: { mean: 0.01603, most: 0.0668 },
    },
  ]);
  expect(screen.getByText(/1.60.% off in the mean, 6.68.% at most/)).toBeTruthy();
  const picture = screen.getByAltText(/eight times as strong/) as HTMLImageElement;
  expect(picture.src).toContain('material=oak%20%26%20tar');
  expect(picture.style.width).toBe('104px');
});

test('says nothing where both sides reflect alike, or one has no such material', () => {
  shown(<RowLoss id="c" revision={4} row={row(1)} />, [
    {
      queryKey: queries.reflectionLoss('c', 4, 'oak & tar').queryKey,
      data: { mean: 0, most: 0 },
    },
  ]);
  expect(screen.queryByText('Reflection')).toBeNull();
  shown(<RowLoss id="c" revision={4} row={row(-1)} />);
  expect(screen.queryByText('Reflection')).toBeNull();
});
