import { describe, expect, it } from 'vitest';
import type { FindingView } from '../../../api/client';
import { isSafe, isSolved, openCount } from './solved';

const finding = (severity: string, state: string) =>
  ({ severity, state, offers: [] }) as unknown as FindingView;

describe('findings of both sides', () => {
  it('is solved when the far side has it no more', () => {
    expect(isSolved(finding('FIX', 'answered'))).toBe(true);
    expect(isSolved(finding('FIX', 'open'))).toBe(false);
  });
  it('is safe when its first offer need not be accepted by itself', () => {
    const offering = (...asks: boolean[]) =>
      ({ ...finding('FIX', 'open'), offers: asks.map((a) => ({ asks: a })) }) as FindingView;
    expect(isSafe(offering(false, true))).toBe(true);
    expect(isSafe(offering(true, false))).toBe(false);
    expect(isSafe(offering())).toBe(false);
  });
  it('counts what is open and what steps brought about', () => {
    const all = [finding('FIX', 'open'), finding('FIX', 'arisen'), finding('FIX', 'answered')];
    expect(openCount(all, 'FIX')).toBe(2);
    expect(openCount(all, 'LOOK')).toBe(0);
  });
});
