import { expect, test } from 'vitest';
import { payloadText, variantsOf, variantText } from './variantText';

test('what is written is read again', () => {
  const variants = { '/Yard/mast': { lamps: 'lit', rig: 'full' }, '/Yard': { season: '' } };
  expect(variantsOf(variantText(variants))).toEqual(variants);
  expect(variantText({})).toBe('');
  expect(variantsOf('nonsense')).toEqual({});
});

test('a payload that is switched leaves the others as they are', () => {
  const payloads = [
    { prim: '/Yard/a', loaded: true },
    { prim: '/Yard/b', loaded: true },
    { prim: '/Yard/b', loaded: true },
  ];
  expect(payloadText(payloads, '/Yard/a', false)).toBe('/Yard/b');
  expect(payloadText(payloads, '/Yard/a', true)).toBe('all');
  expect(payloadText([{ prim: '/Yard/a', loaded: true }], '/Yard/a', false)).toBe('none');
});
