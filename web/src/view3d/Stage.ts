import {
  Bone,
  type InstancedMesh,
  type LineSegments,
  Matrix4,
  type Mesh,
  type Points,
  Skeleton,
} from 'three';
import type { SideView } from '../api/client';
import { MovedPoints } from './data/MovedPoints';
import { frameAt, type Motion, matrixAt, seenAt } from './data/motionBlock';
import type { PoseChoice } from './viewState';

/** What shows a part, or some of it. */
export type Shown = Mesh | LineSegments | Points;

/** Shrinks what is not there to a point. */
const NOTHING = new Matrix4().makeScale(0, 0, 0);

const scratch = new Array<number>(16).fill(0);

/**
 * What moves in one view: where every node stands, the skeletons and the morph weights. Poses are
 * set here and not through React, so that playing draws and does nothing else.
 */
export class Stage {
  readonly world = new Map<number, Matrix4>();
  private readonly rest = new Map<number, Matrix4>();
  private readonly restWeights = new Map<number, number[]>();
  private readonly shown = new Map<number, Set<Shown>>();
  private readonly many = new Map<InstancedMesh, number[]>();
  private readonly skeletons = new Map<
    number,
    { skeleton: Skeleton; joints: number[]; bound: Matrix4[] }
  >();
  /** Nodes that the clip hides at this moment. */
  private readonly gone = new Set<number>();
  private choice: PoseChoice = 'clip';
  /** Weights that the user has set, by node. */
  private readonly handWeights = new Map<number, number[]>();
  private motion: Motion | null = null;
  private seconds = 0;
  private readonly moved = new MovedPoints();
  /** Told after every change of pose. */
  changed: () => void = () => {};

  constructor(side: SideView) {
    for (const node of side.nodes) {
      this.rest.set(node.id, new Matrix4().fromArray(node.matrix));
      this.world.set(node.id, new Matrix4().fromArray(node.matrix));
      this.restWeights.set(node.id, node.weights);
    }
    for (const skin of side.skins) {
      const bones = skin.joints.map(() => new Bone());
      const inverses = skin.joints.map((_, j) => new Matrix4().fromArray(skin.inverseBind, 16 * j));
      this.skeletons.set(skin.id, {
        skeleton: new Skeleton(bones, inverses),
        joints: skin.joints,
        // Where each joint stood at bind: there the inverse bind matrices undo it.
        bound: inverses.map((m) => new Matrix4().fromArray(skin.bind).multiply(m.clone().invert())),
      });
    }
    this.pose(null, 0);
  }

  skeleton(skinId: number): Skeleton | undefined {
    return this.skeletons.get(skinId)?.skeleton;
  }

  /** A mesh that shows a node; the function takes it away again. */
  add(nodeId: number, mesh: Shown): () => void {
    const all = this.shown.get(nodeId) ?? new Set();
    all.add(mesh);
    this.shown.set(nodeId, all);
    this.place(nodeId);
    this.weigh(nodeId, this.weightsNow(nodeId));
    this.moved.pose(this.choice === 'clip' ? this.motion : null, this.seconds, this.shown);
    return () => all.delete(mesh);
  }

  /** A mesh that shows many nodes; the function takes it away again. */
  addMany(nodeIds: number[], mesh: InstancedMesh): () => void {
    this.many.set(mesh, nodeIds);
    this.placeMany(mesh, nodeIds);
    return () => this.many.delete(mesh);
  }

  private placeMany(mesh: InstancedMesh, nodeIds: number[]) {
    for (const [i, id] of nodeIds.entries()) {
      const world = this.gone.has(id) ? NOTHING : this.world.get(id);
      if (world) {
        mesh.setMatrixAt(i, world);
      }
    }
    mesh.instanceMatrix.needsUpdate = true;
    mesh.boundingSphere = null;
    mesh.boundingBox = null;
  }

