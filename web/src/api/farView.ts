import { type FarChanges, getJson, type SideView } from './client';

/** The far side that came last: the page shows one crossing at a time. */
let last: { id: string; key: string; view: SideView } | undefined;

/** A far side of what came and the one that it is said against. */
export function merged(before: SideView | undefined, came: FarChanges): SideView {
  if (!came.base || !before) {
    return came.view;
  }
  const known = new Map(before.nodes.map((node) => [node.id, node]));
  for (const node of came.view.nodes) {
    known.set(node.id, node);
  }
  const order = came.order ?? before.nodes.map((node) => node.id);
  return { ...came.view, nodes: order.flatMap((id) => known.get(id) ?? []) };
}

/** The far side after some steps; parts that are as they were do not come again. */
export async function farView(id: string, after: number | null): Promise<SideView> {
  const before = last?.id === id ? last : undefined;
  const query = new URLSearchParams();
  if (after !== null) {
    query.set('after', String(after));
  }
  if (before) {
    query.set('known', before.key);
  }
  const came = await getJson<FarChanges>(`/api/crossings/${id}/far-changes?${query}`);
  const view = merged(came.base === before?.key ? before?.view : undefined, came);
  last = { id, key: came.key, view };
  return view;
}
