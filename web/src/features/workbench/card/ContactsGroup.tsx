import type { CharacterPlan, Contact, LayerLane, LayerValues } from '@warper/core';
import { CONTACT_HANDS, PLAIN_CONTACT, framesPerSecond, jointOfRole, roleWords } from '@warper/core';
import { useAppSelector } from '../../../store/store';
import { Button, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';

interface Props {
  readonly layer: LayerLane;
  readonly plan: CharacterPlan;
  readonly change: (values: LayerValues) => void;
}

/** Seconds for which a hand is held at first. */
const SECONDS = 2;

/** The hands that a layer holds where they are at a frame, while the rest of the body moves. */
export function ContactsGroup({ layer, plan, change }: Props) {
  const frame = useAppSelector((s) => s.session.frame);
  const { contacts } = layer;
  const hands = CONTACT_HANDS.filter((hand) => jointOfRole(plan.skeleton, hand) >= 0);
  if (hands.length === 0) return null;
  const hold = (hand: Contact['hand']): void => {
    const end = frame + Math.round(SECONDS * framesPerSecond(plan.rate));
    change({ contacts: [...contacts, { ...PLAIN_CONTACT, hand, start: frame, end }] });
  };
  const set = (index: number, values: Partial<Contact>): void =>
    change({ contacts: contacts.map((c, i) => (i === index ? { ...c, ...values } : c)) });
  return (
    <Group title="Held hands">
      {contacts.map((contact, i) => (
        <ContactFields
          key={i}
          contact={contact}
          set={(values) => set(i, values)}
          remove={() => change({ contacts: contacts.filter((_, k) => k !== i) })}
        />
      ))}
      <div className="flex flex-wrap gap-1.5">
        {hands.map((hand) => (
          <Button key={hand} onClick={() => hold(hand)}>
            Hold the {roleWords(hand)} from frame {frame}
          </Button>
        ))}
      </div>
    </Group>
  );
}

interface FieldsProps {
  readonly contact: Contact;
  readonly set: (values: Partial<Contact>) => void;
  readonly remove: () => void;
}

function ContactFields({ contact, set, remove }: FieldsProps) {
  const { hand, start, end, fadeIn, fadeOut } = contact;
  const words = roleWords(hand);
  const frames = { unit: 'f', least: 0 } as const;
  return (
    <div role="group" aria-label={`Held ${words}`} className="mb-1 flex flex-col gap-1 border-l-2 pl-2">
      <div className="flex items-baseline justify-between">
        <span>{words.replace(/^./, (first) => first.toUpperCase())}</span>
        <Button
          look="soft"
          className="text-note"
          aria-label={`Let go of the ${words} held from frame ${start}`}
          onClick={remove}
        >
          Remove
        </Button>
      </div>
      <NumberField
        label="From frame"
        unit="f"
        most={end - 1}
        value={start}
        onChange={(to) => set({ start: Math.round(to) })}
      />
      <NumberField
        label="To frame"
        unit="f"
        least={start + 1}
        value={end}
        onChange={(to) => set({ end: Math.round(to) })}
      />
      <NumberField
        label="Taken in"
        {...frames}
        value={fadeIn}
        onChange={(to) => set({ fadeIn: Math.round(to) })}
      />
      <NumberField
        label="Let go in"
        {...frames}
        value={fadeOut}
        onChange={(to) => set({ fadeOut: Math.round(to) })}
      />
    </div>
  );
}
