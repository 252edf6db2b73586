/** Says what is wrong with a setting of the environment, and ends. */
function refuse(message: string): never {
  console.error(message);
  process.exit(2);
}

/** The address of Redis; null where none is given. */
export function redisOf(text: string | undefined): string | null {
  if (text === undefined || text === '') return null;
  if (/^rediss?:\/\//.test(text) && URL.canParse(text)) return text;
  return refuse('REDIS_URL should be an address such as redis://localhost:6379.');
}

/** Bakes at a time; undefined where it is left to the machine. */
export function jobsOf(text: string | undefined): number | undefined {
  if (text === undefined || text === '') return undefined;
  const jobs = Number(text);
  if (Number.isInteger(jobs) && jobs >= 1 && jobs <= 256) return jobs;
  return refuse(`WARPER_JOBS is "${text}"; it should be a number from 1 to 256.`);
}

/** Tells that a service has started: one JSON document where WARPER_JSON asks for it, else a line to read. */
export function tellStarted(value: object, text: string): void {
  console.log(process.env.WARPER_JSON === '1' ? JSON.stringify(value) : text);
}
