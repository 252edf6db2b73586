let down = false;

/** Whether a pointer is being pressed: what gets the focus meanwhile has not been chosen by the focus. */
export const isPressing = (): boolean => down;

/** Watches presses on an element; gives what ends it. */
export function watchPresses(element: HTMLElement): () => void {
  const press = (): void => void (down = true);
  const release = (): void => void (down = false);
  element.addEventListener('pointerdown', press, true);
  window.addEventListener('pointerup', release, true);
  window.addEventListener('pointercancel', release, true);
  return () => {
    release();
    element.removeEventListener('pointerdown', press, true);
    window.removeEventListener('pointerup', release, true);
    window.removeEventListener('pointercancel', release, true);
  };
}
