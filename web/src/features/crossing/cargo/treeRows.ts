import type { NodeView } from '../../../api/client';

export interface TreeRow {
  node: NodeView;
  depth: number;
  children: boolean;
  open: boolean;
}

/** Each part before those that hang on it, and these before the next beside it. */
function inTreeOrder(nodes: NodeView[]): NodeView[] {
  const below = new Map<number, NodeView[]>();
  for (const node of nodes) {
    const beside = below.get(node.parent);
    if (beside) {
      beside.push(node);
    } else {
      below.set(node.parent, [node]);
    }
  }
  const all: NodeView[] = [];
  const waiting = [...(below.get(-1) ?? [])].reverse();
  for (let node = waiting.pop(); node; node = waiting.pop()) {
    all.push(node);
    for (const child of (below.get(node.id) ?? []).reverse()) {
      waiting.push(child);
    }
  }
  return all;
}

/** Rows to show: children of closed parts left out; with a search, matches and their parents. */
export function visibleRows(nodes: NodeView[], closed: Set<number>, wanted: string): TreeRow[] {
  const search = wanted.trim().toLowerCase();
  const parents = new Set(nodes.map((n) => n.parent));
  const keep = new Set<number>();
  const byId = new Map(nodes.map((n) => [n.id, n]));
  if (search) {
    for (const node of nodes) {
      if (node.name.toLowerCase().includes(search)) {
        for (
          let at: NodeView | undefined = node;
          at && !keep.has(at.id);
          at = byId.get(at.parent)
        ) {
          keep.add(at.id);
        }
      }
    }
  }
  const depth = new Map<number, number>([[-1, -1]]);
  const shut = new Set<number>();
  const rows: TreeRow[] = [];
  for (const node of inTreeOrder(nodes)) {
    const d = (depth.get(node.parent) ?? -1) + 1;
    depth.set(node.id, d);
    if (shut.has(node.parent)) {
      shut.add(node.id);
      continue;
    }
    if (search && !keep.has(node.id)) {
      continue;
    }
    const open = search !== '' || !closed.has(node.id);
    if (!open) {
      shut.add(node.id);
    }
    rows.push({ node, depth: d, children: parents.has(node.id), open });
  }
  return rows;
}

/** All parts with a mesh that are neither chosen nor below a chosen one. */
export function outsideOf(nodes: NodeView[], selected: number[]): number[] {
  const inside = new Set(selected);
  for (const node of nodes) {
    if (inside.has(node.parent)) {
      inside.add(node.id);
    }
  }
  return nodes.filter((n) => n.mesh !== '' && !inside.has(n.id)).map((n) => n.id);
}
