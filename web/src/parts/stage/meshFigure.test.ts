import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import {
  bake,
  compile,
  evaluate,
  findSteps,
  makePoseBuffer,
  makeWorldPose,
  poseToWorld,
  restHeight,
} from '@warper/core';
import { quatAngle } from '@warper/core/kernels';
import { MotionLibrary, assembleCues, parseCueSheet } from '@warper/formats';
import type { InstancedMesh } from 'three';
import { Matrix4, Quaternion, Vector3 } from 'three';
import { boneFigure } from './boneFigure';
import { meshFigure } from './meshFigure';
import { floorTrace } from './paths';

Object.assign(globalThis, { self: globalThis });
const made = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../../../demo/made/${encodeURIComponent(name)}`, import.meta.url)));
const sheet = parseCueSheet(JSON.parse(new TextDecoder().decode(made('lamp-round.cues.json'))));
const { scene, library } = await assembleCues(
  sheet,
  (name) => Promise.resolve(made(name)),
  new MotionLibrary(),
);
const plan = compile(scene, library);
const keeper = plan.characters[0]!;

describe('the figure in the view', () => {
  it('stands joint for joint where evaluation, and so the bake, puts it', async () => {
    const { body, source } = library.bodyEntry(keeper.character.body)!;
    const figure = await meshFigure(body, source.bytes);
    const buffer = makePoseBuffer(keeper.skeleton);
    const world = makeWorldPose(keeper.skeleton);
    for (const frame of [0, 133, 214, 347, 560, 700]) {
      const pose = evaluate(keeper, frame, buffer);
      figure.pose(pose);
      figure.object.updateMatrixWorld(true);
      poseToWorld(keeper.skeleton, pose, world);
      keeper.skeleton.names.forEach((name, j) => {
        const node = figure.object.getObjectByName(name)!;
        expect(
          node.getWorldPosition(new Vector3()).distanceTo(new Vector3().fromArray(world.positions, j * 3)),
        ).toBeLessThan(1e-6);
        const turn = Float64Array.from(node.getWorldQuaternion(new Quaternion()).toArray());
        expect(quatAngle(turn, 0, world.rotations, j * 4)).toBeLessThan(1e-6);
      });
    }
    figure.dispose();
  });

  it.each([
    ['where its file tells where chains end', keeper.skeleton.ends],
    ['where it does not', keeper.skeleton.names.map(() => null)],
  ])('of bones follows the joints as well, with a head on top: %s', (_, ends) => {
    const skeleton = { ...keeper.skeleton, ends };
    const figure = boneFigure(skeleton, '#888888');
    const pose = evaluate(keeper, 200, makePoseBuffer(skeleton));
    const { positions } = poseToWorld(skeleton, pose, makeWorldPose(skeleton));
    figure.pose(pose);
    const [bars, balls] = figure.object.children as [InstancedMesh, InstancedMesh];
    const at = (mesh: InstancedMesh, i: number, y: number): Vector3 => {
      const matrix = new Matrix4();
      mesh.getMatrixAt(i, matrix);
      return new Vector3(0, y, 0).applyMatrix4(matrix);
    };
    const joint = (j: number): Vector3 => new Vector3().fromArray(positions, j * 3);
    skeleton.names.forEach((_, j) => expect(at(balls, j, 0).distanceTo(joint(j))).toBeLessThan(1e-6));
    const told = ends.filter((e, j) => e && skeleton.roles[j] !== 'head').length;
    expect(bars.count).toBe(skeleton.names.length - 1 + told);
    const head = skeleton.roles.indexOf('head');
    const [chin, crown] = [-1, 1].map((y) => at(balls, skeleton.names.length, y)) as [Vector3, Vector3];
    expect(chin.distanceTo(joint(head))).toBeLessThan(1e-6);
    // A head is about an eighth of a body high (common practice in figure drawing).
    expect(crown.y - chin.y).toBeGreaterThan(restHeight(skeleton) / 10);
    expect(crown.y - chin.y).toBeLessThan(restHeight(skeleton) / 7);
    figure.dispose();
  });
});

describe('what a performance leaves on the floor', () => {
  it('is a path of every frame and a print for every step', () => {
    const trace = floorTrace(keeper, plan.rate);
    expect(trace.roots).toHaveLength((keeper.end - keeper.start) * 2);
    expect(floorTrace(keeper, plan.rate)).toBe(trace);
    expect(trace.footprints.length).toBeGreaterThan(15);
    // The Keeper walks out facing +Z and back facing -Z: every print points one of these ways or is part of the turn.
    const along = trace.footprints.filter((p) => Math.abs(Math.sin(p.heading)) < 0.25);
    expect(along.length / trace.footprints.length).toBeGreaterThan(0.7);
    // A foot is 0.152 of a body's height long (Drillis and Contini, 1966).
    const foot = 0.152 * restHeight(keeper.skeleton);
    for (const { length } of trace.footprints) expect(Math.abs(length - foot)).toBeLessThan(0.1 * foot);
  });

  it('is a print of every paw of a dog, each as the dog faces', () => {
    const dog = plan.characters[2]!;
    const { footprints, facings } = floorTrace(dog, plan.rate);
    const steps = findSteps(bake(dog, plan.rate)).joints.map((j) => j.spans.length);
    expect(steps).toHaveLength(4);
    expect(footprints).toHaveLength(steps.reduce((a, b) => a + b));
    for (const p of footprints) expect(Math.abs(p.heading - facings[0]!.heading)).toBeLessThan(0.1);
  });
});
