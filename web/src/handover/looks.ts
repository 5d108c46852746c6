import type { Mesh } from 'three';
import type { GLTF } from 'three/addons/loaders/GLTFLoader.js';

const EXTENSION = 'KHR_materials_variants';

interface Mapping {
  material: number;
  variants: number[];
}

/** The looks of a file: materials by the names of variants (KHR_materials_variants). */
export class Looks {
  readonly names: string[];
  private readonly own = new Map<Mesh, Mesh['material']>();

  constructor(private readonly gltf: GLTF) {
    const declared = gltf.parser.json.extensions?.[EXTENSION]?.variants as
      | { name: string }[]
      | undefined;
    this.names = (declared ?? []).map((v) => v.name);
  }

  /** @param name of a look; anything else for the materials that the file shows first */
  async choose(name: string) {
    const wanted = this.names.indexOf(name);
    const meshes: Mesh[] = [];
    this.gltf.scene.traverse((o) => {
      if ((o as Mesh).isMesh) {
        meshes.push(o as Mesh);
      }
    });
    for (const mesh of meshes) {
      if (!this.own.has(mesh)) {
        this.own.set(mesh, mesh.material);
      }
      const mappings = mesh.userData.gltfExtensions?.[EXTENSION]?.mappings as Mapping[] | undefined;
      const mapping = mappings?.find((m) => m.variants.includes(wanted));
      if (mapping) {
        mesh.material = await this.gltf.parser.getDependency('material', mapping.material);
        this.gltf.parser.assignFinalMaterial(mesh);
      } else {
        mesh.material = this.own.get(mesh) ?? mesh.material;
      }
    }
  }
}
