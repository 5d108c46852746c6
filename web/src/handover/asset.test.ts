import {
  AnimationClip,
  BoxGeometry,
  type BufferAttribute,
  DirectionalLight,
  Group,
  Mesh,
  MeshStandardMaterial,
  NumberKeyframeTrack,
} from 'three';
import type { GLTF } from 'three/addons/loaders/GLTFLoader.js';
import { expect, test } from 'vitest';
import { Asset, bringTogether } from './asset';

interface Made {
  scale?: number;
  at?: number;
  parts?: number;
  animations?: AnimationClip[];
}

/** What the loader gives of a file with some crates, each a node of its own. */
function loaded({ scale = 1, at = 0, parts = 1, animations = [] }: Made = {}): GLTF {
  const scene = new Group();
  const associations = new Map<unknown, { nodes?: number; meshes?: number }>();
  const teal = new MeshStandardMaterial({ name: 'teal' });
  for (let i = 0; i < parts; i++) {
    const mesh = new Mesh(
      new BoxGeometry(2 * scale, scale, scale),
      new MeshStandardMaterial({ name: 'brick' }),
    );
    mesh.position.set(at, scale / 2, 0);
    mesh.userData.name = `crate.${i}`;
    mesh.userData.gltfExtensions = {
      KHR_materials_variants: { mappings: [{ material: 0, variants: [1] }] },
    };
    associations.set(mesh, { nodes: i, meshes: i });
    scene.add(mesh);
  }
  scene.add(new DirectionalLight('#ffffff', 50_000));
  const json = {
    extensions: { KHR_materials_variants: { variants: [{ name: 'brick' }, { name: 'teal' }] } },
  };
  const parser = {
    associations,
    json,
    getDependency: async () => teal,
    assignFinalMaterial: () => {},
  };
  return { scene, animations, parser } as unknown as GLTF;
}

const material = (asset: Asset) => {
  const mesh = asset.root.getObjectByProperty('isMesh', true) as Mesh;
  return (mesh.material as MeshStandardMaterial).name;
};

test('an asset tells its size and what it is made of; its lights wait to be asked for', () => {
  const asset = new Asset(loaded({ parts: 3 }));
  expect(asset.size.toArray()).toEqual([2, 1, 1]);
  expect(asset.counts).toEqual({ triangles: 36, parts: 3, materials: 3 });
  expect(asset.lights.map((l) => l.visible)).toEqual([false]);
});

test('a look is chosen, and what opens comes back', async () => {
  const asset = new Asset(loaded());
  expect(asset.looks.names).toEqual(['brick', 'teal']);
  await asset.looks.choose('teal');
  expect(material(asset)).toBe('teal');
  await asset.looks.choose('');
  expect(material(asset)).toBe('brick');
});

test('a clip moves it, and goes to any moment', () => {
  const rise = new NumberKeyframeTrack('.position[y]', [0, 2], [0, 4]);
  const gltf = loaded({ animations: [new AnimationClip('rise', 2, [rise])] });
  const asset = new Asset(gltf);
  asset.choose('rise');
  asset.seek(1);
  expect(gltf.scene.position.y).toBeCloseTo(2, 6);
  asset.seek(0.5);
  expect(gltf.scene.position.y).toBeCloseTo(1, 6);
  asset.choose(null);
  asset.seek(1.5);
  expect(gltf.scene.position.y).not.toBeCloseTo(3, 1);
});

test('what came a hundred times as large is shown at the size of what landed, and that is said', () => {
  const near = new Asset(loaded({ scale: 100 }));
  const landed = new Asset(loaded());
  expect(bringTogether(near, landed)).toContain('was 100 times as large');
  near.root.updateMatrixWorld(true);
  const mesh = near.root.getObjectByProperty('isMesh', true) as Mesh;
  const corner = (mesh.geometry.getAttribute('position') as BufferAttribute).getX(0);
  expect(Math.abs(corner) * near.root.scale.x).toBeCloseTo(1, 6);
});

test('what stands elsewhere is moved; what stands together stays, and nothing is said', () => {
  const near = new Asset(loaded({ at: 5 }));
  expect(bringTogether(near, new Asset(loaded()))).toBe('is moved to its place');
  expect(near.root.position.x).toBeCloseTo(-5, 6);
  const same = new Asset(loaded());
  expect(bringTogether(same, new Asset(loaded()))).toBe('');
  expect(same.root.position.length()).toBe(0);
});
