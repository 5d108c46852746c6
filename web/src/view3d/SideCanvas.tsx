import { Canvas } from '@react-three/fiber';
import { memo, useMemo, useRef } from 'react';
import type { Group } from 'three';
import type { MarksView, SideView } from '../api/client';
import { useTheme } from '../shared/useTheme';
import { Backdrop, type BackdropView } from './Backdrop';
import { CameraRig, type OnPick } from './CameraRig';
import { sideBox } from './data/bounds';
import type { Motion } from './data/motionBlock';
import type { BoxPoint } from './data/pivots';
import { GroundGrid } from './GroundGrid';
import { SideScene } from './SideScene';
import { TideStaff } from './TideStaff';
import type { Deviations } from './useDeviation';
import type { Meshes } from './useMeshes';
import { type Side, useView } from './viewState';

interface Props {
  crossingId: string;
  which: Side;
  side: SideView;
  meshes: Meshes;
  marks: MarksView | undefined;
  motion: Motion | null;
  deviations: Deviations;
  backdrop: BackdropView | null;
  handles: BoxPoint[];
  onPick: OnPick;
}

/** One view: canvas, camera, ground, staff and the side itself. Draws only when something changed. */
export const SideCanvas = memo(function SideCanvas(props: Props) {
  const { crossingId, which, side, meshes, marks, motion, deviations, backdrop, handles, onPick } =
    props;
  const skeleton = useView((s) => s.skeleton);
  const content = useRef<Group | null>(null);
  const night = useTheme((s) => s.theme) === 'night';
  const shading = useView((s) => s.shading);
  const selected = useView((s) => s.selected);
  const hidden = useView((s) => s.hidden);
  const allPicks = useView((s) => s.picks);
  const picks = useMemo(() => allPicks.filter((p) => p.side === which), [allPicks, which]);
  const box = useMemo(() => sideBox(side), [side]);
  return (
    <Canvas
      frameloop="demand"
      camera={{ fov: 36 }}
      gl={{ antialias: true, preserveDrawingBuffer: true, alpha: true }}
      data-ready={meshes.ready}
    >
      <SideScene
        which={which}
        crossingId={crossingId}
        side={side}
        parts={meshes.parts}
        shading={shading}
        showBacks={which === 'near'}
        selected={selected}
        hidden={hidden}
        marks={marks}
        content={content}
        motion={motion}
        skeleton={skeleton}
        deviations={deviations}
        picks={picks}
        night={night}
        handles={handles}
      />
      {backdrop && <Backdrop {...backdrop} metresPerUnit={side.metresPerUnit} night={night} />}
      <GroundGrid box={box} metresPerUnit={side.metresPerUnit} night={night} />
      <TideStaff box={box} metresPerUnit={side.metresPerUnit} night={night} />
      <CameraRig side={which} box={box} content={content} onPick={onPick} />
    </Canvas>
  );
});
