/** The words of a text, in small letters. */
const wordsOf = (text: string): string[] => text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];

/**
 * How well an entry answers a search: every word must begin a word of its name or of its other words; 0 where one does not.
 * An entry whose name has them all, in order, comes first.
 */
export function matchesWords(value: string, search: string, keywords: readonly string[] = []): number {
  const wanted = wordsOf(search);
  const name = wordsOf(value.replace(/ #\S*$/, ''));
  const others = wordsOf(keywords.join(' '));
  let score = 1;
  let from = 0;
  for (const word of wanted) {
    const at = name.findIndex((n) => n.startsWith(word));
    if (at < 0 && !others.some((o) => o.startsWith(word))) return 0;
    score *= at < 0 ? 0.4 : at < from ? 0.8 : name[at] === word ? 1 : 0.95;
    from = Math.max(from, at);
  }
  return score / (1 + name.length / 100);
}
