import { useLayoutEffect, useRef } from 'react';
import type { BufferGeometry, Material, Mesh, SkinnedMesh } from 'three';
import type { Stage } from './Stage';

interface Props {
  nodeId: number;
  /** Place among the parts of the node's mesh. */
  part: number;
  /** Skin that moves it, −1 for none. */
  skin: number;
  stage: Stage;
  geometry: BufferGeometry;
  material: Material;
}

/** One material's triangles where a node shows them; the stage moves it. */
export function PartMesh({ nodeId, part, skin, stage, geometry, material }: Props) {
  const mesh = useRef<Mesh | null>(null);
  const skeleton = stage.skeleton(skin);
  const skinned = skeleton !== undefined && geometry.hasAttribute('skinIndex');
  useLayoutEffect(() => {
    const shown = mesh.current;
    if (!shown) {
      return;
    }
    shown.updateMorphTargets();
    if (skinned) {
      // Joints stand in the view's space: the mesh itself stays where it is.
      (shown as SkinnedMesh).bindMode = 'detached';
      (shown as SkinnedMesh).bindMatrix.identity();
      (shown as SkinnedMesh).bindMatrixInverse.identity();
    }
    return stage.add(nodeId, shown);
  }, [stage, nodeId, skinned, geometry]);
  return skinned ? (
    <skinnedMesh
      ref={mesh as React.RefObject<SkinnedMesh | null>}
      geometry={geometry}
      material={material}
      skeleton={skeleton}
      frustumCulled={false}
      matrixAutoUpdate={false}
      userData={{ nodeId, part }}
    />
  ) : (
    <mesh
      ref={mesh}
      geometry={geometry}
      material={material}
      matrixAutoUpdate={false}
      userData={{ nodeId, part }}
    />
  );
}
