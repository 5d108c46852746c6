import { describe, expect, it } from 'vitest';
import type { FindingView } from '../../../api/client';
import { rowsOf } from './bundles';

const finding = (index: number, bundle: string, state = 'open') =>
  ({ index, bundle, state }) as FindingView;
const sizes = (findings: FindingView[]) => rowsOf(findings).map((r) => r.findings.length);

describe('findings of one kind and cause', () => {
  it('are one row from three on, where the first stands', () => {
    const list = [finding(0, 'a'), finding(1, 'b'), finding(2, 'a'), finding(3, 'a')];
    expect(sizes(list)).toEqual([3, 1]);
    expect(sizes(list.slice(0, 3))).toEqual([1, 1, 1]);
  });
  it('stay apart when steps answered some of them', () => {
    const list = [0, 1, 2].map((i) => finding(i, 'a'));
    const answered = [3, 4].map((i) => finding(i, 'a', 'answered'));
    expect(sizes([...list, ...answered])).toEqual([3, 1, 1]);
  });
});
