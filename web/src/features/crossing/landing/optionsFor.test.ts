import { describe, expect, it } from 'vitest';
import type { LandingOptions, Shore } from '../../../api/client';
import { optionsFor } from './optionsFor';

const now = {
  format: 'glb',
  embedTextures: true,
  transforms: 'DATA',
  influences: 4,
  packing: { quantized: true, largestTexture: 0 },
  fbx: { form: 'TEXT', metresPerUnit: 0.01, up: 'PLUS_Y' },
} as unknown as LandingOptions;
const shore = {
  formats: ['fbx'],
  frame: { metresPerUnit: 1, up: 'PLUS_Z', front: 'MINUS_Y', handedness: 'LEFT' },
  wishes: { triangulate: true, embedTextures: false, onRoot: true },
  budgets: { influences: 6, textureSize: 2048, skinMove: 2 },
} as unknown as Shore;

describe('options for a shore', () => {
  it('takes format, frame, wishes and limits of the shore', () => {
    const o = optionsFor(shore, now);
    expect(o).toMatchObject({ format: 'fbx', embedTextures: false, transforms: 'ROOT' });
    expect(o.influences).toBe(8);
    expect(o.skinMove).toBe(2);
    expect(o.packing.largestTexture).toBe(2048);
    expect(o.fbx).toMatchObject({
      up: 'PLUS_Z',
      hand: 'LEFT',
      triangulate: true,
      metresPerUnit: 1,
    });
  });
  it('keeps what the shore does not speak of', () => {
    const o = optionsFor(shore, now);
    expect(o.packing.quantized).toBe(true);
    expect(o.fbx.form).toBe('TEXT');
  });
});
