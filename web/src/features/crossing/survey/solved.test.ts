import { describe, expect, it } from 'vitest';
import type { FindingView, HandlingState } from '../../../api/client';
import { isSolved, openCount } from './solved';

const finding = {
  index: 0,
  code: 'unit-likely',
  severity: 'FIX',
  offers: [{ label: '', action: 'step', kind: 'sourceUnit', params: {} }],
} as unknown as FindingView;

const handling = (enabled: boolean, failure: string | null) =>
  ({
    steps: [{ step: { kind: 'sourceUnit', enabled }, figure: '', failure }],
  }) as unknown as HandlingState;

describe('findings and steps', () => {
  it('is answered by a step in effect', () => {
    expect(isSolved(finding, handling(true, null))).toBe(true);
    expect(openCount([finding], handling(true, null), 'FIX')).toBe(0);
  });
  it('is open when the step is off, failed or not there', () => {
    expect(isSolved(finding, handling(false, null))).toBe(false);
    expect(isSolved(finding, handling(true, 'no'))).toBe(false);
    expect(openCount([finding], undefined, 'FIX')).toBe(1);
    expect(openCount([finding], undefined, 'LOOK')).toBe(0);
  });
});
