import type { BakedCamera, MotionPieces, Skeleton } from '@warper/core';
import { makePoseBuffer, samplePose } from '@warper/core';
import { quatNormalize } from '@warper/core/kernels';
import type { GltfSource } from '../gltf/write';
import type { UpAxis } from '../upAxis';
import { cameraText } from './cameras';
import type { Skin, SkinnedPart } from './meshes';
import { readSkin } from './meshes';
import { usdMatrix, usdNames, usdNumber, usdQuaternions, usdString, usdVectors } from './text';

/** One of those who perform in a file. */
export interface UsdPerformer {
  readonly name: string;
  readonly motion: MotionPieces;
  /** Their body, whose skin goes with them; bones alone without. */
  readonly source?: GltfSource;
  readonly jointNames?: readonly string[];
}

/** How what is written stands to metres with +Y up, which is the default. */
export interface UsdWriteOptions {
  readonly unitsPerMetre?: number;
  readonly upAxis?: UpAxis;
  /** Cameras beside those who perform, of as many samples. */
  readonly cameras?: readonly BakedCamera[];
}

/** Name of the prim that everything hangs on. */
const SCENE = 'Scene';

/**
 * Those who perform as USD text (".usda"), in parts: each is a SkelRoot with a Skeleton, a SkelAnimation of one sample a time code, and the
 * skinned meshes of its body (UsdSkel and UsdPreviewSurface schemas of OpenUSD). As many time codes a second as samples. Units other than
 * metres and another axis up are a transform of the prim that everything hangs on.
 *
 * @param name of the scene
 */
export async function* usdParts(
  performers: readonly UsdPerformer[],
  name: string,
  { unitsPerMetre = 1, upAxis = 'y', cameras = [] }: UsdWriteOptions = {},
): AsyncGenerator<Uint8Array> {
  const encoder = new TextEncoder();
  const [first] = performers;
  if (!first) return;
  yield encoder.encode(head(first.motion, name, unitsPerMetre, upAxis));
  const prims = usdNames([...performers, ...cameras].map((p) => p.name));
  for (const [i, performer] of performers.entries())
    for await (const text of skelRoot(performer, prims[i]!)) yield encoder.encode(text);
  for (const [i, camera] of cameras.entries())
    yield encoder.encode(cameraText(camera, prims[performers.length + i]!, unitsPerMetre));
  yield encoder.encode('}\n');
}

const head = (
  { frames, rate }: MotionPieces,
  name: string,
  units: number,
  upAxis: UpAxis,
): string => `#usda 1.0
(
    defaultPrim = "${SCENE}"
    doc = ${usdString(name)}
    startTimeCode = 0
    endTimeCode = ${frames - 1}
    timeCodesPerSecond = ${usdNumber(rate)}
    framesPerSecond = ${usdNumber(rate)}
    metersPerUnit = ${usdNumber(1 / units)}
    upAxis = "${upAxis.toUpperCase()}"
)

def Xform "${SCENE}"
{
${placement(units, upAxis)}`;

/** What takes metres with +Y up into the units of the file, and its axis. */
function placement(units: number, upAxis: UpAxis): string {
  const turn = upAxis === 'z' ? ['    float xformOp:rotateX = 90\n'] : [];
  const scale =
    units === 1 ? [] : [`    float3 xformOp:scale = (${[units, units, units].map(usdNumber).join(', ')})\n`];
  const order = [
    ...(turn.length > 0 ? ['"xformOp:rotateX"'] : []),
    ...(scale.length > 0 ? ['"xformOp:scale"'] : []),
  ];
  return order.length === 0
    ? ''
    : `${[...turn, ...scale].join('')}    uniform token[] xformOpOrder = [${order.join(', ')}]\n\n`;
}

async function* skelRoot(
  { name, motion, source, jointNames }: UsdPerformer,
  prim: string,
): AsyncGenerator<string> {
  const { skeleton } = motion;
  const path = `/${SCENE}/${prim}`;
  const tokens = jointTokens(skeleton, jointNames ?? skeleton.names);
  const joints = `uniform token[] joints = [${tokens.map((t) => `"${t}"`).join(', ')}]`;
  const skin = source ? await readSkin(source, skeleton) : null;
  yield `    def SkelRoot "${prim}" (
        displayName = ${usdString(name)}
        prepend apiSchemas = ["SkelBindingAPI"]
    )
    {
        rel skel:skeleton = <${path}/Skeleton>

        def Skeleton "Skeleton" (
            prepend apiSchemas = ["SkelBindingAPI"]
        )
        {
            ${joints}
            uniform matrix4d[] bindTransforms = [${bindTransforms(skeleton, skin).join(', ')}]
            uniform matrix4d[] restTransforms = [${restTransforms(skeleton).join(', ')}]
            rel skel:animationSource = <${path}/Skeleton/Animation>

            def SkelAnimation "Animation"
            {
                ${joints}
                half3[] scales = [${tokens.map(() => '(1, 1, 1)').join(', ')}]
`;
  yield* timeSamples(motion);
  yield `            }
        }
`;
  const names = usdNames(skin?.parts.map((part) => part.name) ?? []);
  for (const [i, part] of (skin?.parts ?? []).entries()) yield meshText(part, names[i]!, path);
  yield '    }\n';
}

