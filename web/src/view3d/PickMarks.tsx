import { useMemo } from 'react';
import { BufferAttribute, BufferGeometry, DoubleSide, Matrix4 } from 'three';
import type { Stage } from './Stage';
import { type Pick, useView } from './viewState';

/** What was picked: faces washed over, vertices as dots, drawn over everything. */
export function PickMarks({ picks, stage }: { picks: Pick[]; stage: Stage }) {
  const faces = useView((s) => s.pickMode === 'face');
  const shapes = useMemo(() => {
    const node = picks[0]?.nodeId ?? -1;
    const own = picks.filter((p) => p.nodeId === node);
    const geometry = (numbers: number[]) => {
      const result = new BufferGeometry();
      result.setAttribute('position', new BufferAttribute(new Float32Array(numbers), 3));
      return result;
    };
    return {
      matrix: stage.world.get(node)?.clone() ?? new Matrix4(),
      faces: geometry(own.flatMap((p) => p.triangle)),
      vertices: geometry(own.flatMap((p) => p.position)),
    };
  }, [picks, stage]);
  const colour = '#0d7c7c';
  return (
    <group matrix={shapes.matrix} matrixAutoUpdate={false}>
      <mesh geometry={shapes.faces} renderOrder={5} visible={faces}>
        <meshBasicMaterial
          color={colour}
          side={DoubleSide}
          depthTest={false}
          transparent
          opacity={0.55}
          toneMapped={false}
        />
      </mesh>
      <points geometry={shapes.vertices} renderOrder={6} visible={!faces}>
        <pointsMaterial color={colour} size={9} sizeAttenuation={false} depthTest={false} />
      </points>
    </group>
  );
}
