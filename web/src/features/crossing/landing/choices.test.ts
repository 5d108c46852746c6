import { describe, expect, it } from 'vitest';
import type { FormatView, LandingOptions } from '../../../api/client';
import { untouchedBy, withChoices } from './choices';

const standard = {
  format: 'b',
  options: { unit: 'm', inside: true },
  transforms: 'ROOT',
  doubleSided: false,
  fileName: null,
  parts: { each: false },
  skinMove: 2,
} as unknown as LandingOptions;
const format = { key: 'b', fields: [{ name: 'unit' }, { name: 'inside' }] } as FormatView;

describe('choices of a landing', () => {
  it('take the standard of the shore and keep what is not of the format', () => {
    const before = { ...standard, transforms: 'DATA', fileName: 'winch', doubleSided: true };
    const o = withChoices(standard, format, before as LandingOptions, {});
    expect(o).toMatchObject({ transforms: 'ROOT', fileName: 'winch', doubleSided: true });
    expect(o.options).toEqual({ unit: 'm', inside: true });
  });
  it('keep touched options that the other format has too, and no others', () => {
    const o = withChoices(standard, format, undefined, { inside: false, packed: true });
    expect(o.options).toEqual({ unit: 'm', inside: false });
  });
  it('give way to a shore that asks for something else', () => {
    const earlier = { ...standard, options: { unit: 'cm', inside: true } } as LandingOptions;
    expect(untouchedBy(standard, earlier, { unit: 'ft', inside: false })).toEqual({
      inside: false,
    });
    expect(untouchedBy(standard, undefined, { unit: 'ft' })).toEqual({ unit: 'ft' });
  });
});