/** Where each joint is on its way from the top, by names: "hips/spine/chest". */
function jointTokens({ parents }: Skeleton, names: readonly string[]): string[] {
  const plain = usdNames(names);
  const tokens: string[] = [];
  plain.forEach((name, j) => tokens.push(parents[j]! < 0 ? name : `${tokens[parents[j]!]}/${name}`));
  return tokens;
}

/** Samples that are written at once. */
const SAMPLES = 256;

/** Rotations and places of all joints, one sample a time code. An attribute's samples stand together, so that places are kept meanwhile. */
async function* timeSamples(motion: MotionPieces): AsyncGenerator<string> {
  const { skeleton, translated } = motion;
  const buffer = makePoseBuffer(skeleton);
  const kept: Float64Array[] = [];
  yield '                quatf[] rotations.timeSamples = {\n';
  let f = 0;
  for await (const piece of motion.pieces()) {
    let text = '';
    const places = new Float64Array(piece.frames * translated.length * 3);
    for (let s = 0; s < piece.frames; s++, f++) {
      const { rotations, translations } = samplePose(piece, s, buffer);
      for (let q = 0; q < rotations.length; q += 4) quatNormalize(rotations, q);
      text += `                    ${f}: ${usdQuaternions(rotations)},\n`;
      translated.forEach((joint, i) =>
        places.set(translations.subarray(joint * 3, joint * 3 + 3), (s * translated.length + i) * 3),
      );
    }
    kept.push(places);
    yield text;
  }
  yield '                }\n                float3[] translations.timeSamples = {\n';
  yield* placeSamples(skeleton, translated, kept);
  yield '                }\n';
}

/** Places of all joints sample by sample: those that move as they were kept, all others as they rest. */
function* placeSamples(
  { restTranslations }: Skeleton,
  translated: Int32Array,
  kept: readonly Float64Array[],
): Generator<string> {
  const all = Float64Array.from(restTranslations);
  const width = translated.length * 3;
  let f = 0;
  let text = '';
  for (const places of kept)
    for (let at = 0; at < places.length; at += width, f++) {
      translated.forEach((joint, i) => all.set(places.subarray(at + i * 3, at + i * 3 + 3), joint * 3));
      text += `                    ${f}: ${usdVectors(all)},\n`;
      if (f % SAMPLES !== SAMPLES - 1) continue;
      yield text;
      text = '';
    }
  yield text;
}

function restTransforms({ names, restRotations, restTranslations }: Skeleton): string[] {
  return names.map((_, j) => usdMatrix(transform(restRotations, restTranslations, j)));
}

/** Where joints are bound: as the skin has it, else as they rest. */
const bindTransforms = ({ names, rest }: Skeleton, skin: Skin | null): string[] =>
  names.map((_, j) => usdMatrix(skin?.binds[j] ?? transform(rest.rotations, rest.positions, j)));

/** A rotation and a place as 16 numbers, column by column. */
function transform(rotations: Float64Array, places: Float64Array, j: number): Float64Array {
  const [x, y, z, w] = [0, 1, 2, 3].map((k) => rotations[j * 4 + k]!) as [number, number, number, number];
  const [px, py, pz] = [0, 1, 2].map((k) => places[j * 3 + k]!) as [number, number, number];
  return Float64Array.of(
    ...[1 - 2 * (y * y + z * z), 2 * (x * y + z * w), 2 * (x * z - y * w), 0],
    ...[2 * (x * y - z * w), 1 - 2 * (x * x + z * z), 2 * (y * z + x * w), 0],
    ...[2 * (x * z + y * w), 2 * (y * z - x * w), 1 - 2 * (x * x + y * y), 0],
    ...[px, py, pz, 1],
  );
}

function meshText(part: SkinnedPart, name: string, path: string): string {
  const { points, normals, corners, joints, weights, colour, opacity, roughness } = part;
  const list = (values: ArrayLike<number>): string => `[${Array.from(values, usdNumber).join(', ')}]`;
  const triangles = new Array<number>(corners.length / 3).fill(3);
  const rgb = `(${colour.map(usdNumber).join(', ')})`;
  return `
        def Mesh "${name}" (
            prepend apiSchemas = ["SkelBindingAPI", "MaterialBindingAPI"]
        )
        {
            uniform token subdivisionScheme = "none"
            int[] faceVertexCounts = ${list(triangles)}
            int[] faceVertexIndices = ${list(corners)}
            point3f[] points = ${usdVectors(points)}${
              normals
                ? `
            normal3f[] normals = ${usdVectors(normals)} (
                interpolation = "vertex"
            )`
                : ''
            }
            color3f[] primvars:displayColor = [${rgb}]
            matrix4d primvars:skel:geomBindTransform = ${usdMatrix([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1])}
            int[] primvars:skel:jointIndices = ${list(joints)} (
                elementSize = 4
                interpolation = "vertex"
            )
            float[] primvars:skel:jointWeights = ${list(weights)} (
                elementSize = 4
                interpolation = "vertex"
            )
            rel skel:skeleton = <${path}/Skeleton>
            rel material:binding = <${path}/${name}/Material>

            def Material "Material"
            {
                token outputs:surface.connect = <${path}/${name}/Material/Surface.outputs:surface>

                def Shader "Surface"
                {
                    uniform token info:id = "UsdPreviewSurface"
                    color3f inputs:diffuseColor = ${rgb}
                    float inputs:opacity = ${usdNumber(opacity)}
                    float inputs:roughness = ${usdNumber(roughness)}
                    token outputs:surface
                }
            }
        }
`;
}
