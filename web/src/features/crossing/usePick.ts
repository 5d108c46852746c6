import { useCallback } from 'react';
import { getJson, type PickedElement, type SideView } from '../../api/client';
import { complain } from '../../shared/Notices';
import type { OnPick } from '../../view3d/CameraRig';
import { type Side, useView } from '../../view3d/viewState';

/** What a click in a view does: picks a part, or asks the server which face and vertex was hit. */
export function usePick(crossingId: string, which: Side, side: SideView | undefined): OnPick {
  return useCallback(
    (nodeId, add, hit) => {
      const { selected, picks, pickMode, set } = useView.getState();
      if (pickMode === 'face' || pickMode === 'vertex') {
        const mesh = side?.nodes.find((n) => n.id === nodeId)?.mesh;
        if (nodeId === null || !hit || !mesh) {
          set({ picks: add ? picks : [] });
          return;
        }
        const query = new URLSearchParams({
          mesh,
          primitive: String(hit.part),
          triangle: String(hit.triangle),
          point: hit.point.join(','),
        });
        getJson<PickedElement>(`/api/crossings/${crossingId}/pick?${query}`)
          .then((found) => {
            const pick = {
              side: which,
              nodeId,
              face: found.face,
              vertex: found.vertex,
              position: found.position,
              triangle: hit.corners,
            };
            // Steps take elements of one part of one side.
            const kept = useView
              .getState()
              .picks.filter((p) => add && p.nodeId === nodeId && p.side === which);
            const twice = kept.some((p) => p.face === pick.face && p.vertex === pick.vertex);
            set({ picks: twice ? kept : [...kept, pick], selected: [nodeId], finding: null });
          })
          .catch(complain);
        return;
      }
      if (nodeId === null) {
        set({ selected: add ? selected : [], finding: null });
      } else if (add) {
        set({
          selected: selected.includes(nodeId)
            ? selected.filter((n) => n !== nodeId)
            : [...selected, nodeId],
        });
      } else {
        set({ selected: [nodeId] });
      }
    },
    [crossingId, which, side],
  );
}
