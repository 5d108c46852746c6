import { useQuery } from '@tanstack/react-query';
import { queries } from '../../api/queries';
import type { BackdropView } from '../../view3d/Backdrop';
import { useMeshes } from '../../view3d/useMeshes';
import { useView } from '../../view3d/viewState';

/** The far side of the crossing that is chosen as a backdrop, once it is there. */
export function useBackdrop(crossingId: string): BackdropView | null {
  const chosen = useView((s) => s.backdrop);
  const id = chosen && chosen !== crossingId ? chosen : null;
  const handling = useQuery({ ...queries.handling(id ?? ''), enabled: id !== null });
  const revision = handling.data?.revision;
  const far = useQuery({
    ...queries.far(id ?? '', revision ?? 0, null),
    enabled: id !== null && revision !== undefined,
  });
  const side = id === null ? undefined : far.data;
  const meshes = useMeshes(id ?? '', side, 'none');
  return side && meshes.ready ? { side, parts: meshes.parts } : null;
}
