import { expect, test } from 'vitest';
import type { Step } from '../../api/client';
import { withPivot } from './usePivotPick';

const step = (id: string, kind: string): Step => ({
  id,
  kind,
  params: { to: 'box', snap: 0.1, motion: 'follow' },
  enabled: true,
  nodeIds: [],
  pattern: '',
  ofKind: '',
  parts: [],
  paramParts: {},
});

test('a try for the same parts takes the place of the last, and keeps its other choices', () => {
  const steps = withPivot([step('a', 'ground'), step('b', 'pivot')], [4], [4], { to: 'vertex' });
  expect(steps.map((s) => s.id)).toEqual(['a', 'b']);
  expect(steps[1]?.params).toEqual({ snap: 0.1, motion: 'follow', to: 'vertex' });
});

test('other parts, or another last step, get a step of their own', () => {
  expect(withPivot([step('b', 'pivot')], [4], [5], { to: 'box' })).toHaveLength(2);
  expect(withPivot([step('b', 'pivot')], [4], [4, 5], { to: 'box' })).toHaveLength(2);
  const after = withPivot([step('a', 'ground')], [4], [4], { to: 'box' });
  expect(after[1]).toMatchObject({ kind: 'pivot', nodeIds: [4], enabled: true });
});
