import { describe, expect, it } from 'vitest';
import type { Offer, Step } from '../../api/client';
import { withOffer } from './useHandling';

const step = (kind: string, params = {}): Step =>
  ({
    id: kind,
    kind,
    params,
    enabled: true,
    nodeIds: [],
    pattern: '',
    ofKind: '',
    parts: [],
    paramParts: {},
  }) as Step;
const offer = (kind: string, params = {}, nodeIds: number[] = []): Offer => ({
  label: '',
  action: 'step',
  kind,
  params,
  nodeIds,
  asks: false,
  first: [],
});

describe('withOffer', () => {
  it('puts the meaning of numbers before what is done with them', () => {
    const steps = withOffer([step('ground')], offer('sourceUnit', { unit: 'cm' }));
    expect(steps.map((s) => s.kind)).toEqual(['sourceUnit', 'ground']);
  });
  it('sets a step that is there and switches it on', () => {
    const off = { ...step('sourceUnit', { unit: 'm' }), enabled: false };
    const steps = withOffer([off], offer('sourceUnit', { unit: 'cm' }));
    expect(steps).toHaveLength(1);
    expect(steps[0]).toMatchObject({ enabled: true, params: { unit: 'cm' } });
  });
  it('widens a step that does the same to more parts', () => {
    const weld = { ...step('weld', { distance: 1 }), nodeIds: [4] };
    const steps = withOffer([weld], offer('weld', { distance: 1 }, [4, 9]));
    expect(steps).toHaveLength(1);
    expect(steps[0]?.nodeIds).toEqual([4, 9]);
    const named = {
      ...step('weld', { distance: 1 }),
      parts: [{ path: 'post', ordinal: 1, count: 1, made: false }],
    };
    const wider = withOffer([named], offer('weld', { distance: 1 }, [9]));
    expect(wider[0]?.parts).toHaveLength(1);
    expect(wider[0]?.nodeIds).toEqual([9]);
    expect(withOffer([weld], offer('weld', { distance: 2 }, [9]))).toHaveLength(2);
  });
  it('adds other steps at the end', () => {
    const steps = withOffer([step('sourceUp')], offer('ground'));
    expect(steps.map((s) => s.kind)).toEqual(['sourceUp', 'ground']);
  });
});
