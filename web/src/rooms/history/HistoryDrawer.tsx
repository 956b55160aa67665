import { Button, Drawer } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Loaded } from '../../ui/Loading';
import { dayAndTime } from '../../ui/numbers';
import { useSend } from '../../ui/useSend';
import classes from './HistoryDrawer.module.css';
import { type Change, historyQuery, undoChange } from './queries';
import { entityWord } from './words';

const ACTION_WORDS: Record<string, string> = {
  create: 'added',
  update: 'changed',
  delete: 'deleted',
  restore: 'brought back',
  declare: 'declared in',
  take_back: 'declaration taken back in',
  close: 'closed',
  flip: 'flipped',
  correct_marks: 'marks entered again in',
  verdict_then: 'verdict noted before deleting a',
  renew_link: 'new link in',
  withdraw_link: 'link withdrawn in',
  add_taster: 'taster seated in',
  leave: 'taster left',
  come_back: 'taster came back to',
  open_pass: 'pass opened in',
  read_temperature: 'cup temperature read in',
  take_back_temperature: 'cup temperature taken back in',
  duplicate: 'duplicated',
  judged_again: 'verdict rule changed after the flip,',
  hold: 'held equal, which ended the declaration about',
  host_tastes: 'tasted by its host too,',
  open_pour_sheet: 'pour sheet opened,',
  host_saw_key: 'pour sheet seen by the host,',
  break_seal: 'seal broken,',
};

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
                  <b>
                    {entityWord(c.entity)} {ACTION_WORDS[c.action] ?? c.action}
                  </b>{' '}
                  <span className="quiet small">
                    {c.who ?? 'No name yet'}, {dayAndTime(c.at)}
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
  if (change.action === 'create' || change.action === 'delete') return null;
  const names = [...new Set([...Object.keys(change.before ?? {}), ...Object.keys(change.after ?? {})])].filter(
    (n) => n !== 'revision_id',
  );
  return (
    <ul className={classes.differences}>
      {names.map((name) => (
        <li key={name}>
          {name.replaceAll('_', ' ')}: <span className="num">{shown(change.before?.[name])}</span> →{' '}
          <span className="num">{shown(change.after?.[name])}</span>
        </li>
      ))}
    </ul>
  );
}

function shown(value: unknown): string {
  if (value === undefined || value === null || value === '') return '–';
  return typeof value === 'object' ? JSON.stringify(value).replace(/["{}[\]]/g, ' ') : String(value);
}
