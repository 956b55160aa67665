import { ActionIcon, Button, TextInput } from '@mantine/core';
import { IconPencil, IconX } from '@tabler/icons-react';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Refused } from '../../api/client';
import { Confirm } from '../../ui/Confirm';
import { useTellDeleted } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import classes from './People.module.css';
import { addPerson, type Person, peopleQuery, removePerson, renamePerson } from './queries';
import { useWho } from './useWho';

/** Who brews and tastes here: names only. */
export function PeopleCard() {
  const { data: people = [] } = useQuery(peopleQuery);
  const [renaming, setRenaming] = useState<string | null>(null);
  const { who, choose } = useWho();
  return (
    <section className={`card ${classes.people}`} aria-labelledby="people">
      <h2 id="people">People</h2>
      <ul>
        {people.map((p) => (
          <li key={p.id}>
            {renaming === p.id ? (
              <NameField
                label={`New name of ${p.name}`}
                begins={p.name}
                verb="Save"
                send={(name) => renamePerson(p.id, p.rev, name)}
                onDone={() => setRenaming(null)}
              />
            ) : (
              <PersonLine person={p} me={who === p.id} onMe={choose} onRename={() => setRenaming(p.id)} />
            )}
          </li>
        ))}
      </ul>
      {!people.length && <p className="quiet">Everybody who brews or tastes here, by first name.</p>}
      <NameField label="Name of a new person" begins="" verb="Add" send={addPerson} onDone={() => {}} />
    </section>
  );
}

type PersonLineProps = { person: Person; me: boolean; onMe: (id: string) => void; onRename: () => void };

function PersonLine({ person: p, me, onMe, onRename }: PersonLineProps) {
  const tellDeleted = useTellDeleted();
  const remove = useSend(() => removePerson(p.id), { onDone: (done) => tellDeleted('The person', done.change_id) });
  return (
    <>
      <span className={classes.name}>{p.name}</span>
      <Button
        variant={me ? 'light' : 'subtle'}
        size="compact-sm"
        aria-pressed={me}
        onClick={() => onMe(me ? '' : p.id)}
      >
        {me ? 'You' : 'This is me'}
      </Button>
      <ActionIcon variant="subtle" color="gray" size={44} aria-label={`Rename ${p.name}`} onClick={onRename}>
        <IconPencil size={17} />
      </ActionIcon>
      <Confirm
        question={`Remove ${p.name}?`}
        detail="Scores they gave stay where they are."
        verb="Remove"
        onYes={() => remove.mutate()}
      >
        {(askFirst) => (
          <ActionIcon variant="subtle" color="gray" size={44} aria-label={`Remove ${p.name}`} onClick={askFirst}>
            <IconX size={17} />
          </ActionIcon>
        )}
      </Confirm>
    </>
  );
}

type NameFieldProps = {
  label: string;
  begins: string;
  verb: string;
  send: (name: string) => Promise<unknown>;
  onDone: () => void;
};

/** One name, refused at its field. */
function NameField({ label, begins, verb, send, onDone }: NameFieldProps) {
  const [name, setName] = useState(begins);
  const [trouble, setTrouble] = useState<string>();
  const save = useSend(() => send(name), {
    onDone: () => {
      setName('');
      onDone();
    },
    onTrouble: (error) => {
      const said = error instanceof Refused ? error.at('name') : undefined;
      setTrouble(said);
      return said !== undefined;
    },
  });
  return (
    <form
      className={`${classes.adder} ${classes.name}`}
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <TextInput
        aria-label={label}
        placeholder="Name"
        value={name}
        maxLength={80}
        autoFocus={begins !== ''}
        error={trouble}
        onChange={(e) => {
          setName(e.currentTarget.value);
          setTrouble(undefined);
        }}
      />
      <Button type="submit" variant="default" loading={save.isPending} disabled={!name.trim()}>
        {verb}
      </Button>
    </form>
  );
}
