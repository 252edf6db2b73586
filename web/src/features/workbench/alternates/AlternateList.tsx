import type { Alternate, Plan, Scene } from '@warper/core';
import { framesPerSecond } from '@warper/core';
import { useContinuity } from '../../../parts/continuity/useContinuity';
import { selectAlternates, versionNow } from '../../../store/alternates';
import { commit } from '../../../store/edits';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { CheckBox } from '../../../ui/CheckBox';
import { Button, Check } from '../../../ui/controls';
import { GradeMark, worstMeasure } from '../../../ui/grade';
import { OrderButtons } from '../../../ui/OrderButtons';
import { Select } from '../../../ui/Select';
import { TextField } from '../../../ui/TextField';
import { clock } from '../../../ui/time';
import { BelowSwitch } from '../BelowSwitch';
import { swapTo } from '../commands/alternateCommands';
import { commandOf } from '../commands/commands';
import { rankedSeams } from '../rankedSeams';
import { isSameScope, scopeInHand, scopeWords } from './newAlternate';

const COLUMNS = [
  '',
  'Alternate',
  'Comment',
  'May differ in',
  'Length',
  'Worst seam',
  'Continuity',
  'Seen beside',
  '',
];

/** The alternates of the scene with their measures beside each other. */
export function AlternateList() {
  const alternates = useAppSelector(selectAlternates);
  return (
    <section aria-label="Alternates" className="flex h-full min-h-0 flex-col border-t">
      <div className="relative min-h-0 flex-1 overflow-auto px-4">
        {alternates.length === 0 ? (
          <p className="max-w-2xl py-3 text-soft">
            No alternates yet. Select a beat, a region or nothing, and keep the scene as an alternate
            (Shift+S): you go on in another, and edits of what you selected stay in it. All other edits show
            in both. S swaps between them.
          </p>
        ) : (
          <table className="w-full text-left">
            <caption className="sr-only">Alternates of the scene and their measures</caption>
            <thead className="sticky top-0 z-10 bg-paper text-small text-soft">
              <tr>
                {COLUMNS.map((name, i) => (
                  <th key={i} scope="col" className="py-1 pr-3 font-normal whitespace-nowrap">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {alternates.map((alternate, i) => (
                <Row key={alternate.id} alternate={alternate} index={i} of={alternates.length} />
              ))}
            </tbody>
          </table>
        )}
      </div>
      <div className="flex h-[25px] shrink-0 items-center justify-between border-t">
        <BelowSwitch />
        <ListTools any={alternates.length > 0} />
      </div>
    </section>
  );
}

function ListTools({ any }: { readonly any: boolean }) {
  const dispatch = useAppDispatch();
  const everywhere = useAppSelector((s) => s.session.inAllAlternates);
  const comparison = useAppSelector((s) => s.session.comparison);
  return (
    <span className="flex items-center gap-3 px-4 text-small">
      {any && (
        <>
          <Check
            label="Edits change all alternates"
            checked={everywhere}
            onChange={(on) => dispatch(sessionActions.inAllAlternates(on))}
          />
          <Select
            label="How others are seen"
            className="py-0!"
            value={comparison}
            options={[
              ['side by side', 'Seen side by side'],
              ['ghosts', 'Seen as ghosts'],
            ]}
            onChange={(how) => dispatch(sessionActions.comparison(how))}
          />
        </>
      )}
      <Button look="quiet" className="py-0!" onClick={() => dispatch(commandOf('new alternate').run)}>
        New alternate
      </Button>
    </span>
  );
}

interface RowProps {
  readonly alternate: Alternate;
  readonly index: number;
  readonly of: number;
}

/** A row of the table: the scene in hand as it is, another alternate as it would be. */
function Row({ alternate, index, of }: RowProps) {
  const dispatch = useAppDispatch();
  const document = useAppSelector((s) => s.scene.document);
  const own = useAppSelector((s) => selectPreviewPlan(s).plan);
  const version = useAppSelector((s) => versionNow(s, alternate.id));
  const inHand = alternate.differences === null;
  const plan = version?.plan ?? own;
  const change = (values: Partial<Pick<Alternate, 'name' | 'comment'>>): void =>
    void dispatch(commit({ type: 'change alternate', alternate: alternate.id, values }));
  const order = (to: number): void =>
    void dispatch(commit({ type: 'order alternate', alternate: alternate.id, to }));
  const scene = version?.scene ?? document;
  if (!scene) return null;
  return (
    <tr className={`border-t align-baseline ${inHand ? 'bg-raised' : ''}`} aria-current={inHand || undefined}>
      <td className="pr-3 whitespace-nowrap">
        <OrderButtons name={alternate.name} {...{ index, of }} words={['up', 'down']} onOrder={order} />
      </td>
      <td className="min-w-36 pr-3">
        <TextField label="Name" bare value={alternate.name} onChange={(name) => change({ name })} />
      </td>
      <td className="w-1/4 pr-3">
        <TextField
          label={`Comment on ${alternate.name}`}
          bare
          placeholder="what speaks for it"
          value={alternate.comment}
          onChange={(comment) => change({ comment })}
        />
      </td>
      <td className="pr-3 whitespace-nowrap">
        {scopeWords(alternate.scope, scene)}
        <ScopeButton alternate={alternate} />
      </td>
      {version?.error ? (
        <td colSpan={3} className="pr-3 text-bad">
          {version.error.message}
        </td>
      ) : (
        <Measures plan={plan} scene={scene} />
      )}
      <td className="pr-3">
        {inHand ? <span className="font-semibold">in hand</span> : <BesideBox alternate={alternate} />}
      </td>
      <td className="whitespace-nowrap">
        <Hands alternate={alternate} />
      </td>
    </tr>
  );
}

/** Lets an alternate differ in what is selected. */
function ScopeButton({ alternate: { id, name, scope } }: { readonly alternate: Alternate }) {
  const dispatch = useAppDispatch();
  const document = useAppSelector((s) => s.scene.document);
  const selection = useAppSelector((s) => s.session.selection);
  if (!document) return null;
  const selected = scopeInHand(document, selection);
  const set = (): void => {
    if (dispatch(commit({ type: 'change alternate', alternate: id, values: { scope: selected } })))
      dispatch(sessionActions.announced(`${name} may differ in ${scopeWords(selected, document)}`));
  };
  if (isSameScope(selected, scope)) return null;
  return (
    <Button
      look="soft"
      className="block text-small"
      title={`To ${scopeWords(selected, document)}`}
      aria-label={`set to the selection, what ${name} may differ in`}
      onClick={set}
    >
      set to the selection
    </Button>
  );
}

/** How long it is, its worst seam, and what of it is to be looked at. */
function Measures({ plan, scene }: { readonly plan: Plan; readonly scene: Scene }) {
  const { items } = useContinuity(scene);
  const [worst] = rankedSeams(plan);
  const count = (grade: 'watch' | 'bad'): number => items?.filter((i) => i.grade === grade).length ?? 0;
  return (
    <>
      <td className="pr-3 whitespace-nowrap">{clock(plan.end, framesPerSecond(plan.rate))}</td>
      <td className="pr-3 whitespace-nowrap">
        {worst && (
          <>
            <GradeMark grade={worst.measures.grade} /> {worstMeasure(worst.measures)}{' '}
            <span className="text-soft">before {worst.segment.name}</span>
          </>
        )}
      </td>
      <td className="pr-3 whitespace-nowrap">
        {items &&
          (count('watch') + count('bad') === 0 ? (
            <GradeMark grade="good" word />
          ) : (
            <>
              {count('bad') > 0 && (
                <span className="mr-2">
                  <GradeMark grade="bad" /> {count('bad')} bad
                </span>
              )}
              {count('watch') > 0 && (
                <span>
                  <GradeMark grade="watch" /> {count('watch')} {count('watch') === 1 ? 'needs' : 'need'} a
                  look
                </span>
              )}
            </>
          ))}
      </td>
    </>
  );
}

function BesideBox({ alternate }: { readonly alternate: Alternate }) {
  const dispatch = useAppDispatch();
  const besides = useAppSelector((s) => s.session.besides);
  const isSeen = besides.includes(alternate.id);
  return (
    <CheckBox
      aria-label={`See ${alternate.name} beside the one in hand`}
      checked={isSeen}
      onChange={(on) =>
        dispatch(
          sessionActions.besides(on ? [...besides, alternate.id] : besides.filter((b) => b !== alternate.id)),
        )
      }
    />
  );
}

/** What can be done with one alternate. */
function Hands({ alternate: { id, name, differences } }: { readonly alternate: Alternate }) {
  const dispatch = useAppDispatch();
  const say = (text: string): void => void dispatch(sessionActions.announced(text));
  const keep = (): void => {
    if (dispatch(commit({ type: 'keep alternate', alternate: id }))) say(`Only ${name} is kept`);
  };
  const merge = (): void => {
    if (dispatch(commit({ type: 'merge alternate', alternate: id }))) say(`${name} merged back`);
  };
  const remove = (): void => {
    if (dispatch(commit({ type: 'remove alternate', alternate: id }))) say(`${name} thrown away`);
  };
  return (
    <span className="flex justify-end gap-2 text-small">
      {differences && (
        <>
          <Button look="soft" aria-label={`Take in hand: ${name}`} onClick={() => dispatch(swapTo(id))}>
            Take in hand
          </Button>
          <Button
            look="soft"
            aria-label={`Merge back: ${name}`}
            title="What may differ in it becomes that of the scene in hand, and it is gone"
            onClick={merge}
          >
            Merge back
          </Button>
        </>
      )}
      <Button
        look="soft"
        aria-label={`Keep only this: ${name}`}
        title="All others are thrown away"
        onClick={keep}
      >
        Keep only this
      </Button>
      {differences && (
        <Button look="soft" aria-label={`Throw ${name} away`} title="Throw away" onClick={remove}>
          ×
        </Button>
      )}
    </span>
  );
}