  /** Weights set by hand instead of the clip's; `null` gives them back. */
  setWeights(nodeId: number, weights: number[] | null) {
    if (weights) {
      this.handWeights.set(nodeId, weights);
    } else {
      this.handWeights.delete(nodeId);
    }
    this.pose(this.motion, this.seconds);
  }

  /** Chooses between the clip's or rest pose and the one that skins were bound in. */
  choose(choice: PoseChoice) {
    this.choice = choice;
    this.pose(this.motion, this.seconds);
  }

  /** Sets the pose of a moment of a clip, or the rest pose. */
  pose(motion: Motion | null, seconds: number) {
    this.motion = motion;
    this.seconds = seconds;
    for (const [id, matrix] of this.rest) {
      this.world.get(id)?.copy(matrix);
    }
    if (motion && motion.loaded > 0 && this.choice === 'clip') {
      const { frame, part } = frameAt(motion, seconds);
      for (const [place, id] of motion.nodes.entries()) {
        matrixAt(motion, place, frame, part, scratch);
        this.world.get(id)?.fromArray(scratch);
      }
    }
    this.gone.clear();
    if (motion && motion.loaded > 0 && this.choice === 'clip') {
      for (const [place, id] of motion.shown.entries()) {
        if (!seenAt(motion, place, seconds)) {
          this.gone.add(id);
        }
      }
    }
    for (const { skeleton, joints, bound } of this.skeletons.values()) {
      for (const [j, id] of joints.entries()) {
        const world = this.world.get(id);
        if (world && bound[j] && this.choice === 'bind') {
          world.copy(bound[j]);
        }
        if (world) {
          skeleton.bones[j]?.matrixWorld.copy(world);
        }
      }
    }
    for (const [mesh, ids] of this.many) {
      this.placeMany(mesh, ids);
    }
    for (const id of this.shown.keys()) {
      this.place(id);
      this.weigh(id, this.weightsNow(id));
    }
    this.moved.pose(this.choice === 'clip' ? motion : null, seconds, this.shown);
    this.changed();
  }

  private place(nodeId: number) {
    const world = this.world.get(nodeId);
    for (const mesh of this.shown.get(nodeId) ?? []) {
      // A skinned mesh is placed by its joints alone.
      if (world && !('isSkinnedMesh' in mesh)) {
        mesh.matrix.copy(world);
      }
      mesh.visible = !this.gone.has(nodeId);
      mesh.matrixWorldNeedsUpdate = true;
    }
  }

  private weightsNow(nodeId: number): number[] {
    const byHand = this.handWeights.get(nodeId);
    if (byHand) {
      return byHand;
    }
    if (this.choice === 'bind') {
      return [];
    }
    const motion = this.motion;
    if (motion && motion.loaded > 0 && this.choice === 'clip') {
      let at = 0;
      for (const { node, count } of motion.morphs) {
        if (node === nodeId) {
          const width = motion.morphs.reduce((sum, m) => sum + m.count, 0);
          const { frame, part } = frameAt(motion, this.seconds);
          const next = Math.min(frame + 1, motion.loaded - 1);
          return Array.from({ length: count }, (_, i) => {
            const a = motion.weights[width * frame + at + i] ?? 0;
            const b = motion.weights[width * next + at + i] ?? 0;
            return a + part * (b - a);
          });
        }
        at += count;
      }
    }
    return this.restWeights.get(nodeId) ?? [];
  }

  private weigh(nodeId: number, weights: number[]) {
    for (const mesh of this.shown.get(nodeId) ?? []) {
      const influences = mesh.morphTargetInfluences;
      if (influences) {
        for (let i = 0; i < influences.length; i++) {
          influences[i] = weights[i] ?? 0;
        }
      }
    }
  }

  dispose() {
    this.moved.pose(null, 0, this.shown);
    for (const { skeleton } of this.skeletons.values()) {
      skeleton.dispose();
    }
  }
}
