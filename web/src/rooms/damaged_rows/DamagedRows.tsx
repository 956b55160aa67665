import { Button, Group } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Confirm } from '../../ui/Confirm';
import { dayAndTime, plural } from '../../ui/numbers';
import { useSend } from '../../ui/useSend';
import { entityWord } from '../history/words';
import classes from './DamagedRows.module.css';
import { type Damaged, damagedQuery, putBack, removeDamaged } from './queries';

/** What could not be read and was set aside, with its ways back and out. */
export function DamagedRows() {
  const { data: damaged = [] } = useQuery(damagedQuery);
  if (!damaged.length) return null;
  return (
    <section className="card" aria-labelledby="damaged">
      <h2 id="damaged">Set aside: {plural(damaged.length, 'damaged row')}</h2>
      <p>
        The bench could not read these rows, so what they belong to is out of every list and every verdict. Everything
        else stands. An export leaves them out.
      </p>
      <ul className={classes.list}>
        {damaged.map((row) => (
          <Row key={row.id} row={row} />
        ))}
      </ul>
    </section>
  );
}

function Row({ row }: { row: Damaged }) {
  const back = useSend(putBack);
  const remove = useSend(removeDamaged);
  const where = row.column ? `${entityWord(row.kind)}, ${row.column.replaceAll('_', ' ')}` : 'its rows together';
  return (
    <li>
      <div>
        <b>{row.name[0]?.toUpperCase() + row.name.slice(1)}</b>
        <p className="quiet small">
          {where}: {row.why}. Set aside {dayAndTime(row.set_aside_at)}.
        </p>
      </div>
      <Group gap="xs">
        <Button component="a" href={`/api/v1/damaged-rows/${row.id}/rows.json`} download variant="default">
          Download
        </Button>
        {row.can_lose_the_value && (
          <Button
            variant="default"
            loading={back.isPending && back.variables.withoutValue}
            onClick={() => back.mutate({ id: row.id, withoutValue: true })}
          >
            Put back without the value
          </Button>
        )}
        {row.can_come_back && (
          <Button
            variant="default"
            loading={back.isPending && !back.variables.withoutValue}
            onClick={() => back.mutate({ id: row.id, withoutValue: false })}
          >
            Put back
          </Button>
        )}
        <Confirm
          question={`Remove ${row.name} for good?`}
          detail="With everything that belongs to it. This cannot be undone; download it first if in doubt."
          verb="Remove"
          onYes={() => remove.mutate(row.id)}
        >
          {(ask) => (
            <Button variant="subtle" color="red" loading={remove.isPending} onClick={ask}>
              Remove
            </Button>
          )}
        </Confirm>
      </Group>
    </li>
  );
}
