import { useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import {
  type Camera,
  type Group,
  type Intersection,
  type Mesh,
  type PerspectiveCamera,
  Plane,
  Raycaster,
  Vector2,
  Vector3,
} from 'three';
import { type Box, centreOf, radiusOf } from './data/bounds';
import { eyeDirection, type Side, useView, type Vec3 } from './viewState';

const TURN = 0.008;
const STILL_PIXELS = 4;
const ANGLE = 36;
const REACH_PIXELS = 5;
const GROUND = new Plane(new Vector3(0, 1, 0), 0);

/** The triangle behind a click, in the numbers of the part's mesh. */
export interface Hit {
  /** Place among the parts of the node's mesh. */
  part: number;
  triangle: number;
  /** The corner that is nearest to the click. */
  point: number[];
  corners: number[];
}

/** What lies under a click beside parts. */
export interface Aim {
  /** The place of the point that is drawn nearest to the click within some pixels; −1 for none. */
  nearest: (points: Vec3[], pixels: number) => number;
  /** Where the click meets the ground; `null` above the horizon. */
  ground: () => Vec3 | null;
}

export type OnPick = (nodeId: number | null, add: boolean, hit: Hit | null, aim: Aim) => void;

interface Props {
  side: Side;
  box: Box;
  /** Holds the meshes that can be picked; each has `userData.nodeId`, or `nodeIds` of its instances. */
  content: { current: Group | null };
  onPick: OnPick;
}

/** The linked camera: every view follows the one state, every view changes it. */
export function CameraRig({ side, box, content, onPick }: Props) {
  const { camera, gl, invalidate, size } = useThree();
  // One by one: any other change of the state must not draw both views anew.
  const azimuth = useView((s) => s.azimuth);
  const elevation = useView((s) => s.elevation);
  const away = useView((s) => s.distance);
  const t = useView((s) => s.targets[side]);
  const through = useView((s) => s.lookThrough);

  useEffect(() => {
    if (through !== null) {
      return;
    }
    const radius = radiusOf(box);
    const centre = centreOf(box);
    const target = new Vector3(
      centre[0] + t[0] * radius,
      centre[1] + t[1] * radius,
      centre[2] + t[2] * radius,
    );
    const perspective = camera as PerspectiveCamera;
    perspective.fov = ANGLE;
    perspective.aspect = size.width / Math.max(1, size.height);
    // Wide views are bound by height, narrow ones by width.
    const narrow = Math.min(1, perspective.aspect);
    const distance = (away * radius) / Math.max(0.2, narrow);
    const d = eyeDirection(azimuth, elevation);
    perspective.position.set(
      target.x + d[0] * distance,
      target.y + d[1] * distance,
      target.z + d[2] * distance,
    );
    perspective.near = Math.max(distance * 0.004, radius * 1e-5);
    perspective.far = distance + radius * 40;
    perspective.lookAt(target);
    perspective.updateProjectionMatrix();
    invalidate();
  }, [camera, invalidate, size, azimuth, elevation, away, t, box, through]);

  useEffect(() => {
    const canvas = gl.domElement;
    canvas.tabIndex = 0;
    canvas.setAttribute('aria-label', `${side === 'near' ? 'Near' : 'Far'} side, 3D view`);
    let start: { x: number; y: number; moved: number; pan: boolean } | null = null;
    let last = { x: 0, y: 0 };
    const down = (e: PointerEvent) => {
      canvas.setPointerCapture(e.pointerId);
      start = { x: e.clientX, y: e.clientY, moved: 0, pan: e.button !== 0 || e.shiftKey };
      last = { x: e.clientX, y: e.clientY };
    };
    const move = (e: PointerEvent) => {
      if (!start) {
        return;
      }
      const dx = e.clientX - last.x;
      const dy = e.clientY - last.y;
      last = { x: e.clientX, y: e.clientY };
      start.moved = Math.max(start.moved, Math.hypot(e.clientX - start.x, e.clientY - start.y));
      if (start.moved < STILL_PIXELS) {
        return;
      }
      if (start.pan) {
        const scale = 0.72 / canvas.clientHeight;
        useView.getState().pan(-dx * scale, dy * scale);
      } else {
        useView.getState().orbit(-dx * TURN, dy * TURN);
      }
    };
    const up = (e: PointerEvent) => {
      const still = start && start.moved < STILL_PIXELS && !start.pan;
      start = null;
      if (still && content.current) {
        const area = canvas.getBoundingClientRect();
        const place = new Vector2(
          ((e.clientX - area.left) / area.width) * 2 - 1,
          1 - ((e.clientY - area.top) / area.height) * 2,
        );
        const ray = new Raycaster();
        ray.setFromCamera(place, camera);
        // Lines and points are hit from beside them, by as much as a few pixels show.
        const near = (radiusOf(box) * useView.getState().distance) / canvas.clientHeight;
        ray.params.Line.threshold = near * REACH_PIXELS;
        ray.params.Points.threshold = near * REACH_PIXELS;
        const hit = ray.intersectObject(content.current, true)[0];
        const { nodeId, nodeIds } = (hit?.object.userData ?? {}) as {
          nodeId?: number;
          nodeIds?: number[];
        };
        const id = nodeIds ? nodeIds[hit?.instanceId ?? -1] : nodeId;
        const aim = {
          nearest: (points: Vec3[], pixels: number) =>
            nearestOf(points, camera, place, new Vector2(area.width / 2, area.height / 2), pixels),
          ground: () => ray.ray.intersectPlane(GROUND, new Vector3())?.toArray() ?? null,
        };
        onPick(id ?? null, e.ctrlKey || e.metaKey, hit ? triangleOf(hit) : null, aim);
      }
    };
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      useView.getState().zoom(Math.exp(Math.max(-1, Math.min(1, e.deltaY * 0.0015))));
    };
    const key = (e: KeyboardEvent) => {
      const turns: Record<string, [number, number]> = {
        ArrowLeft: [-0.12, 0],
        ArrowRight: [0.12, 0],
        ArrowUp: [0, 0.1],
        ArrowDown: [0, -0.1],
      };
      const turn = turns[e.key];
      if (turn) {
        e.preventDefault();
        useView.getState().orbit(turn[0], turn[1]);
      } else if (e.key === '+' || e.key === '-') {
        useView.getState().zoom(e.key === '+' ? 0.85 : 1.18);
      }
    };
    const menu = (e: Event) => e.preventDefault();
    canvas.addEventListener('pointerdown', down);
    canvas.addEventListener('pointermove', move);
    canvas.addEventListener('pointerup', up);
    canvas.addEventListener('wheel', wheel, { passive: false });
    canvas.addEventListener('keydown', key);
    canvas.addEventListener('contextmenu', menu);
    return () => {
      canvas.removeEventListener('pointerdown', down);
      canvas.removeEventListener('pointermove', move);
      canvas.removeEventListener('pointerup', up);
      canvas.removeEventListener('wheel', wheel);
      canvas.removeEventListener('keydown', key);
      canvas.removeEventListener('contextmenu', menu);
    };
  }, [gl, camera, content, onPick, side, box]);
  return null;
}

