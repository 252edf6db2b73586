import type { ClipFacts } from '@warper/core';

/** A clip's main facts in a few words. */
export function describeFacts(facts: ClipFacts): string {
  const parts = [facts.travelMetres < 0.05 ? 'in place' : `${facts.travelMetres.toFixed(2)} m`];
  if (Math.abs(facts.turnDegrees) > 15) parts.push(`turns ${Math.round(facts.turnDegrees)}°`);
  if (facts.loop.verdict !== 'none' && facts.frames > 1)
    parts.push(facts.loop.verdict === 'closes' ? 'can be closed' : 'loops');
  return parts.join(' · ');
}
