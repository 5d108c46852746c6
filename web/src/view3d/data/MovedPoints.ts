import type { BufferAttribute, BufferGeometry } from 'three';
import type { Shown } from '../Stage';
import { type Motion, pointsAt } from './motionBlock';

interface Rest {
  position: Float32Array;
  normal: Float32Array | null;
}

/** Puts the vertices of meshes where a point cache has them, and back when it does not count. */
export class MovedPoints {
  private readonly rest = new Map<BufferGeometry, Rest>();

  /**
   * @param shown meshes by the node that shows them
   */
  pose(motion: Motion | null, seconds: number, shown: Map<number, Set<Shown>>) {
    const moved = new Set<BufferGeometry>();
    if (motion && motion.loaded > 0) {
      for (const [cache, { nodes }] of motion.points.entries()) {
        for (const { geometry, first } of parts(nodes, shown)) {
          moved.add(geometry);
          this.move(motion, cache, seconds, geometry, first);
        }
      }
    }
    for (const [geometry, rest] of this.rest) {
      if (!moved.has(geometry)) {
        write(geometry, 'position', rest.position);
        if (rest.normal) {
          write(geometry, 'normal', rest.normal);
        }
        geometry.computeBoundingSphere();
        this.rest.delete(geometry);
      }
    }
  }

  private move(
    motion: Motion,
    cache: number,
    seconds: number,
    geometry: BufferGeometry,
    first: number,
  ) {
    const position = geometry.getAttribute('position') as BufferAttribute;
    const normal = geometry.getAttribute('normal') as BufferAttribute | undefined;
    if (!this.rest.has(geometry)) {
      this.rest.set(geometry, {
        position: Float32Array.from(position.array),
        normal: normal ? Float32Array.from(normal.array) : null,
      });
    }
    if (!pointsAt(motion, cache, seconds, first, position.array as Float32Array)) {
      return;
    }
    position.needsUpdate = true;
    // The surface bends: normals of the rest pose would light it wrongly.
    if (normal) {
      geometry.computeVertexNormals();
    }
    geometry.computeBoundingSphere();
  }
}

/** The parts of the mesh that some nodes show, each once, with the vertices before it. */
function parts(
  nodes: number[],
  shown: Map<number, Set<Shown>>,
): { geometry: BufferGeometry; first: number }[] {
  for (const node of nodes) {
    const meshes = [...(shown.get(node) ?? [])].sort(
      (a, b) => Number(a.userData.part) - Number(b.userData.part),
    );
    const result: { geometry: BufferGeometry; first: number }[] = [];
    let first = 0;
    for (const mesh of meshes) {
      result.push({ geometry: mesh.geometry, first });
      first += mesh.geometry.getAttribute('position').count;
    }
    if (result.length > 0) {
      return result;
    }
  }
  return [];
}

function write(geometry: BufferGeometry, name: string, values: Float32Array) {
  const attribute = geometry.getAttribute(name) as BufferAttribute | undefined;
  if (attribute && attribute.array.length === values.length) {
    (attribute.array as Float32Array).set(values);
    attribute.needsUpdate = true;
  }
}
