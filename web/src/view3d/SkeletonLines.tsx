import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { BufferAttribute, BufferGeometry, Color } from 'three';
import type { SideView } from '../api/client';
import type { Stage } from './Stage';
import { useView } from './viewState';

const JOINT = new Color('#0d7c7c');
const CHOSEN = new Color('#d2301a');

/** Joints as points and the lines between them, over everything. */
export function SkeletonLines({ side, stage }: { side: SideView; stage: Stage }) {
  const { invalidate } = useThree();
  const selected = useView((s) => s.selected);
  const bones = useMemo(() => {
    const inSkins = new Set(side.skins.flatMap((s) => s.joints));
    const joints = side.nodes.filter((n) => n.kind === 'joint' || inSkins.has(n.id));
    const ids = new Set(joints.map((n) => n.id));
    const pairs = joints.filter((n) => ids.has(n.parent)).map((n) => [n.parent, n.id] as const);
    const lines = new BufferGeometry();
    lines.setAttribute('position', new BufferAttribute(new Float32Array(6 * pairs.length), 3));
    const points = new BufferGeometry();
    points.setAttribute('position', new BufferAttribute(new Float32Array(3 * joints.length), 3));
    points.setAttribute('color', new BufferAttribute(new Float32Array(3 * joints.length), 3));
    return { joints: joints.map((n) => n.id), pairs, lines, points };
  }, [side]);
  useEffect(() => {
    const put = (geometry: BufferGeometry, place: number, id: number) => {
      const m = stage.world.get(id)?.elements;
      if (m) {
        geometry.getAttribute('position').setXYZ(place, m[12] ?? 0, m[13] ?? 0, m[14] ?? 0);
      }
    };
    const draw = () => {
      for (const [i, [parent, child]] of bones.pairs.entries()) {
        put(bones.lines, 2 * i, parent);
        put(bones.lines, 2 * i + 1, child);
      }
      for (const [i, id] of bones.joints.entries()) {
        put(bones.points, i, id);
        const colour = selected.includes(id) ? CHOSEN : JOINT;
        bones.points.getAttribute('color').setXYZ(i, colour.r, colour.g, colour.b);
      }
      for (const geometry of [bones.lines, bones.points]) {
        geometry.getAttribute('position').needsUpdate = true;
      }
      bones.points.getAttribute('color').needsUpdate = true;
    };
    draw();
    stage.changed = draw;
    invalidate();
    return () => {
      stage.changed = () => {};
    };
  }, [bones, stage, selected, invalidate]);
  return (
    <group>
      <lineSegments geometry={bones.lines} renderOrder={3} frustumCulled={false}>
        <lineBasicMaterial color={JOINT} depthTest={false} transparent toneMapped={false} />
      </lineSegments>
      <points geometry={bones.points} renderOrder={3} frustumCulled={false}>
        <pointsMaterial
          vertexColors
          size={7}
          sizeAttenuation={false}
          depthTest={false}
          transparent
          toneMapped={false}
        />
      </points>
    </group>
  );
}
