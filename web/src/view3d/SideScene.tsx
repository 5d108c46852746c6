import { useThree } from '@react-three/fiber';
import { type RefObject, useEffect, useMemo, useRef } from 'react';
import { BufferAttribute, BufferGeometry, DoubleSide, type Group, Matrix4 } from 'three';
import type { MarksView, MaterialView, SideView } from '../api/client';
import type { Part } from './data/meshBlock';
import type { Motion } from './data/motionBlock';
import type { BoxPoint } from './data/pivots';
import { heldBack, useSpots } from './data/spots';
import { useTime } from './data/time';
import { InstancedPart } from './InstancedPart';
import { LookThrough } from './LookThrough';
import { LoosePart } from './LoosePart';
import { MaterialSet } from './material/materials';
import { PartMesh } from './PartMesh';
import { PickMarks } from './PickMarks';
import { BoxHandles, PivotMarks } from './PivotMarks';
import { SceneLights } from './SceneLights';
import { SkeletonLines } from './SkeletonLines';
import { Stage } from './Stage';
import type { Deviations } from './useDeviation';
import { type Pick, type Shading, type Side, useView } from './viewState';

const FEWEST_TOGETHER = 6;
const NONE: number[] = [];

interface Props {
  crossingId: string;
  which: Side;
  side: SideView;
  parts: Map<string, Part[]>;
  shading: Shading;
  showBacks: boolean;
  selected: number[];
  hidden: number[];
  marks: MarksView | undefined;
  content: RefObject<Group | null>;
  motion: Motion | null;
  skeleton: boolean;
  deviations: Deviations;
  picks: Pick[];
  night: boolean;
  /** Points of the selected part's box, while a pivot is taken here. */
  handles: BoxPoint[];
}

/** Everything of one side that is drawn: parts, marks of a finding, light. */
export function SideScene(props: Props) {
  const { crossingId, which, side, parts, shading, showBacks, selected, hidden, marks, content } =
    props;
  const { motion, skeleton, deviations, picks, night, handles } = props;
  const byHand = useView((s) => s.morphWeights);
  const lit = useView((s) => s.lit);
  const mirrored = useView((s) => s.light === 'surroundings');
  const channel = useView((s) => (s.shading === 'channel' ? s.channel : ''));
  const { invalidate } = useThree();

  // Every far side brings a list of its own; equal lists must not make shaders and textures anew.
  const look = JSON.stringify(side.materials);
  const materials = useMemo(() => {
    const views = JSON.parse(look) as MaterialView[];
    return new MaterialSet(
      crossingId,
      new Map(views.map((m) => [m.id, m])),
      shading,
      showBacks,
      () => invalidate(),
      deviations.most,
      lit,
      { mirrored, channel, metresPerUnit: side.metresPerUnit },
    );
  }, [
    crossingId,
    look,
    shading,
    showBacks,
    invalidate,
    deviations.most,
    lit,
    mirrored,
    channel,
    side.metresPerUnit,
  ]);
  useEffect(() => () => materials.dispose(), [materials]);

  const chosen = useMemo(() => new Set(selected), [selected]);
  const level = useView((s) => s.level);
  const pose = useView((s) => s.pose);
  const showHidden = useView((s) => s.showHidden);
  const away = useMemo(
    () => hiddenWithChildren(side, hidden, level, showHidden, motion?.shown ?? NONE),
    [side, hidden, level, showHidden, motion?.shown],
  );
  // Deviations are of single parts: those that share a mesh are drawn one by one.
  const single = shading === 'deviation';
  const points = motion?.points;
  const moved = useMemo(() => new Set((points ?? []).flatMap((p) => p.nodes)), [points]);
  const groups = useMemo(
    () => grouped(side, parts, away, chosen, moved, single),
    [side, parts, away, chosen, moved, single],
  );
  const geometryOf = (nodeId: number, part: Part, i: number) =>
    (single && deviations.byNode.get(nodeId)?.[i]) ||
    (shading === 'sets' && part.sets) ||
    part.geometry;
  const material = (part: Part, isChosen: boolean, skin: number) =>
    materials.get(
      part.material,
      {
        normal: part.geometry.hasAttribute('normal'),
        uv: part.geometry.hasAttribute('uv'),
        colour: part.geometry.hasAttribute('color'),
      },
      isChosen,
      shading === 'weights' ? chosenJoint(side, skin, selected) : -1,
    );
  const stage = useMemo(() => new Stage(side), [side]);
  const held = useRef<Group>(null);
  useEffect(() => () => stage.dispose(), [stage]);
  useEffect(() => {
    const show = () => {
      const { seconds } = useTime.getState();
      stage.pose(motion, seconds);
      const spots = motion ? useSpots.getState().spots : null;
      held.current?.position.fromArray(heldBack(spots, which, seconds));
      invalidate();
    };
    show();
    const times = useTime.subscribe((now, before) => now.seconds !== before.seconds && show());
    const spots = useSpots.subscribe(show);
    return () => {
      times();
      spots();
    };
  }, [stage, motion, which, invalidate]);
  useEffect(() => {
    stage.choose(pose);
    invalidate();
  }, [stage, pose, invalidate]);
  useEffect(() => {
    for (const [node, weights] of Object.entries(byHand)) {
      stage.setWeights(Number(node), weights);
    }
    invalidate();
    return () => {
      for (const node of Object.keys(byHand)) {
        stage.setWeights(Number(node), null);
      }
    };
  }, [stage, byHand, invalidate]);
  useEffect(
    () => invalidate(),
    [side, parts, materials, selected, hidden, marks, deviations, picks, handles, night],
  );
  return (
    <group ref={held}>
      <SceneLights side={side} stage={stage} />
      <group ref={content}>
        {groups.alone.map((node) =>
          (parts.get(node.mesh as string) ?? []).map((part, i) =>
            part.kind === 'triangles' ? (
              <PartMesh
                key={`${node.id}-${i}`}
                nodeId={node.id}
                part={i}
                skin={node.skin}
                stage={stage}
                geometry={geometryOf(node.id, part, i)}
                material={material(part, chosen.has(node.id), node.skin)}
              />
            ) : (
              <LoosePart
                key={`${node.id}-${i}`}
                nodeId={node.id}
                part={i}
                stage={stage}
                shown={part}
                chosen={chosen.has(node.id)}
                night={night}
              />
            ),
          ),
        )}
        {groups.together.map(({ mesh, ids }) =>
          (parts.get(mesh) ?? []).map((part, i) => (
            <InstancedPart
              key={`${mesh}-${i}`}
              nodeIds={ids}
              part={i}
              stage={stage}
              geometry={geometryOf(-1, part, i)}
              material={material(part, false, -1)}
            />
          )),
        )}
      </group>
      <LookThrough side={side} stage={stage} />
      {skeleton && <SkeletonLines side={side} stage={stage} />}
      {marks && <Marks marks={marks} matrix={side.fromNear} />}
      <PivotMarks side={side} stage={stage} selected={selected} night={night} />
      {handles.length > 0 && <BoxHandles points={handles} />}
      {picks.length > 0 && <PickMarks picks={picks} stage={stage} />}
    </group>
  );
}

