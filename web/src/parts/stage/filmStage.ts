import type { CharacterPlan, Plan, Rate } from '@warper/core';
import { defined, evaluate, makeCameraPose, makePoseBuffer } from '@warper/core';
import type { BufferGeometry, Camera } from 'three';
import {
  Color,
  DirectionalLight,
  HemisphereLight,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  OrthographicCamera,
  PerspectiveCamera,
  Scene,
  Vector3,
  WebGLRenderer,
} from 'three';
import type { FilmAngle } from '../../data/keptFilm';
import { applyCameraPose } from './applyCameraPose';
import { hueColour, themeColour } from './colours';
import { filmedPose, pictureIn } from './filmedPose';
import { floorColours, floorLines } from './Floor';
import { footprintShape } from './footprintShape';
import { loadFigure } from './loadFigure';
import type { Figure } from './meshFigure';
import { floorTrace } from './paths';

/** How a performance is drawn, and by whom. */
export interface FilmedCast {
  readonly cast: readonly CharacterPlan[];
  readonly rate: Rate;
}

/** How a film looks. */
export interface FilmLook {
  /** Pixels; even numbers, as films have them. */
  readonly width: number;
  readonly height: number;
  readonly angle: FilmAngle;
  /** Id of a character with whom the camera goes along; null shows everything from one place. */
  readonly follow: string | null;
  /** The scene that is seen through its own cameras: through one by its id, or through its shots. */
  readonly through?: { readonly plan: Plan; readonly camera: string | null };
  readonly theme: 'day' | 'night';
  /** What the camera takes in, where that is not all that is shown in the frames that are filmed. */
  readonly framing?: Framing;
  /** Whether footprints are left on the floor. */
  readonly footprints?: boolean;
  /** For figures cut out on one line: no background, no perspective, the first character's root always at one place. */
  readonly anchor?: Anchor;
}

/** Performances and the frames [from, to) of them. */
export interface Framing {
  readonly cast: readonly CharacterPlan[];
  readonly from: number;
  readonly to: number;
}

/** Where the root of a figure stands in its picture. */
export interface Anchor {
  readonly pixelsPerMetre: number;
  /** Pixels from the bottom to the floor; sideways the root is in the middle. */
  readonly floor: number;
}

/** Draws any frame of a performance, beside the view and like it. */
export interface FilmStage {
  readonly canvas: HTMLCanvasElement;
  /** @param turn radians by which the camera goes round to the left */
  draw(frame: number, turn?: number): void;
  dispose(): void;
}

/** Angle of the view from top to bottom, degrees; and the height that is looked at, metres. */
const FIELD = 32;
const LOOK_HEIGHT = 0.85;
/** Metres around a root that a body takes up, and how much more than all bodies the picture shows. */
const REACH = 0.95;
const MARGIN = 1.15;
/** Share of the floor's depth that is seen as height. */
const TILT = 0.3;
/** Places of the performance that are looked at to see how far it goes. */
const PLACES = 48;

const DIRECTIONS: Readonly<Record<FilmAngle, readonly [number, number, number]>> = {
  'three-quarter': [0.62, 0.3, 0.78],
  front: [0, 0.12, 1],
  side: [1, 0.12, 0],
};

/**
 * Sets a stage up of its own for a film.
 *
 * @param span scene frames [from, to) that are filmed: they decide what the camera takes in
 * @throws Error where the browser gives no graphics
 */
export async function openFilmStage(
  { cast, rate }: FilmedCast,
  span: { readonly from: number; readonly to: number },
  look: FilmLook,
): Promise<FilmStage> {
  const canvas = document.createElement('canvas');
  const renderer = new WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true, alpha: true });
  renderer.setPixelRatio(1);
  renderer.setSize(look.width, look.height, false);
  const figures = await Promise.all(cast.map((c) => loadFigure(c.character)));
  const scene = stageScene(look, figures);
  const prints = look.footprints === true ? cast.flatMap((plan) => footprintsOf(plan, rate)) : [];
  for (const { mesh } of prints) scene.add(mesh);
  const buffers = cast.map((c) => makePoseBuffer(c.skeleton));
  const { camera, aim, picture } = look.anchor
    ? anchoredCamera(cast, span, look, look.anchor)
    : look.through
      ? sceneCamera(look.through, look)
      : freeCamera(look.framing ?? { cast, ...span }, look);
  return {
    canvas,
    draw: (frame, turn = 0) => {
      cast.forEach((plan, i) => figures[i]?.pose(evaluate(plan, frame, defined(buffers[i]))));
      for (const { mesh, from } of prints) mesh.visible = frame >= from;
      aim(frame, turn);
      if (picture) frameIn(renderer, look, picture);
      renderer.render(scene, camera);
    },
    dispose: () => {
      for (const figure of figures) figure?.dispose();
      for (const { mesh } of prints) {
        mesh.geometry.dispose();
        mesh.material.dispose();
      }
      renderer.dispose();
      renderer.forceContextLoss();
    },
  };
}

function stageScene({ theme, anchor }: FilmLook, figures: readonly (Figure | null)[]): Scene {
  const scene = new Scene();
  scene.add(new HemisphereLight('#ffffff', '#b9ae9a', 2.3));
  const sun = new DirectionalLight('#ffffff', 1.9);
  sun.position.set(3, 6, 4);
  scene.add(sun);
  for (const figure of figures) if (figure) scene.add(figure.object);
  if (anchor) return scene;
  scene.background = new Color(themeColour('--plaster'));
  const colours = floorColours(theme);
  scene.add(new LineSegments(floorLines(false), new LineBasicMaterial({ color: colours.fine })));
  scene.add(new LineSegments(floorLines(true), new LineBasicMaterial({ color: colours.middle })));
  return scene;
}

