import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { dayAndTime } from '../../ui/numbers';
import { useSend } from '../../ui/useSend';
import classes from './HistoryDrawer.module.css';
import { deletedQuery, undoChange } from './queries';
import { deletedName, entityWord } from './words';

/** Trials and people whose delete can still be taken back. */
export function DeletedLately() {
  const { data: changes = [] } = useQuery(deletedQuery);
  const undo = useSend(undoChange);
  if (!changes.length) return null;
  return (
    <details className={classes.deleted}>
      <summary>Deleted lately</summary>
      <ul className={classes.list}>
        {changes.map((c) => (
          <li key={c.id}>
            <span>
              <b>{deletedName(c)}</b>{' '}
              <span className="quiet small">
                {entityWord(c.entity)}, by {c.who ?? 'No name yet'}, {dayAndTime(c.at)}
              </span>
            </span>
            <Button
              variant="default"
              loading={undo.isPending && undo.variables === c.id}
              onClick={() => undo.mutate(c.id)}
            >
              Bring back
            </Button>
          </li>
        ))}
      </ul>
    </details>
  );
}
