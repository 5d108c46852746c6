import { useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import { type PerspectiveCamera, Vector3 } from 'three';
import type { SideView } from '../api/client';
import { sideBox } from './data/bounds';
import { useTime } from './data/time';
import type { Stage } from './Stage';
import { useView } from './viewState';

/** Puts the view behind one of the file's cameras, while it moves too. */
export function LookThrough({ side, stage }: { side: SideView; stage: Stage }) {
  const { camera, invalidate, size } = useThree();
  const through = useView((s) => s.lookThrough);
  useEffect(() => {
    const lens = side.cameras.find((c) => c.nodeId === through);
    if (!lens) {
      return;
    }
    const look = () => {
      const world = stage.world.get(lens.nodeId);
      if (!world) {
        return;
      }
      const perspective = camera as PerspectiveCamera;
      world.decompose(perspective.position, perspective.quaternion, new Vector3());
      const box = sideBox(side);
      const reach = new Vector3(...box.max).distanceTo(new Vector3(...box.min));
      const away = perspective.position.length() + reach;
      perspective.fov = lens.angle > 0 ? lens.angle : perspective.fov;
      perspective.aspect = size.width / Math.max(1, size.height);
      perspective.near = Math.max(away * 1e-3, 1e-5);
      perspective.far = away * 20;
      perspective.updateProjectionMatrix();
      // A shifted lens sees a window beside the middle: the frustum's sides move by as much.
      perspective.projectionMatrix.elements[8] = 2 * lens.shiftX;
      perspective.projectionMatrix.elements[9] = 2 * lens.shiftY;
      perspective.projectionMatrixInverse.copy(perspective.projectionMatrix).invert();
      if (lens.angle <= 0) {
        // A parallel view: its height is the file's, its width the window's.
        const half = Math.max(lens.height, 1e-9) / 2;
        const wide = half * perspective.aspect;
        perspective.projectionMatrix.makeOrthographic(
          -wide,
          wide,
          half,
          -half,
          -away * 20,
          away * 20,
        );
        perspective.projectionMatrixInverse.copy(perspective.projectionMatrix).invert();
      }
      invalidate();
    };
    look();
    return useTime.subscribe((now, before) => now.seconds !== before.seconds && look());
  }, [side, stage, through, camera, invalidate, size]);
  return null;
}
