import type { Node } from '@gltf-transform/core';

/** Parents of a node, nearest first. */
export function ancestors(node: Node): Node[] {
  const out: Node[] = [];
  for (let n = node.getParentNode(); n; n = n.getParentNode()) out.push(n);
  return out;
}

/** Adds the nodes between the wanted ones up to the one that they all hang from; parents before children. */
export function connect(wanted: readonly Node[]): Node[] {
  const lines = wanted.map((n) => [n, ...ancestors(n)]);
  const shared = lines[0]!.find((candidate) => lines.every((line) => line.includes(candidate)))!;
  const keep = new Set<Node>();
  for (const line of lines) for (const n of line.slice(0, line.indexOf(shared) + 1)) keep.add(n);
  const order: Node[] = [];
  const visit = (n: Node): void => {
    if (!keep.has(n)) return;
    order.push(n);
    n.listChildren().forEach(visit);
  };
  visit(shared);
  return order;
}
