import { nanoid } from '@reduxjs/toolkit';

/** A new id, unlike any in use, however many are asked for at once: ten signs of 64, by chance. */
export const freshId = (prefix: string): string => `${prefix}${nanoid(10)}`;
