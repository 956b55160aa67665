import { ActionIcon, Button, TextInput } from '@mantine/core';
import { IconX } from '@tabler/icons-react';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Refused } from '../../api/client';
import { Confirm } from '../../ui/Confirm';
import { useTellDeleted } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import { addPerson, peopleQuery, removePerson } from '../people/queries';
import classes from './BenchPage.module.css';

/** Who brews and tastes here: names only. */
export function PeopleCard() {
  const { data: people = [] } = useQuery(peopleQuery);
  const [name, setName] = useState('');
  const [trouble, setTrouble] = useState<string>();
  const tellDeleted = useTellDeleted();
  const add = useSend(() => addPerson(name), {
    onDone: () => setName(''),
    onTrouble: (error) => {
      const said = error instanceof Refused ? error.at('name') : undefined;
      setTrouble(said);
      return said !== undefined;
    },
  });
  const remove = useSend((id: string) => removePerson(id), {
    onDone: (done) => tellDeleted('The person', done.change_id),
  });
  return (
    <div className="card">
      <h2>People</h2>
      <ul className={classes.people}>
        {people.map((p) => (
          <li key={p.id}>
            {p.name}
            <Confirm
              question={`Remove ${p.name}?`}
              detail="Scores they gave stay where they are."
              verb="Remove"
              onYes={() => remove.mutate(p.id)}
            >
              {(askFirst) => (
                <ActionIcon variant="subtle" color="gray" size={32} aria-label={`Remove ${p.name}`} onClick={askFirst}>
                  <IconX size={15} />
                </ActionIcon>
              )}
            </Confirm>
          </li>
        ))}
      </ul>
      <form
        className={classes.adder}
        onSubmit={(e) => {
          e.preventDefault();
          add.mutate();
        }}
      >
        <TextInput
          aria-label="Name of a new person"
          placeholder="Name"
          value={name}
          error={trouble}
          onChange={(e) => {
            setName(e.currentTarget.value);
            setTrouble(undefined);
          }}
        />
        <Button type="submit" variant="default" loading={add.isPending} disabled={!name.trim()}>
          Add
        </Button>
      </form>
    </div>
  );
}
