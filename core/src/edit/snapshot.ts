import type { Draft } from 'immer';
import { current, isDraft } from 'immer';

/** A value of the document as it stands while an edit is carried out; what the same edit has put there is no draft. */
export const snapshot = <T>(value: Draft<T>): T => (isDraft(value) ? current(value) : value) as T;
