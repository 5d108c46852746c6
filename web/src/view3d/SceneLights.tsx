import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import {
  Color,
  DirectionalLight,
  Group,
  type Light,
  type Matrix4,
  NeutralToneMapping,
  type Object3D,
  PMREMGenerator,
  PointLight,
  SpotLight,
  Vector3,
} from 'three';
import type { SideView } from '../api/client';
import { useTheme } from '../shared/useTheme';
import { sideBox } from './data/bounds';
import { useTime } from './data/time';
import type { Stage } from './Stage';
import { surroundings } from './surroundings';
import { useView } from './viewState';

/** What all lights together throw on the middle of the scene; files differ by factors of thousands. */
const BRIGHTNESS = 4;

interface Lamp {
  nodeId: number;
  light: Light;
  target: Object3D | null;
}

/** The even set that every asset is looked at in, the quay around it, or the scene's own lights. */
export function SceneLights({ side, stage }: { side: SideView; stage: Stage }) {
  const light = useView((s) => s.light);
  if (light === 'surroundings') {
    return <Surroundings />;
  }
  return light === 'own' && side.lights.length > 0 ? (
    <OwnLights side={side} stage={stage} />
  ) : (
    <EvenLights />
  );
}

/**
 * Light from all around, as an image has it, through the same tone curve as the page to hand over: what
 * a surface mirrors is there, so metal and layers look as the published models have them.
 */
function Surroundings() {
  const { gl, scene, invalidate } = useThree();
  const theme = useTheme((s) => s.theme);
  useEffect(() => {
    // What is seen through glass must be drawn; the page behind a clear canvas is not.
    const style = getComputedStyle(gl.domElement);
    scene.background = new Color(style.getPropertyValue('--view-bot').trim() || '#dfe5e4');
    invalidate();
    return () => {
      scene.background = null;
    };
  }, [gl, scene, invalidate, theme]);
  useEffect(() => {
    const around = surroundings();
    const generator = new PMREMGenerator(gl);
    const lit = generator.fromEquirectangular(around);
    generator.dispose();
    around.dispose();
    const before = gl.toneMapping;
    gl.toneMapping = NeutralToneMapping;
    scene.environment = lit.texture;
    invalidate();
    return () => {
      gl.toneMapping = before;
      scene.environment = null;
      lit.dispose();
      invalidate();
    };
  }, [gl, scene, invalidate]);
  return null;
}

function EvenLights() {
  return (
    <>
      <hemisphereLight intensity={1.7} color="#ffffff" groundColor="#8f8878" />
      <directionalLight position={[3, 5, 4]} intensity={2} />
      <directionalLight position={[-4, 2.5, 1]} intensity={0.8} />
      <directionalLight position={[1, 3, -5]} intensity={0.7} />
    </>
  );
}

/** The lights of the file with their colours, cones and proportions, evened in overall strength. */
function OwnLights({ side, stage }: { side: SideView; stage: Stage }) {
  const { invalidate } = useThree();
  const rig = useMemo(() => build(side), [side]);
  useEffect(() => {
    const box = sideBox(side);
    const middle = new Vector3(...box.max).add(new Vector3(...box.min)).multiplyScalar(0.5);
    const show = () => {
      place(rig.lamps, stage.world, side, middle);
      invalidate();
    };
    show();
    return useTime.subscribe((now, before) => now.seconds !== before.seconds && show());
  }, [rig, side, stage, invalidate]);
  return (
    <>
      <ambientLight intensity={0.25} />
      <primitive object={rig.group} />
    </>
  );
}

function build(side: SideView): { group: Group; lamps: Lamp[] } {
  const group = new Group();
  const lamps: Lamp[] = [];
  for (const view of side.lights) {
    const colour = new Color(...(view.colour as [number, number, number]));
    let light: Light;
    let target: Object3D | null = null;
    if (view.kind === 'directional') {
      const sun = new DirectionalLight(colour);
      target = sun.target;
      light = sun;
    } else if (view.kind === 'spot') {
      const edge = view.outerAngle > 0 ? 1 - view.innerAngle / view.outerAngle : 0;
      const spot = new SpotLight(colour, 1, view.range, view.outerAngle, edge, 2);
      target = spot.target;
      light = spot;
    } else {
      light = new PointLight(colour, 1, view.range, 2);
    }
    group.add(light);
    if (target) {
      group.add(target);
    }
    lamps.push({ nodeId: view.nodeId, light, target });
  }
  return { group, lamps };
}

function place(lamps: Lamp[], world: Map<number, Matrix4>, side: SideView, middle: Vector3) {
  const ahead = new Vector3();
  const thrown = lamps.map((lamp, i) => {
    const matrix = world.get(lamp.nodeId);
    const view = side.lights[i];
    if (!matrix || !view) {
      return 0;
    }
    lamp.light.position.setFromMatrixPosition(matrix);
    lamp.target?.position
      .copy(lamp.light.position)
      .add(ahead.set(0, 0, -1).transformDirection(matrix));
    const away = lamp.light.position.distanceToSquared(middle);
    return view.kind === 'directional' ? view.intensity : view.intensity / Math.max(away, 1e-9);
  });
  const all = thrown.reduce((sum, t) => sum + t, 0);
  lamps.forEach((lamp, i) => {
    const view = side.lights[i];
    lamp.light.intensity = view && all > 0 ? (view.intensity * BRIGHTNESS) / all : 0;
  });
}
