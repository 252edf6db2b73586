import type { Edit } from '../edit/edit';
import type { Scene } from '../scene/scene';

export type Of<T extends Edit['type']> = Extract<Edit, { readonly type: T }>;

/** What one kind of edit does to a known scene, and what it is called. A kind without an example is an error of types. */
export interface Example<T extends Edit['type']> {
  readonly edit: Omit<Of<T>, 'type'>;
  readonly name: string;
  readonly does: (scene: Scene) => unknown;
  readonly gives: unknown;
}
