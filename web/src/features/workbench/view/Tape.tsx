import { DoubleSide } from 'three';

/** Flat colour that is seen from both sides and through everything. */
export const Tape = ({ colour, opacity }: { colour: string; opacity: number }) => (
  <meshBasicMaterial
    color={colour}
    transparent
    opacity={opacity}
    side={DoubleSide}
    forceSinglePass
    depthTest={false}
  />
);
