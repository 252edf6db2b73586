/** Work done in one round, and the rounds that are counted. */
const ROUNDS = 15;
const WARM_UP = 4;

/**
 * Times two pieces of work in turn, so that both meet the same machine, and prints the median of each and their ratio.
 *
 * @param unit what one of `count` pieces is called
 * @param rounds how often both are done
 */
export function compare(
  title: string,
  unit: string,
  count: number,
  ours: () => void,
  peer: { readonly name: string; readonly run: () => void },
  rounds = ROUNDS,
): void {
  for (let i = 0; i < Math.min(WARM_UP, rounds); i++) {
    ours();
    peer.run();
  }
  const times: [number[], number[]] = [[], []];
  for (let i = 0; i < rounds; i++) {
    times[0].push(timed(ours));
    times[1].push(timed(peer.run));
  }
  const ratios = times[1].map((t, i) => t / times[0][i]!).sort((a, b) => a - b);
  const median = (list: number[]): number => [...list].sort((a, b) => a - b)[list.length >> 1]!;
  const each = (list: number[]): string => `${((median(list) / count) * 1000).toFixed(2)} us a ${unit}`;
  console.log(title);
  console.log(`  Warper            ${each(times[0])}`);
  console.log(`  ${peer.name.padEnd(18)}${each(times[1])}`);
  console.log(
    `  ratio             ${ratios[ratios.length >> 1]!.toFixed(2)} times as fast (${ratios[0]!.toFixed(2)} to ${ratios.at(-1)!.toFixed(2)})\n`,
  );
}

function timed(work: () => void): number {
  const since = performance.now();
  work();
  return performance.now() - since;
}
