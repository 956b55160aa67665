import { Button, Drawer } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Loaded } from '../../ui/Loading';
import { dayAndTime } from '../../ui/numbers';
import { useSend } from '../../ui/useSend';
import classes from './HistoryDrawer.module.css';
import { type Change, historyQuery, undoChange } from './queries';
import { deedOf, differencesOf } from './sentences';

/** Everything that was changed in a trial, newest first, with what stood before. */
export function HistoryDrawer({ trialId, onClose }: { trialId: string; onClose: () => void }) {
  const history = useQuery(historyQuery(trialId));
  const undo = useSend(undoChange);
  return (
    <Drawer opened onClose={onClose} position="right" title="History" closeButtonProps={{ 'aria-label': 'Close' }}>
      <Loaded query={history}>
        {(changes) => (
          <ol className={classes.list}>
            {changes.map((c) => (
              <li key={c.id}>
                <p>
                  <b>{deedOf(c)}</b>{' '}
                  <span className="quiet small">
                    {dayAndTime(c.at)}
                    {c.elsewhere && ', on another bench'}
                  </span>
                </p>
                <Differences change={c} />
                {c.can_undo && (
                  <Button
                    size="compact-sm"
                    variant="default"
                    loading={undo.isPending && undo.variables === c.id}
                    onClick={() => undo.mutate(c.id)}
                  >
                    Undo
                  </Button>
                )}
              </li>
            ))}
          </ol>
        )}
      </Loaded>
    </Drawer>
  );
}

function Differences({ change }: { change: Change }) {
  const lines = differencesOf(change);
  if (!lines.length) return null;
  return (
    <ul className={classes.differences}>
      {lines.map((line) => (
        <li key={line}>{line}</li>
      ))}
    </ul>
  );
}
