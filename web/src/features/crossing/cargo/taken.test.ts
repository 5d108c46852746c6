import { expect, test } from 'vitest';
import { takenOf, withTaken } from './taken';

test('the first rule that fits a path or a name counts, else all is taken', () => {
  const text = 'anim/walk_?.fbx=motion; *.GLB=cameras;rest.glb=nothing';
  expect(takenOf(text, 'anim/walk_1.fbx')).toBe('motion');
  expect(takenOf(text, 'set/rest.glb')).toBe('cameras');
  expect(takenOf(text, 'anim/walk_10.fbx')).toBe('all');
  expect(takenOf('a.b=nothing', 'axb')).toBe('all');
});

test('what is said of a file goes before other rules, and away with all of it', () => {
  const first = withTaken('*.fbx=motion', 'walk.fbx', 'nothing');
  expect(first).toBe('walk.fbx=nothing;*.fbx=motion');
  expect(withTaken(first, 'walk.fbx', 'motion')).toBe('*.fbx=motion');
  expect(withTaken('', 'a;b.glb', 'lights')).toBe('a?b.glb=lights');
  expect(takenOf('a?b.glb=lights', 'a;b.glb')).toBe('lights');
  expect(withTaken('x.glb=motion', 'x.glb', 'all')).toBe('');
});
