import { create } from 'zustand';

export type Layout = 'both' | 'near' | 'far' | 'seam';
export type Shading =
  | 'surface'
  | 'sides'
  | 'pieces'
  | 'sets'
  | 'materials'
  | 'uv'
  | 'deviation'
  | 'weights'
  | 'channel';
export type LightChoice = 'even' | 'surroundings' | 'own';
export type PickMode = 'part' | 'face' | 'vertex' | 'pivot';
export type PoseChoice = 'clip' | 'bind';
export type Side = 'near' | 'far';
export type Vec3 = [number, number, number];

export const SHADINGS: { id: Shading; label: string; help: string }[] = [
  { id: 'surface', label: 'Surface', help: 'Materials and textures' },
  {
    id: 'channel',
    label: 'One channel',
    help: 'One channel of the materials alone, as its image and numbers are, without light',
  },
  { id: 'sides', label: 'Both sides', help: 'Fronts plain, backs vermilion' },
  { id: 'pieces', label: 'Pieces', help: 'Each loose piece in a colour of its own' },
  { id: 'sets', label: 'Face sets', help: 'Each named set of faces in a colour of its own' },
  {
    id: 'materials',
    label: 'Materials apart',
    help: 'Each material in a colour of its own, whatever it looks like; what has none is grey',
  },
  { id: 'uv', label: 'UV checker', help: 'A checker laid over the first UV set' },
  {
    id: 'deviation',
    label: 'Deviation',
    help: 'How far the surface lies from that of the other state, pale to vermilion',
  },
  {
    id: 'weights',
    label: 'Weights',
    help: 'How much the selected joint moves each vertex; without one, a colour for each joint',
  },
];

/** A face and its nearest vertex, picked in a view. */
export interface Pick {
  side: Side;
  nodeId: number;
  face: number;
  vertex: number;
  /** Of the vertex, in the mesh's own numbers. */
  position: number[];
  /** The triangle that was hit, in the mesh's own numbers: three corners. */
  triangle: number[];
}

/**
 * What the views show. The camera is linked: angles are shared, distance and targets are in radii of
 * each side's own box, so that both sides fill their views whatever their units.
 */
interface ViewState {
  layout: Layout;
  seam: number;
  shading: Shading;
  azimuth: number;
  elevation: number;
  distance: number;
  targets: Record<Side, Vec3>;
  selected: number[];
  hidden: number[];
  finding: number | null;
  hoveredStone: number | null;
  openStone: string | null;
  /** Node of the file's camera that both views look through; `null` for the free view. */
  lookThrough: number | null;
  /** What lights both views: an even set, the surroundings of a quay, or the file's own lights. */
  light: LightChoice;
  /** The channel that is shown alone, when that is the shading. */
  channel: string;
  /** Whether the skeleton is drawn. */
  skeleton: boolean;
  /** Whether parts are drawn too that the file hides, and stand-ins and guides. */
  showHidden: boolean;
  /** Which pose is shown: the clip's (or the one without), or that in which skins were bound. */
  pose: PoseChoice;
  /** Which level of detail groups is shown, 0 the finest; −1 for all at once. */
  level: number;
  /** The state that each view shows: `near`, `now`, `after:3` or `named:…`. */
  states: Record<Side, string>;
  /** Crossing whose far side stands behind both views, for its size; `null` for none. */
  backdrop: string | null;
  /** Whether a comparison puts both states on one spot first. */
  sameSpot: boolean;
  /** What a click in a view picks. */
  pickMode: PickMode;
  /** Faces or vertices that are picked; all of one part. */
  picks: Pick[];
  /** Name of the material that stands out from the others; `null` for none. */
  lit: string | null;
  /** Morph weights set by hand, by node. */
  morphWeights: Record<number, number[]>;
  set: (change: Partial<ViewState>) => void;
  orbit: (dAzimuth: number, dElevation: number) => void;
  zoom: (factor: number) => void;
  pan: (right: number, up: number) => void;
  frame: (targets: Record<Side, Vec3>, radius: number) => void;
  reset: () => void;
}

const START = {
  azimuth: 0.62,
  elevation: 0.32,
  distance: 3.5,
  targets: { near: [0, 0, 0] as Vec3, far: [0, 0, 0] as Vec3 },
};
const MOST_ELEVATION = 1.55;

export const useView = create<ViewState>((set) => ({
  layout: 'both',
  seam: 50,
  shading: 'surface',
  ...START,
  selected: [],
  hidden: [],
  finding: null,
  hoveredStone: null,
  openStone: null,
  skeleton: false,
  showHidden: false,
  pose: 'clip',
  level: 0,
  light: 'even',
  channel: 'base',
  lookThrough: null,
  states: { near: 'near', far: 'now' },
  backdrop: null,
  sameSpot: false,
  pickMode: 'part',
  picks: [],
  lit: null,
  morphWeights: {},
  set: (change) => set(change),
  orbit: (dAzimuth, dElevation) =>
    set((s) => ({
      lookThrough: null,
      azimuth: s.azimuth + dAzimuth,
      elevation: Math.max(-MOST_ELEVATION, Math.min(MOST_ELEVATION, s.elevation + dElevation)),
    })),
  zoom: (factor) =>
    set((s) => ({
      lookThrough: null,
      distance: Math.max(0.001, Math.min(400, s.distance * factor)),
    })),
  pan: (right, up) =>
    set((s) => {
      const [r, u] = screenAxes(s.azimuth, s.elevation);
      const move = (t: Vec3): Vec3 => [
        t[0] + (r[0] * right + u[0] * up) * s.distance,
        t[1] + (r[1] * right + u[1] * up) * s.distance,
        t[2] + (r[2] * right + u[2] * up) * s.distance,
      ];
      return {
        lookThrough: null,
        targets: { near: move(s.targets.near), far: move(s.targets.far) },
      };
    }),
  frame: (targets, radius) =>
    set({ lookThrough: null, targets, distance: START.distance * Math.max(1e-4, radius) }),
  reset: () =>
    set({
      ...START,
      selected: [],
      hidden: [],
      finding: null,
      hoveredStone: null,
      openStone: null,
      morphWeights: {},
      lookThrough: null,
      light: 'even',
      pose: 'clip',
      level: 0,
      states: { near: 'near', far: 'now' },
      sameSpot: false,
      pickMode: 'part',
      picks: [],
      lit: null,
    }),
}));

/** From the target to the eye. */
export function eyeDirection(azimuth: number, elevation: number): Vec3 {
  const flat = Math.cos(elevation);
  return [Math.sin(azimuth) * flat, Math.sin(elevation), Math.cos(azimuth) * flat];
}

/** Right and up of the screen in space. */
export function screenAxes(azimuth: number, elevation: number): [Vec3, Vec3] {
  return [
    [Math.cos(azimuth), 0, -Math.sin(azimuth)],
    [
      -Math.sin(azimuth) * Math.sin(elevation),
      Math.cos(elevation),
      -Math.cos(azimuth) * Math.sin(elevation),
    ],
  ];
}
