import { defined } from '@warper/core';
import type { RefObject } from 'react';
import { useEffect, useRef } from 'react';

/** Whether a pointer is being pressed on an element: what gets the focus meanwhile has not been chosen by the focus. */
export function usePressing(element: RefObject<HTMLElement | null>): RefObject<boolean> {
  const pressing = useRef(false);
  useEffect(() => {
    const pressed = defined(element.current);
    const press = (): void => void (pressing.current = true);
    const release = (): void => void (pressing.current = false);
    pressed.addEventListener('pointerdown', press, true);
    window.addEventListener('pointerup', release, true);
    window.addEventListener('pointercancel', release, true);
    return () => {
      release();
      pressed.removeEventListener('pointerdown', press, true);
      window.removeEventListener('pointerup', release, true);
      window.removeEventListener('pointercancel', release, true);
    };
  }, [element]);
  return pressing;
}
