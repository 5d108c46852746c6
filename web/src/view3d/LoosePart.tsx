import { useEffect, useLayoutEffect, useMemo, useRef } from 'react';
import { LineBasicMaterial, type LineSegments, type Points, PointsMaterial } from 'three';
import type { Part } from './data/meshBlock';
import type { Stage } from './Stage';

const POINT_PIXELS = 4;

interface Props {
  nodeId: number;
  /** Place among the parts of the node's mesh. */
  part: number;
  stage: Stage;
  shown: Part;
  chosen: boolean;
  night: boolean;
}

/** Lines or points where a node shows them, in their own colours or in ink. */
export function LoosePart({ nodeId, part, stage, shown, chosen, night }: Props) {
  const object = useRef<LineSegments & Points>(null);
  const { geometry, kind } = shown;
  const material = useMemo(() => {
    const own = geometry.hasAttribute('color') && !chosen;
    const look = {
      color: chosen ? '#0d7c7c' : own ? '#ffffff' : night ? '#e4ebe9' : '#1c2a3a',
      vertexColors: own,
      toneMapped: false,
    };
    return kind === 'lines'
      ? new LineBasicMaterial(look)
      : new PointsMaterial({ ...look, size: POINT_PIXELS, sizeAttenuation: false });
  }, [geometry, kind, chosen, night]);
  useEffect(() => () => material.dispose(), [material]);
  useLayoutEffect(
    () => (object.current ? stage.add(nodeId, object.current) : undefined),
    [stage, nodeId, geometry],
  );
  const props = { geometry, material, matrixAutoUpdate: false, userData: { nodeId, part } };
  return kind === 'lines' ? (
    <lineSegments ref={object} {...props} />
  ) : (
    <points ref={object} {...props} />
  );
}
