import { expect, test } from 'vitest';
import { withTaken } from './taken';

test('what is said of a file goes before other rules, and away where they say it', () => {
  const first = withTaken('*.fbx=motion', 'walk.fbx', 'nothing');
  expect(first).toBe('walk.fbx=nothing;*.fbx=motion');
  expect(withTaken(first, 'walk.fbx', 'motion')).toBe('*.fbx=motion');
  expect(withTaken('*/rest.?lb=cameras', 'set/rest.glb', 'cameras')).toBe('*/rest.?lb=cameras');
  expect(withTaken('walk_?.fbx=motion', 'anim/walk_10.fbx', 'motion')).toBe(
    'anim/walk_10.fbx=motion;walk_?.fbx=motion',
  );
  expect(withTaken('a.b=nothing', 'axb', 'nothing')).toBe('axb=nothing;a.b=nothing');
});

test('a semicolon in a name is any one character, and all can be said of a file', () => {
  expect(withTaken('', 'a;b.glb', 'lights')).toBe('a?b.glb=lights');
  expect(withTaken('a?b.glb=lights', 'a;b.glb', 'all')).toBe('a?b.glb=all');
  expect(withTaken('', 'lantern_high.obj', 'all')).toBe('lantern_high.obj=all');
});
