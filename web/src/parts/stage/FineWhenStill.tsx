import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useRef } from 'react';

/** Pixels of the picture for one of the page, along an edge, while something moves and at most once it has come to rest. */
const MOVING = 1;
const STILL = 2;
/** Pixels of a picture that are drawn at most: about a third of a second. */
const MOST_PIXELS = 3_500_000;
/** Milliseconds without a picture after which it has come to rest. */
const REST = 700;

/**
 * Draws twice as finely once nothing has moved for a moment. Without a graphics card smooth edges take as long as all else in a picture, so
 * that what moves would have half the pictures.
 */
export function FineWhenStill() {
  const setDpr = useThree((s) => s.setDpr);
  const invalidate = useThree((s) => s.invalidate);
  const state = useRef<{ fine: 'no' | 'asked' | 'drawn'; timer: number }>({ fine: 'no', timer: 0 });
  useEffect(() => {
    const { current } = state;
    return () => clearTimeout(current.timer);
  }, []);
  useFrame(({ size }) => {
    const { current } = state;
    if (current.fine === 'asked') {
      current.fine = 'drawn';
      return;
    }
    if (current.fine === 'drawn') setDpr(MOVING);
    current.fine = 'no';
    clearTimeout(current.timer);
    const fine = Math.min(STILL, Math.sqrt(MOST_PIXELS / (size.width * size.height)));
    if (fine <= MOVING) return;
    current.timer = window.setTimeout(() => {
      current.fine = 'asked';
      setDpr(fine);
      invalidate();
    }, REST);
  });
  return null;
}
