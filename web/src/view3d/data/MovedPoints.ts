import { type BufferAttribute, BufferGeometry } from 'three';
import type { Shown } from '../Stage';
import { type Motion, pointsAt } from './motionBlock';

/**
 * Puts the vertices of meshes where a point cache has them, and back when it does not count. Both
 * views share what they draw, and their motions differ: what is moved is a copy of this view.
 */
export class MovedPoints {
  /** Copies by the geometry that they are of. */
  private readonly copies = new Map<BufferGeometry, BufferGeometry>();

  /**
   * @param shown meshes by the node that shows them
   */
  pose(motion: Motion | null, seconds: number, shown: Map<number, Set<Shown>>) {
    const moved = new Set<BufferGeometry>();
    if (motion && motion.loaded > 0) {
      for (const [cache, { nodes }] of motion.points.entries()) {
        for (const node of nodes) {
          this.moveNode(motion, cache, seconds, shown.get(node), moved);
        }
      }
    }
    for (const [original, copy] of this.copies) {
      if (!moved.has(copy)) {
        this.copies.delete(original);
        for (const mesh of [...shown.values()].flatMap((all) => [...all])) {
          if (mesh.geometry === copy) {
            mesh.geometry = original;
          }
        }
        copy.dispose();
      }
    }
  }

  private moveNode(
    motion: Motion,
    cache: number,
    seconds: number,
    meshes: Set<Shown> | undefined,
    moved: Set<BufferGeometry>,
  ) {
    const parts = [...(meshes ?? [])].sort(
      (a, b) => Number(a.userData.part) - Number(b.userData.part),
    );
    let first = 0;
    for (const mesh of parts) {
      const copy = this.copyOf(mesh.geometry);
      mesh.geometry = copy;
      if (!moved.has(copy)) {
        moved.add(copy);
        move(motion, cache, seconds, copy, first);
      }
      first += copy.getAttribute('position').count;
    }
  }

  private copyOf(geometry: BufferGeometry): BufferGeometry {
    const known = this.copies.get(geometry);
    if (known) {
      return known;
    }
    for (const copy of this.copies.values()) {
      if (copy === geometry) {
        return copy;
      }
    }
    const copy = copied(geometry);
    this.copies.set(geometry, copy);
    return copy;
  }
}

/** A geometry with places and normals of its own; all else is shared. */
function copied(geometry: BufferGeometry): BufferGeometry {
  const copy = new BufferGeometry();
  for (const [name, attribute] of Object.entries(geometry.attributes)) {
    const moves = name === 'position' || name === 'normal';
    copy.setAttribute(name, moves ? (attribute as BufferAttribute).clone() : attribute);
  }
  copy.setIndex(geometry.index);
  copy.morphAttributes = geometry.morphAttributes;
  copy.morphTargetsRelative = geometry.morphTargetsRelative;
  return copy;
}

function move(
  motion: Motion,
  cache: number,
  seconds: number,
  geometry: BufferGeometry,
  first: number,
) {
  const position = geometry.getAttribute('position') as BufferAttribute;
  if (!pointsAt(motion, cache, seconds, first, position.array as Float32Array)) {
    return;
  }
  position.needsUpdate = true;
  // The surface bends: normals of the rest pose would light it wrongly.
  if (geometry.hasAttribute('normal')) {
    geometry.computeVertexNormals();
  }
  geometry.computeBoundingSphere();
}
