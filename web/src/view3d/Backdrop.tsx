import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { DoubleSide, MeshLambertMaterial } from 'three';
import type { SideView } from '../api/client';
import type { Part } from './data/meshBlock';
import { PartMesh } from './PartMesh';
import { Stage } from './Stage';

export interface BackdropView {
  /** Far side of another crossing. */
  side: SideView;
  parts: Map<string, Part[]>;
}

interface Props extends BackdropView {
  /** Metres that a unit of the view means. */
  metresPerUnit: number;
  night: boolean;
}

/** Another crossing as it will land, pale, at its true size: a room or a stage to stand in. */
export function Backdrop({ side, parts, metresPerUnit, night }: Props) {
  const { invalidate } = useThree();
  const stage = useMemo(() => new Stage(side), [side]);
  useEffect(() => () => stage.dispose(), [stage]);
  const material = useMemo(
    () =>
      new MeshLambertMaterial({
        color: night ? '#5f7f8c' : '#8fa09f',
        transparent: true,
        opacity: 0.35,
        depthWrite: false,
        side: DoubleSide,
      }),
    [night],
  );
  useEffect(() => () => material.dispose(), [material]);
  useEffect(() => {
    invalidate();
    return () => invalidate();
  }, [side, parts, metresPerUnit, material, invalidate]);
  return (
    <group scale={side.metresPerUnit / metresPerUnit} renderOrder={-1}>
      {side.nodes
        .filter((n) => n.mesh && n.drawn && n.level <= 0)
        .map((node) =>
          (parts.get(node.mesh as string) ?? [])
            .filter((part) => part.kind === 'triangles')
            .map((part, i) => (
              <PartMesh
                key={`${node.id}-${i}`}
                nodeId={node.id}
                part={i}
                skin={node.skin}
                stage={stage}
                geometry={part.geometry}
                material={material}
              />
            )),
        )}
    </group>
  );
}
