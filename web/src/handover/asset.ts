import {
  type AnimationClip,
  AnimationMixer,
  Box3,
  type BufferGeometry,
  Group,
  type Light,
  type Material,
  type Mesh,
  type Object3D,
  Vector3,
} from 'three';
import { type GLTF, GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';
import { Looks } from './looks';

/** Triangles up to which the box is that of the pose, point by point. */
const MOST_EXACT = 2_000_000;

/** A morph target of a part, with all the meshes it is drawn with. */
export interface Morph {
  part: string;
  name: string;
  meshes: { mesh: Mesh; index: number }[];
  /** As it landed. */
  at: number;
}

export interface Counts {
  triangles: number;
  parts: number;
  materials: number;
}

/** A side that is shown. */
export class Asset {
  readonly root = new Group();
  readonly box = new Box3();
  readonly size: Vector3;
  readonly clips: AnimationClip[];
  readonly morphs: Morph[];
  readonly looks: Looks;
  readonly lights: Light[] = [];
  readonly counts: Counts;
  private readonly mixer: AnimationMixer;

  constructor(gltf: GLTF) {
    this.root.add(gltf.scene);
    this.clips = gltf.animations;
    this.mixer = new AnimationMixer(gltf.scene);
    this.looks = new Looks(gltf);
    this.counts = { triangles: 0, parts: 0, materials: 0 };
    this.morphs = this.walk(gltf);
    gltf.scene.updateMatrixWorld(true);
    this.box.setFromObject(gltf.scene, this.counts.triangles < MOST_EXACT);
    if (this.box.isEmpty()) {
      this.box.set(new Vector3(-0.5, -0.5, -0.5), new Vector3(0.5, 0.5, 0.5));
    }
    this.size = this.box.getSize(new Vector3());
  }

  static async parse(glb: ArrayBuffer): Promise<Asset> {
    return new Asset(await new GLTFLoader().parseAsync(glb, ''));
  }

  private walk(gltf: GLTF): Morph[] {
    const morphs = new Map<string, Morph>();
    const materials = new Set<Material>();
    const parts = new Set<Object3D>();
    gltf.scene.traverse((object) => {
      const light = object as Light;
      if (light.isLight) {
        light.visible = false;
        this.lights.push(light);
      }
      const mesh = object as Mesh;
      if (!mesh.isMesh) {
        return;
      }
      // A part of several materials is a group of meshes.
      const single = gltf.parser.associations.get(mesh)?.nodes !== undefined;
      const part = single ? mesh : (mesh.parent ?? mesh);
      parts.add(part);
      mesh.frustumCulled = false;
      this.counts.triangles += triangles(mesh.geometry);
      for (const material of [mesh.material].flat()) {
        materials.add(material);
      }
      for (const [name, index] of Object.entries(mesh.morphTargetDictionary ?? {})) {
        const of = String(part.userData.name ?? part.name ?? '');
        const key = `${of}\n${name}`;
        const morph = morphs.get(key) ?? {
          part: of,
          name,
          meshes: [],
          at: mesh.morphTargetInfluences?.[index] ?? 0,
        };
        morph.meshes.push({ mesh, index });
        morphs.set(key, morph);
      }
    });
    this.counts.parts = parts.size;
    this.counts.materials = materials.size;
    return [...morphs.values()];
  }

  /** Shows a clip; none for the pose without. */
  choose(name: string | null) {
    this.mixer.stopAllAction();
    const clip = this.clips.find((c) => c.name === name);
    if (clip) {
      this.mixer.clipAction(clip).play();
    }
  }

  seek(seconds: number) {
    this.mixer.setTime(seconds);
  }
}

function triangles(geometry: BufferGeometry): number {
  const corners = geometry.index?.count ?? geometry.getAttribute('position')?.count ?? 0;
  return Math.floor(corners / 3);
}

/**
 * Puts the first side where the second stands, at its size, so that a seam can run between them.
 *
 * @returns what was done, in words; empty where they stand together as they are
 */
export function bringTogether(first: Asset, second: Asset): string {
  const a = first.size.length();
  const b = second.size.length();
  const ratio = a > 0 && b > 0 ? b / a : 1;
  const scale = Math.abs(ratio - 1) > 0.01 ? ratio : 1;
  const from = first.box.getCenter(new Vector3()).multiplyScalar(scale);
  const away = second.box.getCenter(new Vector3()).sub(from);
  const moved = away.length() > 0.01 * b ? away : new Vector3();
  first.root.scale.setScalar(scale);
  first.root.position.copy(moved);
  const times = Number((scale < 1 ? 1 / scale : scale).toPrecision(3));
  const sized =
    scale === 1
      ? ''
      : `was ${times} times as ${scale < 1 ? 'large' : 'small'} and is shown at the size of what landed`;
  const placed = moved.length() > 0 ? 'is moved to its place' : '';
  return [sized, placed].filter(Boolean).join(', and ');
}
