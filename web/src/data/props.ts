import { defined } from '@warper/core';
import type { PropLook } from '@warper/formats';
import { propFile } from '@warper/formats';
import { motion } from './motion';
import { keepRead } from './pageLibrary';

/**
 * Makes the body of a prop and keeps its file, as that of any other body; it is no body to choose for somebody who performs.
 *
 * @returns id of the body
 */
export async function keepProp(look: PropLook): Promise<string> {
  const read = await motion.read(await propFile(look), `${look.shape}.glb`);
  await keepRead({ ...read, bodies: [] });
  return defined(read.imported.bodies[0]).id;
}
