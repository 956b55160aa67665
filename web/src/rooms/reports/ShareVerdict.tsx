import { Button, CopyButton, Modal } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { dayAndTime } from '../../ui/numbers';
import { useSend } from '../../ui/useSend';
import { LetIn } from '../people/LetIn';
import { isOnThisMachine } from '../tasting/reach';
import { shareVerdict, verdictLinksQuery, withdrawVerdictLink } from './queries';
import classes from './Report.module.css';

/** A read-only link to the verdict, for somebody without the bench; each can be withdrawn. */
export function ShareVerdict({ trialId }: { trialId: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button variant="default" onClick={() => setOpen(true)}>
        Share
      </Button>
      {open && <Links trialId={trialId} onClose={() => setOpen(false)} />}
    </>
  );
}

function Links({ trialId, onClose }: { trialId: string; onClose: () => void }) {
  const { data: links = [] } = useQuery(verdictLinksQuery(trialId));
  const [made, setMade] = useState<string | null>(null);
  const make = useSend(() => shareVerdict(trialId), { onDone: (done) => setMade(done.link) });
  const withdraw = useSend(withdrawVerdictLink, { onDone: () => setMade(null) });
  return (
    <Modal opened onClose={onClose} title="Share this verdict">
      <div className={classes.share}>
        <p>
          Whoever has the link reads this report as it stands, without the passphrase, and can change nothing. It is
          shown this once.
        </p>
        {made ? (
          <>
            <code className={classes.link}>{made}</code>
            <CopyButton value={made}>
              {({ copied, copy }) => <Button onClick={copy}>{copied ? 'Copied' : 'Copy the link'}</Button>}
            </CopyButton>
            {isOnThisMachine(made) && (
              <>
                <p className="quiet small">This link works on this machine alone.</p>
                <LetIn otherwise="Then make another link." />
              </>
            )}
          </>
        ) : (
          <Button loading={make.isPending} onClick={() => make.mutate()} data-autofocus>
            Make a read-only link
          </Button>
        )}
        {links.length > 0 && (
          <ul className={classes.links} aria-label="Links that work">
            {links.map((l) => (
              <li key={l.id}>
                made {dayAndTime(l.created_at)}
                <Button size="compact-sm" variant="subtle" onClick={() => withdraw.mutate(l.id)}>
                  Withdraw
                </Button>
              </li>
            ))}
          </ul>
        )}
      </div>
    </Modal>
  );
}
