import { Link } from 'react-router';
import { PageHeader } from '../../parts/PageHeader';
import type { MeasureText } from '../../ui/measures';
import { FLOAT_TEXT, SEAM_TEXTS, limitsText } from '../../ui/measures';
import { PICTURES } from './pictures';

/** What every measure is, and how it is judged. */
export function MeasuresPage() {
  return (
    <div className="flex h-full flex-col">
      <PageHeader>
        <Link to="/" className="text-soft hover:text-ink">
          All scenes
        </Link>
      </PageHeader>
      <main tabIndex={0} className="min-h-0 flex-1 overflow-auto px-6 py-7">
        <div className="mx-auto max-w-[52rem]">
          <h1 className="text-display font-bold">How joins are measured</h1>
          <p className="mt-1 mb-6 max-w-[68ch] text-soft">
            Every seam is compared with the two clips that it joins: what they do by themselves is never held
            against it. The tag of a seam shows the measure that comes nearest to its limit. A seam is good
            below all limits.
          </p>
          {[...Object.values(SEAM_TEXTS), FLOAT_TEXT].map((text) => (
            <Measure key={text.name} text={text} />
          ))}
        </div>
      </main>
    </div>
  );
}

function Measure({ text }: { readonly text: MeasureText }) {
  const id = text.name.toLowerCase();
  return (
    <section
      id={id}
      aria-labelledby={`${id}-name`}
      className="grid grid-cols-[12rem_1fr] gap-6 border-t py-4 max-narrow:grid-cols-1"
    >
      <svg viewBox="0 0 180 72" className="w-full" aria-hidden>
        {PICTURES[text.name]}
      </svg>
      <div>
        <h2 id={`${id}-name`} className="text-title font-bold">
          {text.name} <span className="text-note font-normal text-soft">{text.unit}</span>
        </h2>
        <p>{text.what}</p>
        <p className="mt-1 text-soft">{text.how}</p>
        <p className="mt-1 text-note">
          <span className="text-watch">▲</span> {limitsText(text)}
        </p>
      </div>
    </section>
  );
}
