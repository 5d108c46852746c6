import {
  BufferAttribute,
  BufferGeometry,
  InstancedMesh,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
} from 'three';
import { describe, expect, it } from 'vitest';
import type { SideView } from '../api/client';
import type { Motion } from './data/motionBlock';
import { Stage } from './Stage';

const matrix = (x: number) => new Matrix4().makeTranslation(x, 0, 0).toArray();

const node = (id: number, x: number, more: object = {}) => ({
  id,
  name: `n${id}`,
  path: `n${id}`,
  parent: -1,
  kind: 'mesh',
  mesh: 'm',
  matrix: matrix(x),
  pivot: [],
  skin: -1,
  weights: [],
  drawn: true,
  level: -1,
  ...more,
});

const side = (more: object = {}) =>
  ({
    nodes: [node(1, 0), node(2, 10), node(3, 20, { weights: [0.5] })],
    skins: [],
    ...more,
  }) as unknown as SideView;

/** Two frames, a second apart: node 1 goes from 0 to 4, node 2 goes away, node 3 swells. */
const motion = (): Motion => ({
  start: 0,
  end: 1,
  framesPerSecond: 1,
  frames: 2,
  loaded: 2,
  nodes: [1],
  morphs: [{ node: 3, count: 1 }],
  matrices: Float32Array.from([
    ...[1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0],
    ...[1, 0, 0, 0, 1, 0, 0, 0, 1, 4, 0, 0],
  ]),
  weights: Float32Array.from([0, 1]),
  shown: [2],
  seen: Float32Array.from([1, 0]),
  points: [],
  pointBlock: 0,
  positions: new Float32Array(),
});

function mesh(morphs = 0) {
  const geometry = new BufferGeometry();
  const triangle = new BufferAttribute(new Float32Array(9), 3);
  geometry.setAttribute('position', triangle);
  geometry.morphAttributes = morphs > 0 ? { position: [triangle.clone()] } : {};
  const made = new Mesh(geometry, new MeshBasicMaterial());
  made.updateMorphTargets();
  made.matrixAutoUpdate = false;
  return made;
}

describe('the stage', () => {
  it('places what shows a node, at rest and in motion', () => {
    const stage = new Stage(side());
    const one = mesh();
    const two = mesh();
    stage.add(1, one);
    stage.add(2, two);
    expect(one.matrix.elements[12]).toBe(0);
    expect(two.matrix.elements[12]).toBe(10);
    stage.pose(motion(), 0.5);
    expect(one.matrix.elements[12]).toBeCloseTo(2);
    expect(two.matrix.elements[12]).toBe(10);
    stage.pose(null, 0);
    expect(one.matrix.elements[12]).toBe(0);
  });

  it('moves points in one view and leaves the other what both share', () => {
    const near = new Stage(side());
    const far = new Stage(side());
    const here = mesh();
    const there = new Mesh(here.geometry, new MeshBasicMaterial());
    const shared = here.geometry;
    near.add(1, here);
    far.add(1, there);
    const wind = (y: number): Motion => ({
      ...motion(),
      points: [{ nodes: [1], count: 3 }],
      positions: Float32Array.from([...new Array(9).fill(0), ...new Array(9).fill(y)]),
    });
    near.pose(wind(4), 1);
    far.pose(wind(8), 0.5);
    const at = (m: Mesh) => m.geometry.getAttribute('position').getY(2);
    expect([at(here), at(there)]).toEqual([4, 4]);
    far.pose(wind(8), 1);
    expect([at(here), at(there)]).toEqual([4, 8]);
    expect(shared.getAttribute('position').getY(2)).toBe(0);
    near.pose(null, 0);
    expect(here.geometry).toBe(shared);
    expect(at(there)).toBe(8);
    far.dispose();
    expect(there.geometry).toBe(shared);
  });

  it('lets parts go and come with the clip', () => {
    const stage = new Stage(side());
    const two = mesh();
    stage.add(2, two);
    stage.pose(motion(), 0.5);
    expect(two.visible).toBe(true);
    stage.pose(motion(), 1);
    expect(two.visible).toBe(false);
    stage.choose('bind');
    expect(two.visible).toBe(true);
    stage.choose('clip');
    expect(two.visible).toBe(false);
    stage.pose(null, 0);
    expect(two.visible).toBe(true);
  });

  it('shrinks one of many to nothing while it is away', () => {
    const stage = new Stage(side());
    const many = new InstancedMesh(new BufferGeometry(), new MeshBasicMaterial(), 2);
    stage.addMany([1, 2], many);
    const at = new Matrix4();
    stage.pose(motion(), 1);
    many.getMatrixAt(0, at);
    expect(at.elements[12]).toBe(4);
    many.getMatrixAt(1, at);
    expect(at.determinant()).toBe(0);
    stage.pose(motion(), 0);
    many.getMatrixAt(1, at);
    expect(at.elements[12]).toBe(10);
  });

  it('weighs morph targets by rest, by clip and by hand, the hand first', () => {
    const stage = new Stage(side());
    const three = mesh(1);
    stage.add(3, three);
    expect(three.morphTargetInfluences?.[0]).toBe(0.5);
    stage.pose(motion(), 0.25);
    expect(three.morphTargetInfluences?.[0]).toBeCloseTo(0.25);
    stage.setWeights(3, [0.9]);
    expect(three.morphTargetInfluences?.[0]).toBeCloseTo(0.9);
    stage.setWeights(3, null);
    expect(three.morphTargetInfluences?.[0]).toBeCloseTo(0.25);
    stage.choose('bind');
    expect(three.morphTargetInfluences?.[0]).toBe(0);
  });

  it('sets joints where the skin was bound', () => {
    const inverse = new Matrix4().makeTranslation(-3, 0, 0).toArray();
    const stage = new Stage(
      side({
        skins: [{ id: 7, joints: [1], inverseBind: inverse, bind: new Matrix4().toArray() }],
      }),
    );
    const bone = stage.skeleton(7)?.bones[0];
    expect(bone?.matrixWorld.elements[12]).toBe(0);
    stage.choose('bind');
    expect(bone?.matrixWorld.elements[12]).toBeCloseTo(3);
    stage.choose('clip');
    stage.pose(motion(), 1);
    expect(bone?.matrixWorld.elements[12]).toBeCloseTo(4);
    expect(stage.skeleton(99)).toBeUndefined();
  });

  it('forgets a mesh that was taken away and tells of changes', () => {
    const stage = new Stage(side());
    let told = 0;
    stage.changed = () => {
      told++;
    };
    const one = mesh();
    const away = stage.add(1, one);
    away();
    stage.pose(motion(), 1);
    expect(told).toBe(1);
    expect(one.matrix.elements[12]).toBe(0);
  });

  it('does nothing with a motion of which no frame is here yet', () => {
    const stage = new Stage(side());
    const one = mesh();
    stage.add(1, one);
    stage.pose({ ...motion(), loaded: 0 }, 1);
    expect(one.matrix.elements[12]).toBe(0);
    expect(one.visible).toBe(true);
  });
});
