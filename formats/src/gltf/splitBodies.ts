import type { Node } from '@gltf-transform/core';
import { chooseRoles } from '@warper/core';
import { ancestors, connect } from './nodeTrees';

/**
 * Parts the joints of a tree of nodes by the bodies that they are of: the skins of it that hang together, where at least two of these have
 * hips of their own. All else goes with the body that it is nearest to. A tree whose bodies are moved by one node stays one.
 *
 * @param wanted joints of skins and nodes that an animation moves
 * @param skins joints of each skin
 */
export function splitBodies(wanted: readonly Node[], skins: readonly (readonly Node[])[]): Node[][] {
  const own = new Set(wanted);
  // A skin may have joints in several trees.
  const inTree = skins
    .map((joints) => joints.filter((j) => own.has(j)))
    .filter((joints) => joints.length > 0);
  const bodies = joined(inTree.map((joints) => new Set(connect(joints)))).filter(hasHips);
  if (bodies.length < 2) return [[...wanted]];
  const groups = bodies.map((body) => wanted.filter((n) => body.has(n)));
  const tops = bodies.map((body) => [...body][0]!);
  for (const node of wanted) {
    if (bodies.some((body) => body.has(node))) continue;
    if (tops.filter((top) => ancestors(top).includes(node)).length > 1) return [[...wanted]];
    groups[nearest(node, tops)]!.push(node);
  }
  // In the order of the file, as they came.
  return groups.map((group) => wanted.filter((n) => group.includes(n)));
}

/** Sets of nodes that overlap, or of which one hangs below another, as one. */
function joined(sets: readonly ReadonlySet<Node>[]): ReadonlySet<Node>[] {
  const out: Set<Node>[] = [];
  for (const set of sets) {
    const [top] = set;
    const line = top ? [top, ...ancestors(top)] : [];
    const related = out.filter(
      (other) => line.some((n) => other.has(n)) || ancestors([...other][0]!).some((n) => set.has(n)),
    );
    const all = new Set(related.flatMap((o) => [...o]).concat([...set]));
    // Parents come first: the upper one of two tops does.
    const inOrder = new Set(connect([...all]));
    out.splice(0, out.length, ...out.filter((o) => !related.includes(o)), inOrder);
  }
  return out;
}

function hasHips(body: ReadonlySet<Node>): boolean {
  const nodes = [...body];
  const index = new Map(nodes.map((n, i) => [n, i]));
  const parents = nodes.map((n) => index.get(n.getParentNode()!) ?? -1);
  return chooseRoles(
    nodes.map((n) => n.getName()),
    parents,
  ).includes('hips');
}

/** The top whose line of parents a node shares for longest. */
function nearest(node: Node, tops: readonly Node[]): number {
  const line = new Set([node, ...ancestors(node)]);
  const shared = tops.map((top) => [top, ...ancestors(top)].filter((n) => line.has(n)).length);
  return shared.indexOf(Math.max(...shared));
}
