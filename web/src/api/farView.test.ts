import { expect, test, vi } from 'vitest';
import type { FarChanges, SideView } from './client';
import { farView, merged } from './farView';

const view = (caption: string, ...names: string[]) =>
  ({
    caption,
    nodes: names.map((name) => ({ id: name.charCodeAt(0), name })),
  }) as unknown as SideView;
const names = (side: SideView) => side.nodes.map((n) => n.name);

test('parts that did not come are as they were, in the order that came', () => {
  const before = view('one', 'a', 'b', 'c');
  const came = (base: string | null, order: number[] | null, ...some: string[]) =>
    ({ key: 'k', base, order, view: view('two', ...some) }) as FarChanges;
  expect(names(merged(before, came('x', null, 'b2')))).toEqual(['a', 'b2', 'c']);
  expect(merged(before, came('x', null)).caption).toBe('two');
  expect(names(merged(before, came('x', [100, 99, 97], 'd')))).toEqual(['d', 'c', 'a']);
  expect(names(merged(before, came(null, null, 'z')))).toEqual(['z']);
  expect(names(merged(undefined, came('x', null, 'z')))).toEqual(['z']);
});

test('the page says which far side it has', async () => {
  const asked: string[] = [];
  const answers: FarChanges[] = [
    { key: 'k1', base: null, order: null, view: view('one', 'a', 'b') },
    { key: 'k2', base: 'k1', order: null, view: view('two', 'b2') },
    { key: 'k3', base: null, order: null, view: view('three', 'c') },
  ];
  vi.stubGlobal('fetch', (path: string) => {
    asked.push(path);
    return Promise.resolve(new Response(JSON.stringify(answers[asked.length - 1])));
  });
  expect(names(await farView('c', null))).toEqual(['a', 'b']);
  expect(names(await farView('c', 2))).toEqual(['a', 'b2']);
  expect(names(await farView('c', null))).toEqual(['c']);
  expect(asked.map((path) => path.split('?')[1])).toEqual(['', 'after=2&known=k1', 'known=k2']);
  vi.unstubAllGlobals();
});