/**
 * Nodes that are drawn alone, and those that are drawn together since they show the same mesh: with
 * thousands of parts a draw for each would be too slow. The chosen ones stand alone, and those that a
 * cache moves.
 */
function grouped(
  side: SideView,
  parts: Map<string, Part[]>,
  away: Set<number>,
  chosen: Set<number>,
  moved: Set<number>,
  single: boolean,
) {
  const byMesh = new Map<string, number[]>();
  const alone: SideView['nodes'] = [];
  const basis = new Matrix4();
  for (const node of side.nodes) {
    if (!node.mesh || away.has(node.id)) {
      continue;
    }
    // Mirrored parts are wound the other way, which a draw of many cannot tell apart.
    const mirrored = basis.fromArray(node.matrix).determinant() < 0;
    const loose = (parts.get(node.mesh) ?? []).some((p) => p.kind !== 'triangles');
    if (
      single ||
      loose ||
      mirrored ||
      node.skin >= 0 ||
      node.weights.length > 0 ||
      moved.has(node.id) ||
      chosen.has(node.id)
    ) {
      alone.push(node);
    } else {
      const ids = byMesh.get(node.mesh) ?? [];
      ids.push(node.id);
      byMesh.set(node.mesh, ids);
    }
  }
  const together: { mesh: string; ids: number[] }[] = [];
  const few = new Set<number>();
  for (const [mesh, ids] of byMesh) {
    if (ids.length >= FEWEST_TOGETHER) {
      together.push({ mesh, ids });
    } else {
      for (const id of ids) {
        few.add(id);
      }
    }
  }
  alone.push(...side.nodes.filter((n) => few.has(n.id)));
  return { alone, together };
}

/** Place of the selected joint in a skin, −1 for none. */
function chosenJoint(side: SideView, skin: number, selected: number[]): number {
  const joints = side.skins.find((s) => s.id === skin)?.joints ?? [];
  return joints.findIndex((id) => selected.includes(id));
}

/**
 * What is hidden by hand, and the detail levels that are not chosen, with all below them. Of what comes
 * and goes in the clip the stage says when.
 */
function hiddenWithChildren(
  side: SideView,
  hidden: number[],
  level: number,
  showHidden: boolean,
  blinking: number[],
): Set<number> {
  const byClip = new Set(blinking);
  const away = new Set(hidden);
  const levels = new Map<number, number>();
  for (const node of side.nodes) {
    if (node.level >= 0) {
      levels.set(node.parent, Math.max(node.level, levels.get(node.parent) ?? 0));
    }
  }
  // Parents stand before their children.
  for (const node of side.nodes) {
    // A group with fewer levels shows its coarsest.
    const wanted = Math.min(level, levels.get(node.parent) ?? 0);
    const otherLevel = level >= 0 && node.level >= 0 && node.level !== wanted;
    if (away.has(node.parent) || otherLevel) {
      away.add(node.id);
    }
  }
  // What a part above hides may be shown below: each node says for itself.
  for (const node of side.nodes) {
    if (!node.drawn && !showHidden && !byClip.has(node.id)) {
      away.add(node.id);
    }
  }
  return away;
}

function positions(values: number[]): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(new Float32Array(values), 3));
  return geometry;
}

/** Vertices, edges and faces of a finding, drawn over everything. */
function Marks({ marks, matrix }: { marks: MarksView; matrix: number[] }) {
  const shapes = useMemo(
    () => ({
      points: positions(marks.points),
      segments: positions(marks.segments),
      triangles: positions(marks.triangles),
      matrix: new Matrix4().fromArray(matrix),
    }),
    [marks, matrix],
  );
  const colour = '#d2301a';
  return (
    <group matrix={shapes.matrix} matrixAutoUpdate={false}>
      <points geometry={shapes.points} renderOrder={4}>
        <pointsMaterial color={colour} size={7} sizeAttenuation={false} depthTest={false} />
      </points>
      <lineSegments geometry={shapes.segments} renderOrder={4}>
        <lineBasicMaterial color={colour} depthTest={false} transparent toneMapped={false} />
      </lineSegments>
      <mesh geometry={shapes.triangles} renderOrder={4}>
        <meshBasicMaterial
          color={colour}
          side={DoubleSide}
          depthTest={false}
          transparent
          opacity={0.7}
          toneMapped={false}
        />
      </mesh>
    </group>
  );
}
