import type { Document } from '@gltf-transform/core';

/** Puts everything into the first buffer: a GLB has one. */
export function mergeBuffers(document: Document): void {
  const [first, ...others] = document.getRoot().listBuffers();
  for (const other of others) {
    for (const accessor of document.getRoot().listAccessors()) {
      if (accessor.getBuffer() === other) accessor.setBuffer(first!);
    }
    other.dispose();
  }
}
