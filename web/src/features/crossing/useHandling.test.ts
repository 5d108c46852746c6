import { describe, expect, it } from 'vitest';
import type { Offer, Step } from '../../api/client';
import { withOffer } from './useHandling';

const step = (kind: string, params = {}): Step =>
  ({ id: kind, kind, params, enabled: true, nodeIds: [] }) as unknown as Step;
const offer = (kind: string, params = {}): Offer =>
  ({ label: '', action: 'step', kind, params }) as unknown as Offer;

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
  it('adds other steps at the end', () => {
    const steps = withOffer([step('sourceUp')], offer('ground'));
    expect(steps.map((s) => s.kind)).toEqual(['sourceUp', 'ground']);
  });
});