/** The footprints of a performance, each from when the foot stands there. */
function footprintsOf(
  plan: CharacterPlan,
  rate: Rate,
): { readonly mesh: Mesh<BufferGeometry, MeshBasicMaterial>; readonly from: number }[] {
  const colour = hueColour(plan.character.hue);
  return floorTrace(plan, rate).footprints.map((print) => ({
    mesh: new Mesh(
      footprintShape(print),
      new MeshBasicMaterial({ color: colour, transparent: true, opacity: 0.55, depthWrite: false }),
    ),
    from: print.from,
  }));
}

/** A camera, and what puts it for a frame. */
interface Aimed {
  readonly camera: Camera;
  readonly aim: (frame: number, turn: number) => void;
  /** The part that it fills, pixels from the left and top; all of it unless it is told. */
  readonly picture?: Rectangle;
}

interface Rectangle {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** A camera that sees the first character's root at one place of the picture, however it goes. */
function anchoredCamera(
  [first]: readonly CharacterPlan[],
  { from }: { readonly from: number },
  { angle, width, height }: FilmLook,
  { pixelsPerMetre, floor }: Anchor,
): Aimed {
  const plan = defined(first);
  const buffer = makePoseBuffer(plan.skeleton);
  const [half, below] = [width / 2 / pixelsPerMetre, floor / pixelsPerMetre];
  const camera = new OrthographicCamera(-half, half, height / pixelsPerMetre - below, -below, 0.05, 60);
  const heading = evaluate(plan, from, buffer).root[2] ?? 0;
  const [x, , z] = DIRECTIONS[angle];
  return {
    camera,
    aim: (frame, turn) => {
      const direction = turned([x, 0, z], heading + turn);
      const { root } = evaluate(plan, frame, buffer);
      const target = new Vector3(defined(root[0]), 0, defined(root[1]));
      camera.position.copy(target).addScaledVector(direction, 30);
      camera.lookAt(target);
    },
  };
}

/** The scene's own cameras, in a picture of the scene's aspect. */
function sceneCamera({ plan, camera: id }: NonNullable<FilmLook['through']>, look: FilmLook): Aimed {
  const camera = new PerspectiveCamera();
  const pose = makeCameraPose();
  const { aspect } = plan.filming;
  return {
    camera,
    picture: pictureIn(look, aspect),
    aim: (frame) => {
      if (filmedPose(plan, id, frame, pose)) applyCameraPose(camera, pose, aspect);
    },
  };
}

/** Draws into a part of the picture alone; what is around it is black. */
function frameIn(
  renderer: WebGLRenderer,
  { height: whole }: FilmLook,
  { left, top, width, height }: Rectangle,
): void {
  renderer.setScissorTest(false);
  renderer.setClearColor('#000000', 1);
  renderer.clear();
  const bottom = whole - top - height;
  renderer.setViewport(left, bottom, width, height);
  renderer.setScissor(left, bottom, width, height);
  renderer.setScissorTest(true);
}

/** A camera before all that happens, or before the one who is followed. */
function freeCamera({ cast, from, to }: Framing, { angle, follow, width, height }: FilmLook): Aimed {
  const camera = new PerspectiveCamera(FIELD, width / height, 0.05, 120);
  const followed = cast.find((c) => c.character.id === follow);
  const roots = (followed ? [followed] : cast).map((plan) => rootsOf(plan, from, to));
  const xs = roots.flatMap((r) => r.filter((_, i) => i % 3 === 0));
  const zs = roots.flatMap((r) => r.filter((_, i) => i % 3 === 1));
  const middle = (list: readonly number[]): number => (Math.min(...list) + Math.max(...list)) / 2;
  const size = Math.max(...cast.map((c) => c.character.size));
  const across = followed
    ? 0
    : Math.hypot(Math.max(...xs) - Math.min(...xs), Math.max(...zs) - Math.min(...zs)) / 2;
  const half = ((FIELD / 2) * Math.PI) / 180;
  const halfWide = Math.atan(Math.tan(half) * (width / height));
  // As high as bodies, and as far up as the floor that they cross is seen; as wide as they go.
  const distance =
    MARGIN *
    Math.max(
      (REACH * size + across * TILT) / Math.sin(half),
      (across + REACH * size * 0.6) / Math.sin(halfWide),
    );
  const heading = roots[0]?.[2] ?? 0;
  const ahead = angle === 'three-quarter' ? 0 : heading;
  const still = new Vector3(middle(xs), LOOK_HEIGHT * size, middle(zs));
  const buffer = followed && makePoseBuffer(followed.skeleton);
  const aim = (frame: number, turn: number): void => {
    const direction = turned(DIRECTIONS[angle], ahead + turn);
    const target = still.clone();
    if (followed && buffer) {
      const { root } = evaluate(followed, frame, buffer);
      target.set(defined(root[0]), LOOK_HEIGHT * followed.character.size, defined(root[1]));
    }
    camera.position.copy(target).addScaledVector(direction, distance);
    camera.lookAt(target);
  };
  return { camera, aim };
}

/** x, z and heading at places of a performance. */
function rootsOf(plan: CharacterPlan, from: number, to: number): number[] {
  const buffer = makePoseBuffer(plan.skeleton);
  const count = Math.max(2, Math.min(PLACES, to - from));
  return Array.from({ length: count }, (_, i) => [
    ...evaluate(plan, from + ((to - 1 - from) * i) / (count - 1), buffer).root,
  ]).flat();
}

function turned([x, y, z]: readonly [number, number, number], turn: number): Vector3 {
  const [s, c] = [Math.sin(turn), Math.cos(turn)];
  return new Vector3(x * c + z * s, y, z * c - x * s).normalize();
}
