import type { BakedCamera } from '@warper/core';
import { usdNumber, usdString } from './text';

/** Metres between which a camera sees. */
const NEAR = 0.05;
const FAR = 200;

/**
 * A camera (UsdGeomCamera of OpenUSD) below a transform that moves it, sample by sample; its focal length, too, where that changes. Focal length and aperture are in tenths of
 * a unit of the scene.
 */
export function cameraText(
  { name, frames, places, rotations, lenses, gate }: BakedCamera,
  prim: string,
  unitsPerMetre: number,
): string {
  const tenths = (millimetres: number): string => (millimetres * unitsPerMetre * 0.01).toPrecision(9);
  const still = lenses.every((lens) => lens === lenses[0]);
  const samples = (of: (f: number) => string): string =>
    Array.from({ length: frames }, (_, f) => `            ${f}: ${of(f)},\n`).join('');
  return `    def Xform "${prim}" (
        displayName = ${usdString(name)}
    )
    {
        double3 xformOp:translate.timeSamples = {
${samples((f) => `(${[0, 1, 2].map((k) => usdNumber(places[f * 3 + k] ?? 0)).join(', ')})`)}        }
        quatf xformOp:orient.timeSamples = {
${samples((f) => `(${[3, 0, 1, 2].map((k) => (rotations[f * 4 + k] ?? 0).toFixed(8)).join(', ')})`)}        }
        uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:orient"]

        def Camera "Camera"
        {
            token projection = "perspective"
            float2 clippingRange = (${usdNumber(NEAR * unitsPerMetre)}, ${usdNumber(FAR * unitsPerMetre)})
            float horizontalAperture = ${tenths(gate[0])}
            float verticalAperture = ${tenths(gate[1])}
${
  still
    ? `            float focalLength = ${tenths(lenses[0] ?? 1)}\n`
    : `            float focalLength.timeSamples = {\n${samples((f) => tenths(lenses[f] ?? 1))}            }\n`
}        }
    }
`;
}
