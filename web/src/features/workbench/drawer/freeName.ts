/** A name that nobody has yet: with a number behind it where it is taken. */
export function freeName(name: string, taken: readonly string[]): string {
  const names = new Set(taken);
  let free = name;
  for (let n = 2; names.has(free); n++) free = `${name} ${n}`;
  return free;
}
