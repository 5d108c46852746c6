import { expect, test } from 'vitest';
import { assetsOf } from './assetsOf';

const file = (path: string) => ({ path, file: new File([], path) });
const found = (...paths: string[]) =>
  assetsOf(paths.map(file), ['obj', 'glb', 'fbx'], ['mdd', 'pc2']).map(
    (a) => `${a.name}: ${a.files.map((f) => f.path).join(' ')}`,
  );

test('scene files, zips and folders are an asset each', () => {
  expect(found('boat.glb', 'crate.ZIP', 'buoy/buoy.obj', 'buoy/buoy.mtl')).toEqual([
    'boat: boat.glb',
    'buoy: buoy.obj buoy.mtl',
    'crate: crate.ZIP',
  ]);
});

test('a folder that is dropped alone is looked into', () => {
  expect(found('yard/boat.glb', 'yard/buoy/buoy.obj')).toEqual([
    'boat: boat.glb',
    'buoy: buoy.obj',
  ]);
});

test('what lies loose beside scene files goes with each of them', () => {
  expect(found('in/a.obj', 'in/b.obj', 'in/dye.mtl', 'in/textures/oak.png')).toEqual([
    'a: a.obj dye.mtl textures/oak.png',
    'b: b.obj dye.mtl textures/oak.png',
  ]);
});

test('a cache goes with the scene of its name, and alone where there is none', () => {
  expect(found('in/sail.obj', 'in/sail.mdd', 'in/lost.pc2')).toEqual([
    'lost: lost.pc2',
    'sail: sail.obj sail.mdd',
  ]);
});

test('what holds no scene is no asset', () => {
  expect(found('note.txt', 'pictures/oak.png')).toEqual([]);
});
