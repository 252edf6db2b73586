import { Command } from 'cmdk';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { shownChord } from './chords';
import { COMMAND_GROUPS, COMMANDS } from './commands';
import { FoundClips } from './FoundClips';
import { matchesWords } from './matchesWords';
import { keysOf } from './ownKeys';
import { PaletteGroup, PaletteItem } from './PaletteItem';
import { Places } from './Places';

interface Props {
  readonly open: boolean;
  readonly onClose: () => void;
  readonly onImport: () => void;
  readonly onKeys: () => void;
}

/** Everything that can be done or gone to, found by words of its name or their synonyms. */
export function Palette(props: Props) {
  const { open, onClose } = props;
  const [query, setQuery] = useState('');
  const close = (): void => {
    onClose();
    setQuery('');
  };
  return (
    <Command.Dialog
      open={open}
      onOpenChange={(o) => !o && close()}
      label="Commands"
      filter={matchesWords}
      overlayClassName="fixed inset-0 z-40 bg-ink/25"
      contentClassName="fixed top-[16vh] left-1/2 z-50 w-[36rem] max-w-[92vw] -translate-x-1/2 overflow-hidden rounded-lg border bg-raised shadow-lg"
    >
      <Command.Input
        placeholder="Search commands, clips and places"
        className="w-full border-b bg-transparent px-4 py-3 text-title outline-none placeholder:text-soft"
        value={query}
        onValueChange={setQuery}
      />
      <Command.List className="max-h-[50vh] overflow-y-auto p-2">
        <Entries {...props} onClose={close} query={query} />
      </Command.List>
    </Command.Dialog>
  );
}

function Entries({ onClose, onImport, onKeys, query }: Props & { readonly query: string }) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const own = useAppSelector((s) => s.session.ownKeys);
  const done =
    (act: () => unknown): (() => void) =>
    () => {
      onClose();
      act();
    };
  return (
    <>
      {COMMAND_GROUPS.map((group) => (
        <PaletteGroup key={group} title={group}>
          {COMMANDS.filter((c) => c.group === group).map((c) => (
            <PaletteItem
              key={c.id}
              name={c.name}
              words={`${c.words ?? ''} ${group}`}
              beside={keysOf(c, own).slice(0, 1).map(shownChord).join()}
              onSelect={done(() => dispatch(c.run))}
            />
          ))}
        </PaletteGroup>
      ))}
      <PaletteGroup title="Go to">
        <PaletteItem name="Import files" words="add open load bvh gltf glb" onSelect={done(onImport)} />
        <PaletteItem
          name="Keys"
          words="shortcuts settings help keyboard hotkeys"
          beside="?"
          onSelect={done(onKeys)}
        />
        <Places done={done} go={(path) => void navigate(path)} />
      </PaletteGroup>
      <FoundClips query={query} done={done} />
    </>
  );
}