function nearestOf(
  points: Vec3[],
  camera: Camera,
  click: Vector2,
  half: Vector2,
  pixels: number,
): number {
  let best = -1;
  let least = pixels;
  const shown = new Vector3();
  for (const [i, p] of points.entries()) {
    shown.fromArray(p).project(camera);
    const distance = Math.hypot((shown.x - click.x) * half.x, (shown.y - click.y) * half.y);
    if (Math.abs(shown.z) <= 1 && distance <= least) {
      least = distance;
      best = i;
    }
  }
  return best;
}

/** What was hit, as it stands in the mesh: where joints or morphs moved it does not count. */
function triangleOf(hit: Intersection): Hit | null {
  const mesh = hit.object as Mesh;
  const face = hit.face;
  if (!face || hit.faceIndex === undefined || hit.faceIndex === null) {
    return null;
  }
  const local = mesh.worldToLocal(hit.point.clone());
  const position = mesh.geometry.getAttribute('position');
  const shown = new Vector3();
  const own = new Vector3();
  const corners: number[] = [];
  let point: number[] = [];
  let nearest = Infinity;
  for (const corner of [face.a, face.b, face.c]) {
    own.fromBufferAttribute(position, corner);
    corners.push(own.x, own.y, own.z);
    mesh.getVertexPosition(corner, shown);
    const distance = shown.distanceTo(local);
    if (distance < nearest) {
      nearest = distance;
      point = own.toArray();
    }
  }
  return {
    part: (mesh.userData as { part?: number }).part ?? 0,
    triangle: hit.faceIndex,
    point,
    corners,
  };
}
