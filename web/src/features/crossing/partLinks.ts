import type { SideView } from '../../api/client';

type Nodes = SideView['nodes'];

/** How a link names a part: its path, and which of that path it is where there are several. */
export function linkOfPart(nodes: Nodes, id: number): string | null {
  const node = nodes.find((n) => n.id === id);
  if (!node) {
    return null;
  }
  const same = nodes.filter((n) => n.path === node.path);
  return same.length === 1 ? node.path : `${node.path}~${same.indexOf(node) + 1}`;
}

/** The part that a link names, if it is there and there is only one that it can mean. */
export function partOfLink(nodes: Nodes, link: string): number | undefined {
  const whole = nodes.filter((n) => n.path === link);
  if (whole.length === 1) {
    return whole[0]?.id;
  }
  const mark = link.lastIndexOf('~');
  const ordinal = Number(link.slice(mark + 1));
  const same = mark < 0 ? [] : nodes.filter((n) => n.path === link.slice(0, mark));
  return Number.isInteger(ordinal) ? same[ordinal - 1]?.id : undefined;
}
