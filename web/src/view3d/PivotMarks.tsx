import { useFrame } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import { BufferAttribute, BufferGeometry, type Group, Matrix4, Quaternion, Vector3 } from 'three';
import type { NodeView, SideView } from '../api/client';
import { type BoxPoint, pivotOf, toPivot } from './data/pivots';
import type { Stage } from './Stage';
import type { Vec3 } from './viewState';

const MOST = 200;
/** Length of an axis, in parts of the distance to the eye. */
const LENGTH = 0.075;

/** Half the thickness of an axis, in its length. */
const THIN = 0.014;

const AXES: { size: Vec3; at: Vec3; colour: string }[] = [
  { size: [1, 2 * THIN, 2 * THIN], at: [0.5, 0, 0], colour: '#d9553c' },
  { size: [2 * THIN, 1, 2 * THIN], at: [0, 0.5, 0], colour: '#4f9f66' },
  { size: [2 * THIN, 2 * THIN, 1], at: [0, 0, 0.5], colour: '#4a86c0' },
];
const ORIGIN = new BufferGeometry();
ORIGIN.setAttribute('position', new BufferAttribute(new Float32Array(3), 3));

interface Props {
  side: SideView;
  stage: Stage;
  selected: number[];
  night: boolean;
}

/** The pivots of the selected parts with their own axes, of one size on the screen. */
export function PivotMarks({ side, stage, selected, night }: Props) {
  const nodes = useMemo(() => {
    const chosen = new Set(selected.slice(0, MOST));
    return side.nodes.filter((n) => chosen.has(n.id));
  }, [side, selected]);
  return nodes.map((node) => <PivotMark key={node.id} node={node} stage={stage} night={night} />);
}

function PivotMark({ node, stage, night }: { node: NodeView; stage: Stage; night: boolean }) {
  const group = useRef<Group>(null);
  const still = useMemo(() => pivotOf(node), [node]);
  const along = useMemo(() => toPivot(node), [node]);
  const work = useMemo(
    () => ({
      matrix: new Matrix4(),
      at: new Vector3(),
      turn: new Quaternion(),
      scale: new Vector3(),
    }),
    [],
  );
  useFrame(({ camera }) => {
    const world = stage.world.get(node.id);
    // A skinned mesh stands where its joints put it, not where its node does.
    work.matrix.copy(still);
    if (world && node.skin < 0) {
      work.matrix.multiplyMatrices(world, along);
    }
    work.matrix.decompose(work.at, work.turn, work.scale);
    if (group.current) {
      group.current.position.copy(work.at);
      group.current.quaternion.copy(work.turn);
      group.current.scale.setScalar(camera.position.distanceTo(work.at) * LENGTH);
      group.current.updateMatrixWorld(true);
    }
  }, -1);
  return (
    <group ref={group}>
      {AXES.map((axis) => (
        <mesh key={axis.colour} position={axis.at} renderOrder={7}>
          <boxGeometry args={axis.size} />
          <meshBasicMaterial color={axis.colour} depthTest={false} transparent toneMapped={false} />
        </mesh>
      ))}
      <points geometry={ORIGIN} renderOrder={8}>
        <pointsMaterial
          color={night ? '#f2efe6' : '#1c2a3a'}
          size={6}
          sizeAttenuation={false}
          depthTest={false}
          transparent
          toneMapped={false}
        />
      </points>
    </group>
  );
}

/** The points of a box that a pivot can be taken from. */
export function BoxHandles({ points }: { points: BoxPoint[] }) {
  const geometry = useMemo(() => {
    const result = new BufferGeometry();
    const numbers = new Float32Array(points.flatMap((p) => p.position));
    result.setAttribute('position', new BufferAttribute(numbers, 3));
    return result;
  }, [points]);
  useEffect(() => () => geometry.dispose(), [geometry]);
  return (
    <>
      <points geometry={geometry} renderOrder={9}>
        <pointsMaterial
          color="#1c2a3a"
          size={10}
          sizeAttenuation={false}
          depthTest={false}
          transparent
          toneMapped={false}
        />
      </points>
      <points geometry={geometry} renderOrder={10}>
        <pointsMaterial
          color="#e0b64b"
          size={7}
          sizeAttenuation={false}
          depthTest={false}
          transparent
          toneMapped={false}
        />
      </points>
    </>
  );
}
