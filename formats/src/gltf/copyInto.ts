import type { Document, Graph, Property } from '@gltf-transform/core';
import { PropertyType } from '@gltf-transform/core';

type PropertyClass = new (graph: Graph<Property>) => Property;

/**
 * Copies everything of one document into another.
 *
 * @returns what each part of the one has become in the other
 */
export function copyInto(target: Document, source: Document): <T extends Property>(part: T) => T {
  const copies = new Map<Property, Property>([[source.getRoot(), target.getRoot()]]);
  const resolve = <T extends Property>(part: T): T => {
    // Settings of textures live with their material.
    if (part.propertyType === (PropertyType.TEXTURE_INFO as string)) return part;
    const known = copies.get(part);
    if (known) return known as T;
    const made = new (part.constructor as PropertyClass)(target.getGraph());
    copies.set(part, made);
    return made as T;
  };
  const parts = new Set<Property>();
  for (const edge of source.getGraph().listEdges())
    for (const part of [edge.getParent(), edge.getChild()])
      if (part.propertyType !== PropertyType.ROOT) parts.add(part);
  for (const part of parts) {
    const copy = resolve(part);
    if (copy !== part) copy.copy(part, resolve);
  }
  return resolve;
}
