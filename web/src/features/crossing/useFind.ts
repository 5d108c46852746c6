import { useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import type { HandlingState, MarksView, NodeView, SideView } from '../../api/client';
import { queries } from '../../api/queries';
import {
  type Box,
  boxOfPoints,
  inRadii,
  sideBox,
  transformPoint,
  union,
} from '../../view3d/data/bounds';
import { meshBox } from '../../view3d/useMeshes';
import { type Side, useView, type Vec3 } from '../../view3d/viewState';

/** Frames the selection, a finding, or everything, on both sides. */
export function useFind(id: string) {
  const client = useQueryClient();
  return useCallback(
    (marks?: MarksView) => {
      const near = client.getQueryData<SideView>(queries.near(id).queryKey);
      const handling = client.getQueryData<HandlingState>(queries.handling(id).queryKey);
      const far =
        handling &&
        client.getQueryData<SideView>(queries.far(id, handling.revision, null).queryKey);
      const { selected, frame } = useView.getState();
      const targets: Record<Side, Vec3> = { near: [0, 0, 0], far: [0, 0, 0] };
      let radius = 1;
      for (const [name, side] of [
        ['near', near],
        ['far', far],
      ] as const) {
        if (!side) {
          continue;
        }
        const box = marks ? boxOfMarks(marks, side) : boxOfNodes(side, selected);
        if (box) {
          const place = inRadii(box, sideBox(side));
          targets[name] = place.target;
          radius = Math.max(0.02, place.radius);
        }
      }
      frame(targets, radius);
    },
    [client, id],
  );
}

function boxOfMarks(marks: MarksView, side: SideView): Box | null {
  let box: Box | null = null;
  for (const list of [marks.points, marks.segments, marks.triangles]) {
    const moved: number[] = [];
    for (let i = 0; i + 2 < list.length; i += 3) {
      moved.push(...transformPoint(side.fromNear, list, i));
    }
    box = union(box, boxOfPoints(moved));
  }
  return box;
}

/** The box of chosen parts with all below them; `null` when nothing is chosen. */
function boxOfNodes(side: SideView, selected: number[]): Box | null {
  if (selected.length === 0) {
    return null;
  }
  const inside = new Set(selected);
  let box: Box | null = null;
  for (const node of side.nodes) {
    if (inside.has(node.parent)) {
      inside.add(node.id);
    }
    if (inside.has(node.id)) {
      box = union(box, boxOfNode(node));
    }
  }
  return box;
}

function boxOfNode(node: NodeView): Box | null {
  const own = node.mesh ? meshBox(node.mesh) : null;
  if (!own) {
    return null;
  }
  const corners: number[] = [];
  for (let i = 0; i < 8; i++) {
    const corner = [0, 1, 2].map((k) => (i & (1 << k) ? own.max[k] : own.min[k]) as number);
    corners.push(...transformPoint(node.matrix, corner));
  }
  return boxOfPoints(corners);
}
