import { useLayoutEffect, useRef } from 'react';
import type { BufferGeometry, InstancedMesh, Material } from 'three';
import type { Stage } from './Stage';

interface Props {
  /** Nodes that show the same mesh alike. */
  nodeIds: number[];
  /** Place among the parts of the mesh. */
  part: number;
  stage: Stage;
  geometry: BufferGeometry;
  material: Material;
}

/** One mesh for many nodes, drawn at once; the stage places each. */
export function InstancedPart({ nodeIds, part, stage, geometry, material }: Props) {
  const mesh = useRef<InstancedMesh | null>(null);
  useLayoutEffect(
    () => (mesh.current ? stage.addMany(nodeIds, mesh.current) : undefined),
    [stage, nodeIds, geometry],
  );
  return (
    <instancedMesh
      // Room for the instances is made once: another number is another mesh.
      key={nodeIds.length}
      ref={mesh}
      args={[geometry, material, nodeIds.length]}
      frustumCulled={false}
      userData={{ nodeIds, part }}
    />
  );
}
