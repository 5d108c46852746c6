import { describe, expect, it } from 'vitest';
import type { SideView } from '../../api/client';
import { linkOfPart, partOfLink } from './partLinks';

const nodes = ['deck', 'deck/lamp', 'deck/lamp', 'deck/rail~2'].map((path, i) => ({
  id: 10 + i,
  path,
})) as SideView['nodes'];

describe('links to parts', () => {
  it('name a part by its path', () => {
    expect(linkOfPart(nodes, 10)).toBe('deck');
    expect(partOfLink(nodes, 'deck')).toBe(10);
  });

  it('tell parts of one path by their order', () => {
    expect(linkOfPart(nodes, 12)).toBe('deck/lamp~2');
    expect(partOfLink(nodes, 'deck/lamp~2')).toBe(12);
    expect(partOfLink(nodes, 'deck/lamp')).toBeUndefined();
  });

  it('take a name with the mark for what it is', () => {
    expect(partOfLink(nodes, linkOfPart(nodes, 13) ?? '')).toBe(13);
  });

  it('find nothing that is not there', () => {
    expect(partOfLink(nodes, 'gone')).toBeUndefined();
    expect(partOfLink(nodes, 'deck/lamp~7')).toBeUndefined();
    expect(linkOfPart(nodes, 99)).toBeNull();
  });
});
