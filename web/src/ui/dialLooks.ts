import type { Dial } from '@warper/core';

/** What a dial is called, and how its value is written. */
interface DialLook {
  readonly label: string;
  readonly unit: string;
  /** Its unit in that of the dial. */
  readonly times: number;
  readonly digits: number;
  readonly step: number;
}

export const DIAL_LOOKS: Readonly<Record<Dial, DialLook>> = {
  clearance: { label: 'Arm clearance', unit: '°', times: 1, digits: 1, step: 1 },
  lean: { label: 'Lean', unit: '°', times: 1, digits: 1, step: 1 },
  crouch: { label: 'Crouch', unit: 'cm', times: 100, digits: 1, step: 1 },
  stance: { label: 'Stance width', unit: 'cm', times: 100, digits: 1, step: 1 },
  arms: { label: 'Arm amplitude', unit: '×', times: 1, digits: 2, step: 0.05 },
  trunk: { label: 'Trunk amplitude', unit: '×', times: 1, digits: 2, step: 0.05 },
};

export const DIAL_NAMES = Object.keys(DIAL_LOOKS) as Dial[];
