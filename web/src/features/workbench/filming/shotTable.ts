import type { Plan, Scene } from '@warper/core';
import { cameraAt, lineCrossings, makeCameraPose, timecodeOf } from '@warper/core';
import { crossingWords } from '../timeline/ShotLane';

/** A cell of a table of comma-separated values (RFC 4180). */
const cell = (value: string | number): string => {
  const text = String(value);
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
};

/** The shots as comma-separated values, for a production's own tables. */
export function shotTable(scene: Scene, plan: Plan): string {
  const crossings = lineCrossings(plan);
  const head = [
    'Number',
    'Shot',
    'Camera',
    'Lens mm',
    'Start',
    'End',
    'Length',
    'Timecode',
    'Blend',
    'Comment',
    'Remark',
  ];
  const rows = plan.filming.shots.map((shot, i) => {
    const camera = scene.cameras[shot.camera];
    const crossing = crossings.find((c) => c.shot === shot.id);
    return [
      i + 1,
      shot.name,
      camera?.name ?? '',
      camera ? Number(cameraAt(plan, camera, shot.start, makeCameraPose()).lens.toFixed(2)) : '',
      shot.start,
      shot.end,
      shot.end - shot.start,
      timecodeOf(shot.start, plan.rate),
      shot.blend,
      shot.comment,
      crossing ? crossingWords(crossing, scene) : '',
    ];
  });
  return [head, ...rows].map((row) => `${row.map(cell).join(',')}\r\n`).join('');
}
