import { useMemo } from 'react';
import { BufferAttribute, BufferGeometry } from 'three';
import { themeColour } from './colours';

/** Half the width of the floor, metres. */
const REACH = 12;

/** Colours of the floor's lines by day and by night. */
export const floorColours = (theme: string): { readonly fine: string; readonly middle: string } =>
  theme === 'night' ? { fine: '#41454d', middle: '#5a5f68' } : { fine: '#cfc8b8', middle: '#b3aa98' };

/** The taped floor: a line every metre, the lines through the middle darker. */
export function Floor({ theme }: { theme: string }) {
  const { fine, middle } = useMemo(() => ({ fine: floorLines(false), middle: floorLines(true) }), []);
  const colours = useMemo(() => floorColours(theme), [theme]);
  return (
    <>
      <color attach="background" args={[theme ? themeColour('--plaster') : '#e6e1d6']} />
      <lineSegments geometry={fine}>
        <lineBasicMaterial color={colours.fine} />
      </lineSegments>
      <lineSegments geometry={middle}>
        <lineBasicMaterial color={colours.middle} />
      </lineSegments>
    </>
  );
}

/** Lines in pieces of a metre: long ones that pass behind the camera are not drawn by every renderer. */
export function floorLines(middle: boolean): BufferGeometry {
  const points: number[] = [];
  for (let i = -REACH; i <= REACH; i++) {
    if ((i === 0) !== middle) continue;
    for (let k = -REACH; k < REACH; k++) points.push(i, 0, k, i, 0, k + 1, k, 0, i, k + 1, 0, i);
  }
  return new BufferGeometry().setAttribute('position', new BufferAttribute(new Float32Array(points), 3));
}
