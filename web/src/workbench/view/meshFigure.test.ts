import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { compile, evaluate, makePose, makeWorldPose, poseToWorld, quatAngle } from '@warper/core';
import { MotionLibrary, assembleCues, parseCueSheet } from '@warper/formats';
import { Quaternion, Vector3 } from 'three';
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
    const pose = makePose(keeper.skeleton);
    const world = makeWorldPose(keeper.skeleton);
    for (const frame of [0, 133, 214, 347, 560, 700]) {
      figure.pose(evaluate(keeper, frame, pose));
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

  it('of bones follows the joints as well', () => {
    const figure = boneFigure(keeper.skeleton, '#888888');
    figure.pose(evaluate(keeper, 200, makePose(keeper.skeleton)));
    expect(figure.object.children).toHaveLength(2);
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
  });
});
