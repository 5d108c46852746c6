import { describe, expect, it } from 'vitest';
import { nameOf } from './upload';

const named = (path: string) => ({ path, file: new File([], 'x') });

describe('nameOf', () => {
  it('takes the file name without its ending', () => {
    expect(nameOf([named('rope_ring.obj')])).toBe('Rope ring');
  });
  it('takes the folder that was dropped', () => {
    expect(nameOf([named('weir-gate/maps/oak.png')])).toBe('Weir gate');
  });
  it('has a name for everything', () => {
    expect(nameOf([])).toBe('Crossing');
    expect(nameOf([named('.obj')])).toBe('Crossing');
  });
});
