/** Space presses a button that has the focus, and nothing else. */
export const pressesItself = (e: KeyboardEvent): boolean =>
  e.target instanceof HTMLElement && e.target.closest('button, a') !== null;
