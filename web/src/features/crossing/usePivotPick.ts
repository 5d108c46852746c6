import { useCallback, useMemo } from 'react';
import { getJson, type PickedElement, type SideView, type Step } from '../../api/client';
import { complain } from '../../shared/Notices';
import type { Aim, Hit, OnPick } from '../../view3d/CameraRig';
import { sideBox } from '../../view3d/data/bounds';
import type { Part } from '../../view3d/data/meshBlock';
import { type BoxPoint, boxPoints, gridCrossing } from '../../view3d/data/pivots';
import { squareOf } from '../../view3d/GroundGrid';
import { useView } from '../../view3d/viewState';
import { newStepId, useHandling } from './useHandling';

const NEAR_PIXELS = 11;
const KIND = 'pivot';

/**
 * Takes the pivot of the selected parts from the far view: from a point of the box, a vertex, or a
 * crossing of the ground's lines. Without a selection a click selects, as it does elsewhere.
 */
export function usePivotPick(
  crossingId: string,
  side: SideView | undefined,
  parts: Map<string, Part[]>,
  otherwise: OnPick,
): { handles: BoxPoint[]; onPick: OnPick } {
  const on = useView((s) => s.pickMode === 'pivot');
  const selected = useView((s) => s.selected);
  const { state, change } = useHandling(crossingId, true);
  const last = state?.steps.at(-1)?.nodeIds;
  const handles = useMemo(
    () => (on && side && selected[0] !== undefined ? boxPoints(side, parts, selected[0]) : []),
    [on, side, parts, selected],
  );
  const onPick: OnPick = useCallback(
    (nodeId, add, hit, aim) => {
      if (!on || add || selected.length === 0 || (handles.length === 0 && nodeId !== null)) {
        otherwise(nodeId, add, hit, aim);
        return;
      }
      if (!side || handles.length === 0) {
        // The far side is still on its way: a click beside the part must not let go of it.
        return;
      }
      place(crossingId, side, handles, nodeId, hit, aim)
        .then(
          (params) => params && change((steps) => withPivot(steps, last ?? [], selected, params)),
        )
        .catch(complain);
    },
    [on, side, handles, otherwise, crossingId, change, selected, last],
  );
  return { handles, onPick };
}

/** What was clicked, as the step takes it; `null` beside everything. */
async function place(
  crossingId: string,
  side: SideView,
  handles: BoxPoint[],
  nodeId: number | null,
  hit: Hit | null,
  aim: Aim,
): Promise<Step['params'] | null> {
  const handle =
    handles[
      aim.nearest(
        handles.map((h) => h.position),
        NEAR_PIXELS,
      )
    ];
  if (handle) {
    return { to: 'box', side: handle.side, height: handle.height, depth: handle.depth };
  }
  const mesh = side.nodes.find((n) => n.id === nodeId)?.mesh;
  if (nodeId !== null && hit && mesh) {
    const query = new URLSearchParams({
      mesh,
      primitive: String(hit.part),
      triangle: String(hit.triangle),
      point: hit.point.join(','),
    });
    const found = await getJson<PickedElement>(`/api/crossings/${crossingId}/pick?${query}`);
    return { to: 'vertex', vertex: `${nodeId}:${found.vertex}` };
  }
  const ground = aim.ground();
  if (!ground) {
    return null;
  }
  const crossing = gridCrossing(ground, squareOf(sideBox(side), side.metresPerUnit));
  return aim.nearest([crossing], 2 * NEAR_PIXELS) === 0
    ? { to: 'point', x: crossing[0], y: crossing[1], z: crossing[2] }
    : null;
}

/**
 * Another try for the same parts takes the place of the last one.
 *
 * @param lastNodes what the last step works on, by the ids that these parts have now
 */
export function withPivot(
  steps: Step[],
  lastNodes: number[],
  nodeIds: number[],
  params: Step['params'],
): Step[] {
  const last = steps.at(-1);
  const same = lastNodes.length === nodeIds.length && lastNodes.every((id) => nodeIds.includes(id));
  if (last?.kind === KIND && last.enabled && same) {
    const kept = { snap: last.params.snap, motion: last.params.motion };
    return [...steps.slice(0, -1), { ...last, params: { ...kept, ...params }, paramParts: {} }];
  }
  return [
    ...steps,
    {
      id: newStepId(),
      kind: KIND,
      params,
      enabled: true,
      nodeIds,
      pattern: '',
      ofKind: '',
      parts: [],
      paramParts: {},
    },
  ];
}
